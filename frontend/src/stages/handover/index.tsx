import { Sheet } from "../../drawing/Sheet";
import { Tables } from "../../ui/Tables";
import { StageLayout, type StageProps } from "../StageLayout";
import { Links } from "./Links";
import { Papers } from "./Papers";

/** What is handed over: papers, who may look, what was inspected, which serial sits where, what it wants. */
export function HandOverStage(props: StageProps) {
  const { view } = props;
  const [serials] = view.stage.drawings;
  return (
    <StageLayout
      {...props}
      given={
        <>
          <Papers view={view} />
          <Links id={view.id} readOnly={view.role === "viewer"} />
        </>
      }
    >
      <div
        className="flex flex-col gap-3 lg:min-h-0 lg:overflow-y-auto"
        tabIndex={0}
        aria-label="What is handed over"
        role="group"
      >
        <Tables tables={view.stage.tables} />
        <div className="h-[340px] shrink-0 lg:h-[380px]">
          {serials && <Sheet drawing={serials} units={view.units} />}
        </div>
      </div>
    </StageLayout>
  );
}
