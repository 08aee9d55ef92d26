import { useState } from "react";
import { api } from "../../api/client";
import { Sheet } from "../../drawing/Sheet";
import { Seen } from "../../ui/Seen";
import { TableView } from "../../ui/TableView";
import { Tables } from "../../ui/Tables";
import { TakenFile } from "../../ui/TakenFile";
import { StageLayout, type StageProps } from "../StageLayout";

const WAYS = [
  ["list", "What to buy"],
  ["cuts", "What is cut"],
] as const;
const COSTS = ["costs", "What it costs"] as const;
type Way = (typeof WAYS)[number][0] | "costs";

/** The list; how the purlin sticks are cut; what it costs, once anything has a price. */
export function MaterialsStage(props: StageProps) {
  const { view, job } = props;
  const [seen, setSeen] = useState<Way>("list");
  const [cutting] = view.stage.drawings;
  const [list, cuts, ...costs] = view.stage.tables;
  const priced = costs.length > 0;
  const shown = seen === "costs" && !priced ? "list" : seen;
  const table = shown === "cuts" ? cuts : list;
  return (
    <StageLayout
      {...props}
      after={(group) =>
        group === "Prices" && view.role !== "viewer" ? (
          <TakenFile view={view} job={job} words="Prices from a file" accept=".csv,.txt" take={api.takePrices} />
        ) : null
      }
    >
      <Seen ways={priced ? [...WAYS, COSTS] : WAYS} seen={shown} see={setSeen} />
      {shown !== "costs" && (
        <>
          <div className="min-h-0 lg:flex-[5]">{table && <TableView table={table} />}</div>
          <div className="h-[160px] lg:h-auto lg:min-h-0 lg:flex-[4]">
            {cutting && <Sheet drawing={cutting} units={view.units} />}
          </div>
        </>
      )}
      {shown === "costs" && (
        <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1">
          <Tables tables={costs} />
        </div>
      )}
    </StageLayout>
  );
}
