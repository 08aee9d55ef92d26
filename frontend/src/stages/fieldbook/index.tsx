import { Link } from "react-router";
import { Sheet } from "../../drawing/Sheet";
import { Tables } from "../../ui/Tables";
import { StageLayout, type StageProps } from "../StageLayout";

/** What was measured on site, beside this draft: from above, and as lists. */
export function FieldBookStage(props: StageProps) {
  const { view } = props;
  const [plan] = view.stage.drawings;
  return (
    <StageLayout {...props} given={<Given id={view.id} />}>
      <div
        className="flex flex-col gap-3 lg:min-h-0 lg:overflow-y-auto"
        tabIndex={0}
        aria-label="What was measured"
        role="group"
      >
        <div className="h-[340px] shrink-0 lg:h-[420px]">{plan && <Sheet drawing={plan} units={view.units} />}</div>
        <Tables tables={view.stage.tables} />
      </div>
    </StageLayout>
  );
}

function Given({ id }: { id: string }) {
  return (
    <div className="p-3 text-[14px]">
      <p>
        What is measured on site is written down in the field book, on a phone in the hand. It works without a network.
      </p>
      <Link to={`/jobs/${id}/field`} className="btn btn-primary mt-2 w-full pointer-coarse:h-12!">
        Open the field book
      </Link>
      <p className="text-secondary pt-2">
        The phone is judged by the newest revision that was issued; here it stands beside your draft.
      </p>
    </div>
  );
}
