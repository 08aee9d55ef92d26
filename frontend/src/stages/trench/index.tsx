import { useState } from "react";
import { templateAddress } from "../../api/client";
import { Sheet } from "../../drawing/Sheet";
import { PaperLinks } from "../../ui/PaperLinks";
import { Seen } from "../../ui/Seen";
import { Tables } from "../../ui/Tables";
import { usePrinting } from "../../ui/usePrinting";
import { StageLayout, type StageProps } from "../StageLayout";
import { FindWay } from "./FindWay";

/** Across the trench beside the way from above, and the way unrolled below; the wall from both sides. */
export function TrenchStage(props: StageProps) {
  const drawn = Object.fromEntries(props.view.stage.drawings.map((one) => [one.key, one]));
  const [across, route] = props.view.stage.drawings;
  const { along, wall } = drawn;
  const listed = props.view.stage.tables;
  const ways = [
    ["trench", "The trench"] as const,
    ...(listed.length > 0 ? [["parts", "Stretch by stretch"] as const] : []),
    ...(wall ? [["wall", "Through the wall"] as const] : []),
  ];
  const [seen, setSeen] = useState<"trench" | "parts" | "wall">("trench");
  const printing = usePrinting();
  const chosen = ways.some(([way]) => way === seen) ? seen : "trench";
  return (
    <StageLayout
      {...props}
      after={(group) =>
        group === "Finding a way" && props.view.role !== "viewer" ? <FindWay view={props.view} job={props.job} /> : null
      }
    >
      {ways.length > 1 && <Seen ways={ways} seen={chosen} see={setSeen} />}
      {(chosen === "parts" || printing) && (
        <div className="scroll-cue flex min-h-0 flex-1 flex-col overflow-y-auto pr-1">
          <Tables tables={listed} />
        </div>
      )}
      {wall && (chosen === "wall" || printing) && (
        <div className="h-[340px] lg:h-auto lg:min-h-0 lg:flex-1">
          <Sheet drawing={wall} units={props.view.units} />
        </div>
      )}
      {wall && chosen === "wall" && !printing && (
        <div className="shrink-0 text-[14px]">
          <PaperLinks
            words="To hold against the wall, at full size, PDF:"
            address={(paper) => templateAddress(props.view.id, props.view.array, paper, props.view.units)}
          />
        </div>
      )}
      {(chosen === "trench" || printing) && (
        <>
          <div className="flex min-h-0 flex-col gap-2 sm:flex-row lg:flex-[3]">
            <div className="h-[300px] min-h-0 flex-none sm:flex-1 lg:h-auto">
              {across && <Sheet drawing={across} units={props.view.units} />}
            </div>
            <div className="h-[300px] min-h-0 flex-none sm:flex-1 lg:h-auto">
              {route && <Sheet drawing={route} units={props.view.units} />}
            </div>
          </div>
          <div className="h-[200px] lg:h-auto lg:min-h-0 lg:flex-[2]">
            {along && <Sheet drawing={along} units={props.view.units} />}
          </div>
        </>
      )}
    </StageLayout>
  );
}
