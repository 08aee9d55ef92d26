import { DrawingOr } from "../OneDrawing";
import type { StageProps } from "../StageLayout";
import { Top } from "./Top";

/** One table with its lines and splices; a post's top that is off, and how it is levelled. */
export function FrameStage(props: StageProps) {
  return <DrawingOr {...props} drawn="One table" asked="A top off its line" tool={Top} />;
}
