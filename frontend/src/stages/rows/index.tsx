import { Sheet } from "../../drawing/Sheet";
import { StageLayout, type StageProps } from "../StageLayout";

/** Across the rows; a job of one array is given another from here. */
export function RowsStage(props: StageProps) {
  const { view, manageArrays } = props;
  const [drawing] = view.stage.drawings;
  return (
    <StageLayout
      {...props}
      after={(group) =>
        group === "Place" && view.role !== "viewer" && view.arrays.length === 1 ? (
          <p className="px-2 py-1">
            <button type="button" className="btn btn-sm w-full" onClick={manageArrays}>
              Another array…
            </button>
          </p>
        ) : null
      }
    >
      <div className="h-[340px] lg:h-full lg:min-h-0">{drawing && <Sheet drawing={drawing} units={view.units} />}</div>
    </StageLayout>
  );
}
