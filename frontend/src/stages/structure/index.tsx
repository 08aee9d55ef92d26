import { Sheet } from "../../drawing/Sheet";
import { StageLayout, type StageProps } from "../StageLayout";

/** One bent where it is pressed and where it is lifted hardest; under it, how a purlin bends. */
export function StructureStage(props: StageProps) {
  const bents = props.view.stage.drawings.slice(0, -1);
  const moments = props.view.stage.drawings.at(-1);
  return (
    <StageLayout {...props}>
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
    </StageLayout>
  );
}
