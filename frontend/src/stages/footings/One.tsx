import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, calculationAddress, type Drawing, type JobView } from "../../api/client";
import { queries } from "../../api/queries";
import type { Point } from "../../drawing/scale";
import { Sheet } from "../../drawing/Sheet";
import { PaperLinks } from "../../ui/PaperLinks";
import { Asked } from "../../ui/Asked";
import { Pointed } from "../../ui/Pointed";
import { SupportNumber } from "../../ui/SupportNumber";
import { Tables } from "../../ui/Tables";

/** One support by its number in the stakes: it in its layers, and its calculation as PDF. */
export function One({ view, above }: { view: JobView; above: Drawing | undefined }) {
  const [support, setSupport] = useState("1");
  const point = async ([east, north]: Point) => {
    const found = await api.footingAt(view.id, view.units, view.array, `${east.toFixed(2)} m, ${north.toFixed(2)} m`);
    if (found.support) setSupport(String(found.support));
  };
  return (
    <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1" data-one-support>
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 text-[14px] print:hidden">
        <SupportNumber value={support} change={setSupport} />
        {support && (
          <PaperLinks
            words="Its calculation, PDF:"
            address={(paper) => calculationAddress(view.id, view.array, support, paper, view.units)}
          />
        )}
      </div>
      {above && (
        <div className="h-[190px] shrink-0">
          <Sheet drawing={above} units={view.units}>
            {(scale) => <Pointed scale={scale} point={(at) => void point(at)} />}
          </Sheet>
        </div>
      )}
      {support && <Support view={view} support={support} />}
    </div>
  );
}

function Support({ view, support }: { view: JobView; support: string }) {
  const found = useQuery(queries.footing(view.id, view.draft.position, view.units, view.array, support));
  return (
    <Asked of={found} waiting="It is looked at…">
      {(data) => (
        <>
          {data.drawings.map((drawing) => (
            <div key={drawing.key} className="h-[340px] shrink-0 lg:h-[390px]">
              <Sheet drawing={drawing} units={view.units} />
            </div>
          ))}
          <Tables tables={data.tables} />
          <p className="text-secondary text-[13px]">{data.note}</p>
        </>
      )}
    </Asked>
  );
}
