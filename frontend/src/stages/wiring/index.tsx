import { useState } from "react";
import { Sheet } from "../../drawing/Sheet";
import { EnergyView } from "../../ui/EnergyView";
import { Seen } from "../../ui/Seen";
import { Tables } from "../../ui/Tables";
import { usePrinting } from "../../ui/usePrinting";
import { StageLayout, type StageProps } from "../StageLayout";

const WAYS = [
  ["strings", "Strings"],
  ["shade", "Shade"],
  ["one-line", "One line"],
  ["on-wall", "Wall"],
  ["wires", "Wires"],
  ["readings", "Readings"],
  ["signs", "Signs"],
] as const;
type Way = (typeof WAYS)[number][0];

const LISTS: readonly Way[] = ["on-wall", "wires", "readings", "signs"];

// Three lines of words stand beside each thing of the one line: it is as high as they want. The wall is as wide as its
// measures want, and is pushed aside under a thumb, with its measures as a list below; at a desk it says them itself.
const HOLDS: Record<string, string> = {
  "one-line": "scroll-cue lg:min-h-0 lg:flex-1 lg:overflow-y-auto print:overflow-visible",
  "on-wall": "h-[380px] shrink-0 overflow-x-auto lg:h-auto lg:min-h-0 lg:flex-1 print:overflow-visible",
};
const WANTS: Record<string, string> = { "one-line": "h-[700px]", "on-wall": "h-full min-w-[700px] lg:min-w-0" };

/** Strings on the modules, and what shade they share; circuits as one line and as a list; the wall; what a meter reads; signs on what. */
export function WiringStage(props: StageProps) {
  const { view } = props;
  const [seen, setSeen] = useState<Way>("strings");
  const printing = usePrinting();
  const { drawings, tables } = view.stage;
  // A wall of which nothing was said has no drawing.
  const walled = drawings.some(({ key }) => key === "on-wall");
  const ways = WAYS.filter(([way]) => way !== "on-wall" || walled);
  const shown = seen === "on-wall" && !walled ? "strings" : seen;
  return (
    <StageLayout {...props}>
      <Seen ways={ways} seen={shown} see={setSeen} />
      {shown === "shade" && !printing && <EnergyView view={view} job={props.job} of="strings" />}
      {drawings.map(
        (drawing) =>
          (printing || drawing.key === shown) && (
            <div
              key={drawing.key}
              tabIndex={drawing.key in HOLDS ? 0 : undefined}
              className={HOLDS[drawing.key] ?? "h-[340px] shrink-0 lg:h-auto lg:min-h-0 lg:flex-1"}
            >
              <div className={WANTS[drawing.key] ?? "h-full"}>
                <Sheet drawing={drawing} units={view.units} />
              </div>
            </div>
          ),
      )}
      {(printing || LISTS.includes(shown)) && (
        <div
          className={`scroll-cue min-h-0 overflow-y-auto pr-1 ${shown === "on-wall" ? "lg:hidden print:block" : "flex-1"}`}
        >
          <Tables tables={tables.filter(({ key }) => printing || key.startsWith(shown))} />
        </div>
      )}
    </StageLayout>
  );
}
