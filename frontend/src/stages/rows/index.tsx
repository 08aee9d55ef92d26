import { useState } from "react";
import { Sheet } from "../../drawing/Sheet";
import { focusSoon } from "../../ui/focus";
import { StageLayout, type StageProps } from "../StageLayout";
import { TablesPlan } from "./TablesPlan";
import { listOf } from "./tables";

/** Across the rows, or the tables from above; a job of one array is given another from here. */
export function RowsStage(props: StageProps) {
  const { view, job, manageArrays } = props;
  const [across, above] = view.stage.drawings;
  const [open, setOpen] = useState<string | null>(null);
  const [oneByOne, setOneByOne] = useState(false);
  const list = listOf(view.stage);
  return (
    <StageLayout
      {...props}
      thing={{ open, setOpen, tools: () => null }}
      after={(group) =>
        group === "Place" && view.role !== "viewer" && view.arrays.length === 1 ? (
          <p className="px-2 py-1">
            <button type="button" className="btn btn-sm w-full" onClick={manageArrays}>
              Another array…
            </button>
          </p>
        ) : null
      }
    >
      <div className="flex gap-1 text-[12.5px] print:hidden" role="group" aria-label="Seen">
        {[across, above].map((drawing, index) => (
          <button
            key={drawing?.key}
            type="button"
            className={`min-h-8 border-b-2 px-2 pointer-coarse:min-h-11 ${
              oneByOne === (index === 1) ? "border-primary font-semibold" : "text-secondary border-transparent"
            }`}
            aria-pressed={oneByOne === (index === 1)}
            onClick={() => setOneByOne(index === 1)}
          >
            {index === 1 ? "Tables from above" : "Across the rows"}
          </button>
        ))}
      </div>
      <div className="flex h-[420px] flex-col gap-1 lg:h-auto lg:min-h-0 lg:flex-1">
        {oneByOne
          ? above &&
            list && (
              <TablesPlan
                view={view}
                job={job}
                drawing={above}
                list={list}
                open={(path) => {
                  setOpen(path);
                  focusSoon(`[data-thing="${path}"]`);
                }}
              />
            )
          : across && <Sheet drawing={across} units={view.units} />}
      </div>
    </StageLayout>
  );
}
