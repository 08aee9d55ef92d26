import { Sheet } from "../../drawing/Sheet";
import { StageLayout, type StageProps } from "../StageLayout";
import { FindWay } from "./FindWay";

/** Across the trench beside the way from above, and the way unrolled below. */
export function TrenchStage(props: StageProps) {
  const [across, route, along] = props.view.stage.drawings;
  return (
    <StageLayout
      {...props}
      after={(group) =>
        group === "Finding a way" && props.view.role !== "viewer" ? <FindWay view={props.view} job={props.job} /> : null
      }
    >
      <div className="flex min-h-0 flex-col gap-2 sm:flex-row lg:flex-[3]">
        <div className="h-[300px] min-h-0 flex-none sm:flex-1 lg:h-auto">
          {across && <Sheet drawing={across} units={props.view.units} />}
        </div>
        <div className="h-[300px] min-h-0 flex-none sm:flex-1 lg:h-auto">
          {route && <Sheet drawing={route} units={props.view.units} />}
        </div>
      </div>
      <div className="h-[200px] lg:h-auto lg:min-h-0 lg:flex-[2]">
        {along && <Sheet drawing={along} units={props.view.units} />}
      </div>
    </StageLayout>
  );
}
