import { Sheet } from "../../drawing/Sheet";
import { TableView } from "../../ui/TableView";
import { StageLayout, type StageProps } from "../StageLayout";
import { DaySheet } from "./DaySheet";
import { HoldToDay } from "./HoldToDay";

/** Room on paper for a task's line, and for the dates above and the words below. */
const LINE_PX = 19;
const HEAD_PX = 120;

/** The bars first; below them one day at a time, as it goes on the dashboard of the truck, and all tasks. */
export function ScheduleStage(props: StageProps) {
  const { view, job } = props;
  const [bars] = view.stage.drawings;
  const days = view.stage.tables.find(({ key }) => key === "days");
  const tasks = view.stage.tables.find(({ key }) => key === "tasks");
  return (
    <StageLayout
      {...props}
      after={(group) =>
        group === "Holds" && view.role !== "viewer" && tasks ? <HoldToDay tasks={tasks} change={job.change} /> : null
      }
    >
      {/* As many lines as there are tasks: what has no room is scrolled to, not squeezed. */}
      <div
        className="flex flex-col gap-3 lg:min-h-0 lg:overflow-y-auto"
        tabIndex={0}
        aria-label="Schedule"
        role="group"
      >
        {bars && tasks && (
          <div className="shrink-0" style={{ height: HEAD_PX + LINE_PX * tasks.rows.length }}>
            <Sheet drawing={bars} units={view.units} />
          </div>
        )}
        {days && days.rows.length > 0 && <DaySheet days={days} />}
        {tasks && <TableView table={tasks} />}
      </div>
    </StageLayout>
  );
}
