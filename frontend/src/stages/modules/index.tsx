import { DrawingOr } from "../OneDrawing";
import type { StageProps } from "../StageLayout";
import { Drift } from "./Drift";

/** One table square to the glass; a row that climbs, and the gaps that bring it back. */
export function ModulesStage(props: StageProps) {
  return <DrawingOr {...props} drawn="On the frame" asked="Off the string" listed="Bonding" tool={Drift} />;
}
