import { Sheet } from "../../drawing/Sheet";
import { StageLayout, type StageProps } from "../StageLayout";

/** One table from its side with what it asks of its post; under it, how a purlin bends. */
export function StructureStage(props: StageProps) {
  const [reactions, moments] = props.view.stage.drawings;
  return (
    <StageLayout {...props}>
      <div className="h-[340px] lg:h-auto lg:min-h-0 lg:flex-[7]">
        {reactions && <Sheet drawing={reactions} units={props.view.units} />}
      </div>
      <div className="h-[150px] lg:h-auto lg:min-h-0 lg:flex-[3]">
        {moments && <Sheet drawing={moments} units={props.view.units} />}
      </div>
    </StageLayout>
  );
}
