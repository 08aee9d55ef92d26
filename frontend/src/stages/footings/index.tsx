import { useState } from "react";
import { Sheet } from "../../drawing/Sheet";
import { Charts } from "../../ui/Charts";
import { Seen } from "../../ui/Seen";
import { Tables } from "../../ui/Tables";
import { Families } from "../Families";
import { StageLayout, type StageProps } from "../StageLayout";
import { Odds } from "./Odds";
import { One } from "./One";
import { Stopped } from "./Stopped";

const TESTED = ["tested", "What was tested"] as const;
const WAYS = [
  ["one", "One footing"],
  ["support", "One support"],
  ["families", "Footings side by side"],
  ["odds", "What may go wrong"],
  ["stopped", "One that stopped"],
] as const;
type Way = (typeof WAYS)[number][0] | "tested";

/**
 * One footing in its ground with what each load asks of it, one support in its layers, the array on every
 * family of footing, what may go wrong, every way on for one that stopped short, or
 * what posts held that were tested.
 */
export function FootingsStage(props: StageProps) {
  const { view, job } = props;
  const [seen, setSeen] = useState<Way>("one");
  const [drawing, above, ...tested] = view.stage.drawings;
  const shown = seen === "tested" && tested.length === 0 ? "one" : seen;
  return (
    <StageLayout {...props}>
      <Seen ways={tested.length > 0 ? [...WAYS, TESTED] : WAYS} seen={shown} see={setSeen} />
      {seen === "families" && <Families view={view} job={job} of="footings" />}
      {seen === "support" && <One view={view} above={above} />}
      {seen === "stopped" && <Stopped view={view} job={job} />}
      {seen === "odds" && <Odds view={view} job={job} />}
      {shown === "tested" && (
        <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1">
          <Charts drawings={tested} units={view.units} of="tested" />
          <Tables tables={view.stage.tables} />
        </div>
      )}
      {shown === "one" && (
        <div className="h-[340px] lg:h-auto lg:min-h-0 lg:flex-1">
          {drawing && <Sheet drawing={drawing} units={view.units} />}
        </div>
      )}
    </StageLayout>
  );
}
