import { useState } from "react";
import { Sheet } from "../../drawing/Sheet";
import { Seen } from "../../ui/Seen";
import { focusSoon } from "../../ui/focus";
import { StageLayout, type StageProps } from "../StageLayout";
import { FillDialog } from "./FillDialog";
import { PitchSchools } from "./PitchSchools";
import { Shadows } from "./Shadows";
import { TablesPlan } from "./TablesPlan";
import { listOf } from "./tables";

const WAYS = [
  ["across", "Across the rows"],
  ["above", "Tables from above"],
  ["shadows", "Shade"],
  ["pitch", "Pitch"],
] as const;
type Way = (typeof WAYS)[number][0];

/** Across the rows, the tables from above, or what a pitch earns; a job of one array is given another from here. */
export function RowsStage(props: StageProps) {
  const { view, job, manageArrays } = props;
  const [across, above] = view.stage.drawings;
  const [open, setOpen] = useState<string | null>(null);
  const [filling, setFilling] = useState(false);
  const [seen, setSeen] = useState<Way>("across");
  const list = listOf(view.stage);
  return (
    <StageLayout
      {...props}
      thing={{ open, setOpen, tools: () => null }}
      after={(group) =>
        group === "Rows" && view.role !== "viewer" && !view.arrays.find(({ id }) => id === view.array)?.standing ? (
          <p className="px-2 py-1">
            <button
              type="button"
              className="btn btn-sm w-full pointer-coarse:min-h-11"
              onClick={() => setFilling(true)}
            >
              Fill the ground…
            </button>
          </p>
        ) : group === "Place" && view.role !== "viewer" && view.arrays.length === 1 ? (
          <p className="px-2 py-1">
            <button type="button" className="btn btn-sm w-full" onClick={manageArrays}>
              Another array…
            </button>
          </p>
        ) : null
      }
    >
      {filling && <FillDialog view={view} job={job} close={() => setFilling(false)} />}
      <Seen ways={WAYS} seen={seen} see={setSeen} />
      {seen === "pitch" && <PitchSchools view={view} job={job} />}
      <div
        className={`flex h-[420px] flex-col gap-1 lg:h-auto lg:min-h-0 lg:flex-1 ${seen === "pitch" ? "hidden" : ""}`}
      >
        {seen === "above" ? (
          above &&
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
        ) : seen === "shadows" ? (
          <Shadows view={view} />
        ) : (
          seen === "across" && across && <Sheet drawing={across} units={view.units} />
        )}
      </div>
    </StageLayout>
  );
}
