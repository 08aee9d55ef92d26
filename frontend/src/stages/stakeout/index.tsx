import { Sheet } from "../../drawing/Sheet";
import { TableView } from "../../ui/TableView";
import { StageLayout, type StageProps } from "../StageLayout";

/** Where the stakes go, and the line of numbers for each. */
export function StakeoutStage(props: StageProps) {
  const [plan] = props.view.stage.drawings;
  const [stakes] = props.view.stage.tables;
  return (
    <StageLayout {...props}>
      <div className="h-[240px] lg:h-auto lg:min-h-0 lg:flex-1">
        {plan && <Sheet drawing={plan} units={props.view.units} />}
      </div>
      <div className="min-h-0 lg:flex-1">{stakes && <TableView table={stakes} />}</div>
    </StageLayout>
  );
}
