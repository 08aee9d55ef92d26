import { Sheet } from "../../drawing/Sheet";
import { TableView } from "../../ui/TableView";
import { StageLayout, type StageProps } from "../StageLayout";

/** The list first; below it how the purlin sticks are cut. */
export function MaterialsStage(props: StageProps) {
  const [cutting] = props.view.stage.drawings;
  const [list, cuts] = props.view.stage.tables;
  return (
    <StageLayout {...props}>
      <div className="min-h-0 lg:flex-[5]">{list && <TableView table={list} />}</div>
      <div className="min-h-0 lg:flex-[4]">{cuts && <TableView table={cuts} />}</div>
      <div className="h-[160px] lg:h-auto lg:min-h-0 lg:flex-[4]">
        {cutting && <Sheet drawing={cutting} units={props.view.units} />}
      </div>
    </StageLayout>
  );
}
