import { DrawingOr } from "../OneDrawing";
import type { StageProps } from "../StageLayout";
import { Top } from "./Top";

/** One table with its lines and splices; a top that is off, and how it is levelled; in which order. */
export function FrameStage(props: StageProps) {
  return (
    <DrawingOr {...props} drawn="One table" asked="A top off its line" listed="In order" stepped="frame" tool={Top} />
  );
}
