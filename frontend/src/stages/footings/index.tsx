import { useState } from "react";
import { Sheet } from "../../drawing/Sheet";
import { Seen } from "../../ui/Seen";
import { Families } from "../Families";
import { StageLayout, type StageProps } from "../StageLayout";
import { Odds } from "./Odds";
import { Stopped } from "./Stopped";

const WAYS = [
  ["one", "One footing"],
  ["families", "Footings side by side"],
  ["odds", "What may go wrong"],
  ["stopped", "One that stopped"],
] as const;
type Way = (typeof WAYS)[number][0];

/**
 * One footing in its ground with what each load asks of it, the array on every
 * family of footing, what may go wrong, or every way on for one that stopped short.
 */
export function FootingsStage(props: StageProps) {
  const { view, job } = props;
  const [seen, setSeen] = useState<Way>("one");
  const [drawing] = view.stage.drawings;
  return (
    <StageLayout {...props}>
      <Seen ways={WAYS} seen={seen} see={setSeen} />
      {seen === "families" && <Families view={view} job={job} of="footings" />}
      {seen === "stopped" && <Stopped view={view} job={job} />}
      {seen === "odds" && <Odds view={view} />}
      {seen === "one" && (
        <div className="h-[340px] lg:h-auto lg:min-h-0 lg:flex-1">
          {drawing && <Sheet drawing={drawing} units={view.units} />}
        </div>
      )}
    </StageLayout>
  );
}
