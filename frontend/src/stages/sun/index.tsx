import { useState, type ComponentProps } from "react";
import { api } from "../../api/client";
import { Sheet } from "../../drawing/Sheet";
import { EnergyView } from "../../ui/EnergyView";
import { Seen } from "../../ui/Seen";
import { TakenFile } from "../../ui/TakenFile";
import { TableView } from "../../ui/TableView";
import { StageLayout, type StageProps } from "../StageLayout";
import { Around } from "./Around";
import "./slip.css";

/** On paper only the slip: it goes into a pocket. */
function printSlip() {
  document.documentElement.dataset.print = "slip";
  window.addEventListener("afterprint", () => delete document.documentElement.dataset.print, { once: true });
  window.print();
}

/** Years that are brought by file, by the group of givens that they stand in. */
const files: Record<string, Pick<ComponentProps<typeof TakenFile>, "words" | "accept" | "take">> = {
  Weather: { words: "Weather file", accept: ".epw,.csv", take: api.takeWeather },
  "Who uses it": { words: "Meter's file", accept: ".csv,.txt", take: api.takeLoad },
};

const WAYS = [
  ["directions", "Directions"],
  ["year", "The year"],
  ["tilt", "Tilt"],
  ["around", "What stands around"],
] as const;
type Way = (typeof WAYS)[number][0];

/** Where the sun stands, the string with a pole's shadow on it, and the slip of the day's shadows; what a year brings. */
export function SunStage(props: StageProps) {
  const { view, job } = props;
  const [sky, string] = view.stage.drawings;
  const [seen, see] = useState<Way>("directions");
  const slip = view.stage.tables.find((table) => table.key === "shadows");
  return (
    <StageLayout
      {...props}
      after={(group) =>
        files[group] && view.role !== "viewer" ? <TakenFile view={view} job={job} {...files[group]} /> : null
      }
    >
      <Seen ways={WAYS} seen={seen} see={see} />
      {seen === "around" ? (
        <Around view={view} job={job} />
      ) : seen !== "directions" ? (
        <EnergyView view={view} job={job} of={seen} />
      ) : (
        <>
          <div className="h-[240px] lg:h-auto lg:min-h-0 lg:flex-[3]">
            {sky && <Sheet drawing={sky} units={view.units} />}
          </div>
          <div className="flex min-h-0 flex-col gap-2 sm:flex-row lg:flex-[3]">
            <div className="h-[280px] min-w-0 flex-1 lg:h-auto">
              {string && <Sheet drawing={string} units={view.units} />}
            </div>
            {slip && (
              <div className="slip flex min-h-0 min-w-0 flex-[1.4] flex-col">
                <p className="flex items-baseline gap-2 pb-1">
                  <span className="font-semibold">
                    {slip.title} <span className="slip-job">{view.name}</span>
                  </span>
                  <button type="button" className="btn btn-sm slip-hidden ml-auto" onClick={printSlip}>
                    Print
                  </button>
                </p>
                <div className="min-h-0 flex-1">
                  <TableView table={slip} />
                </div>
              </div>
            )}
          </div>
        </>
      )}
    </StageLayout>
  );
}
