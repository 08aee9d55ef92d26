import { useQuery } from "@tanstack/react-query";
import type { JobView } from "../../api/client";
import { queries, wordsOf } from "../../api/queries";
import type { JobStore } from "../../job/jobStore";
import { Charts } from "../../ui/Charts";
import { Takes } from "../../ui/Takes";
import { Tables } from "../../ui/Tables";

/** How often which number comes out over all trials, with what is ordered marked on it. */
export function Odds({ view, job }: { view: JobView; job: JobStore }) {
  const { data, error, isPlaceholderData } = useQuery(
    queries.odds(view.id, view.draft.position, view.units, view.array),
  );
  if (error) return <p className="text-secondary m-auto max-w-md p-6 text-center text-[15px]">{wordsOf(error)}</p>;
  if (!data)
    return (
      <p className="text-secondary m-auto flex items-center gap-2 p-6 text-[15px]" role="status">
        <progress className="progress w-40" /> Thousands of trials are made…
      </p>
    );
  return (
    <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1" aria-busy={isPlaceholderData}>
      {data.drawings.length > 0 && <Charts drawings={data.drawings} units={view.units} of="odds" />}
      <p className="shrink-0 text-[14px]">{data.note}</p>
      {view.role !== "viewer" && data.takes.length > 0 && <Takes takes={data.takes} job={job} />}
      <Tables tables={data.tables} />
    </div>
  );
}
