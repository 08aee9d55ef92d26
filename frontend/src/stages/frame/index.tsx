import { useState } from "react";
import { Sheet } from "../../drawing/Sheet";
import { Seen } from "../../ui/Seen";
import { StageLayout, type StageProps } from "../StageLayout";
import { Top } from "./Top";

const WAYS = [
  ["frame", "One table"],
  ["top", "A top off its line"],
] as const;

/** One table with its lines and splices; a post's top that is off, and how it is levelled. */
export function FrameStage(props: StageProps) {
  const { view } = props;
  const [seen, setSeen] = useState<(typeof WAYS)[number][0]>("frame");
  const [drawing] = view.stage.drawings;
  return (
    <StageLayout {...props}>
      <Seen ways={WAYS} seen={seen} see={setSeen} />
      {seen === "top" ? (
        <Top key={view.array} view={view} />
      ) : (
        <div className="h-[340px] lg:h-auto lg:min-h-0 lg:flex-1">
          {drawing && <Sheet drawing={drawing} units={view.units} />}
        </div>
      )}
    </StageLayout>
  );
}
