import { useState } from "react";
import { Sheet } from "../../drawing/Sheet";
import { Seen } from "../../ui/Seen";
import { StageLayout, type StageProps } from "../StageLayout";
import { Families } from "./Families";

const WAYS = [
  ["bent", "Bent"],
  ["families", "Families side by side"],
] as const;
type Way = (typeof WAYS)[number][0];

/** One bent at its worst and how a purlin bends, or the array on every family. */
export function StructureStage(props: StageProps) {
  const [seen, setSeen] = useState<Way>("bent");
  const bents = props.view.stage.drawings.slice(0, -1);
  const moments = props.view.stage.drawings.at(-1);
  return (
    <StageLayout {...props}>
      <Seen ways={WAYS} seen={seen} see={setSeen} />
      {seen === "families" ? (
        <Families view={props.view} job={props.job} />
      ) : (
        <>
          <div className="flex flex-col gap-2 lg:min-h-0 lg:flex-[11] lg:flex-row">
            {bents.map((drawing) => (
              <div key={drawing.key} className="h-[300px] lg:h-auto lg:min-w-0 lg:flex-1">
                <Sheet drawing={drawing} units={props.view.units} />
              </div>
            ))}
          </div>
          <div className="h-[150px] lg:h-auto lg:min-h-0 lg:flex-[6]">
            {moments && <Sheet drawing={moments} units={props.view.units} />}
          </div>
        </>
      )}
    </StageLayout>
  );
}
