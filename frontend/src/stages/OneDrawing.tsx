import { Sheet } from "../drawing/Sheet";
import { StageLayout, type StageProps } from "./StageLayout";

/** The screen of a stage that is judged by one drawing. */
export function OneDrawing(props: StageProps) {
  const [drawing] = props.view.stage.drawings;
  return (
    <StageLayout {...props}>
      <div className="h-[340px] lg:h-full lg:min-h-0">
        {drawing && <Sheet drawing={drawing} units={props.view.units} />}
      </div>
    </StageLayout>
  );
}
