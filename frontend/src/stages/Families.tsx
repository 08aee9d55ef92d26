import { useQuery } from "@tanstack/react-query";
import type { JobView } from "../api/client";
import { queries, wordsOf } from "../api/queries";
import { Sheet } from "../drawing/Sheet";
import type { JobStore } from "../job/jobStore";
import { Tables } from "../ui/Tables";

/** The array on every family of structure or footing, to one scale beside each other; one is taken by pressing its drawing. */
export function Families({ view, job, of }: { view: JobView; job: JobStore; of: "structure" | "footings" }) {
  const step = view.draft.position;
  const { data, error, isPlaceholderData } = useQuery(queries.families(view.id, of, step, view.units, view.array));
  if (error) return <p className="text-secondary m-auto max-w-md p-6 text-center text-[15px]">{wordsOf(error)}</p>;
  if (!data)
    return (
      <p className="text-secondary m-auto flex items-center gap-2 p-6 text-[15px]" role="status">
        <progress className="progress w-40" /> Each family is stood on this ground…
      </p>
    );
  const wide = { gridTemplateColumns: "repeat(auto-fit, minmax(150px, 1fr))" };
  return (
    <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1" aria-busy={isPlaceholderData}>
      <ul className="grid shrink-0 gap-2" style={wide} data-families>
        {data.drawings.map((drawing) => {
          const take = data.takes.find(({ edits }) => edits[0]?.text === drawing.key);
          return (
            <li key={drawing.key} className={take ? "" : "outline-primary outline-2 -outline-offset-2"}>
              <div
                className={`h-[236px] ${take && view.role !== "viewer" ? "cursor-pointer" : ""}`}
                onClick={() => take && view.role !== "viewer" && void job.change(take.edits)}
              >
                <Sheet drawing={drawing} units={view.units} />
              </div>
              {take && view.role !== "viewer" ? (
                <button
                  type="button"
                  className="btn btn-sm w-full pointer-coarse:min-h-11"
                  onClick={() => void job.change(take.edits)}
                >
                  {take.words}
                </button>
              ) : (
                <p className="px-2 py-1 text-center text-[14px] font-semibold">{take ? drawing.title : "Stands now"}</p>
              )}
            </li>
          );
        })}
      </ul>
      <p className="shrink-0 text-[14px]">{data.note}</p>
      <Tables tables={data.tables} />
    </div>
  );
}
