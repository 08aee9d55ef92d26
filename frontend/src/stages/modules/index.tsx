import { useState } from "react";
import { Sheet } from "../../drawing/Sheet";
import { Seen } from "../../ui/Seen";
import { StageLayout, type StageProps } from "../StageLayout";
import { Drift } from "./Drift";

const WAYS = [
  ["table", "On the frame"],
  ["drift", "Off the string"],
] as const;

/** One table square to the glass; a row that climbs, and the gaps that bring it back. */
export function ModulesStage(props: StageProps) {
  const { view } = props;
  const [seen, setSeen] = useState<(typeof WAYS)[number][0]>("table");
  const [drawing] = view.stage.drawings;
  return (
    <StageLayout {...props}>
      <Seen ways={WAYS} seen={seen} see={setSeen} />
      {seen === "drift" ? (
        <Drift key={view.array} view={view} />
      ) : (
        <div className="h-[340px] lg:h-auto lg:min-h-0 lg:flex-1">
          {drawing && <Sheet drawing={drawing} units={view.units} />}
        </div>
      )}
    </StageLayout>
  );
}
