import { Sheet } from "../../drawing/Sheet";
import { StageLayout, type StageProps } from "../StageLayout";
import { RouteHandles } from "./RouteHandles";

/** The site from above; the bends of the trench are moved where a hand would point. */
export function SiteStage(props: StageProps) {
  const { view, job } = props;
  const [drawing] = view.stage.drawings;
  // The way begins at a post, which is not moved by hand.
  const bends = drawing?.marks.find((mark) => mark.layer === "pipe")?.points.slice(1) ?? [];
  return (
    <StageLayout {...props}>
      <div className="h-[340px] lg:h-full lg:min-h-0">
        {drawing && (
          <Sheet drawing={drawing} units={view.units}>
            {(scale) => view.role !== "viewer" && <RouteHandles points={bends} scale={scale} move={(text) => job.type("site.route", text)} />}
          </Sheet>
        )}
      </div>
    </StageLayout>
  );
}
