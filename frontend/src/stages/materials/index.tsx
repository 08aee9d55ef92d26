import { useState } from "react";
import { api } from "../../api/client";
import { Sheet } from "../../drawing/Sheet";
import { Seen } from "../../ui/Seen";
import { TableView } from "../../ui/TableView";
import { Tables } from "../../ui/Tables";
import { TakenFile } from "../../ui/TakenFile";
import { usePrinting } from "../../ui/usePrinting";
import { StageLayout, type StageProps } from "../StageLayout";

const WAYS = [
  ["list", "What to buy"],
  ["tree", "As a tree"],
  ["saw", "At the saw"],
  ["loads", "On the truck"],
] as const;
const COSTS = ["costs", "What it costs"] as const;
type Way = (typeof WAYS)[number][0] | "costs";
const AT_THE_SAW = ["sticks", "cuts", "bundles"];
const OF_COSTS = ["costs", "priced"];
/** A stick takes so much of the sheet's height, its title and legend so much. */
const STICK_PX = 34;
const AROUND_PX = 84;

/** The list; the sticks of each profile and their cuts; the loads; what it costs, once anything has a price. */
export function MaterialsStage(props: StageProps) {
  const { view, job } = props;
  const [seen, setSeen] = useState<Way>("list");
  const tables = view.stage.tables;
  const list = tables.find(({ key }) => key === "materials");
  const loads = tables.filter(({ key }) => key.startsWith("load-"));
  const costs = tables.filter(({ key }) => OF_COSTS.includes(key));
  const priced = costs.length > 0;
  const chosen = seen === "costs" && !priced ? "list" : seen;
  const printing = usePrinting();
  const shows = (way: Way) => printing || chosen === way;
  return (
    <StageLayout
      {...props}
      after={(group) =>
        view.role === "viewer" ? null : group === "Prices" ? (
          <TakenFile view={view} job={job} words="Prices from a file" accept=".csv,.txt,.xlsx" take={api.takePrices} />
        ) : group === "Own profiles" ? (
          <TakenFile
            view={view}
            job={job}
            words="Profiles from a file"
            accept=".csv,.txt,.xlsx"
            take={api.takeProfiles}
          />
        ) : null
      }
    >
      <Seen ways={priced ? [...WAYS, COSTS] : WAYS} seen={chosen} see={setSeen} />
      {shows("list") && <div className="min-h-0 flex-1">{list && <TableView table={list} />}</div>}
      {shows("tree") && (
        <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1">
          <Tables tables={tables.filter(({ key }) => key === "tree")} />
        </div>
      )}
      {shows("saw") && (
        <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1">
          {view.stage.drawings.map((drawing) => (
            <div
              key={drawing.key}
              className="shrink-0"
              style={{ height: AROUND_PX + STICK_PX * Math.round(drawing.high[1] - drawing.low[1]) }}
            >
              <Sheet drawing={drawing} units={view.units} />
            </div>
          ))}
          <Tables tables={tables.filter(({ key }) => AT_THE_SAW.includes(key))} />
        </div>
      )}
      {shows("loads") && (
        <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1">
          <p className="text-secondary text-[14px]">
            {loads.length > 0
              ? "What a delivery was said for comes with it. All else rides on the own truck, on the morning of the work that begins with it. It is counted off on the phone, in the field book."
              : "Loads have their days when the job has."}
          </p>
          <Tables tables={loads} />
        </div>
      )}
      {priced && shows("costs") && (
        <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1">
          <Tables tables={costs} />
        </div>
      )}
    </StageLayout>
  );
}
