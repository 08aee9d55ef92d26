import { Sheet } from "../../drawing/Sheet";
import { StageLayout, type StageProps } from "../StageLayout";

/** The row from the front, and under it, on the same stations, how a purlin bends. */
export function FrameStage(props: StageProps) {
  const [elevation, moments] = props.view.stage.drawings;
  return (
    <StageLayout {...props}>
      <div className="h-[220px] lg:h-auto lg:min-h-0 lg:flex-[3]">{elevation && <Sheet drawing={elevation} units={props.view.units} />}</div>
      <div className="h-[180px] lg:h-auto lg:min-h-0 lg:flex-[2]">{moments && <Sheet drawing={moments} units={props.view.units} />}</div>
    </StageLayout>
  );
}
