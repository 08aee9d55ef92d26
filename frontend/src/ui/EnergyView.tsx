import { useQuery } from "@tanstack/react-query";
import type { EnergyMore, EnergyOf, JobView } from "../api/client";
import { queries, wordsOf } from "../api/queries";
import { Sheet } from "../drawing/Sheet";
import type { Point } from "../drawing/scale";
import type { JobStore } from "../job/jobStore";
import { Pointed } from "./Pointed";
import { Tables } from "./Tables";

interface Props {
  view: JobView;
  job: JobStore;
  of: EnergyOf;
  /** What more is asked of the sheet. */
  more?: EnergyMore;
  /** Called with the place that was pointed at on a drawing to scale, in local metres. */
  point?: (at: Point) => void;
}

const NO_MORE: EnergyMore = {};

/** A sheet of energy: charts one under the other, then the same as lists, and what can be taken at once. */
export function EnergyView({ view, job, of, more = NO_MORE, point }: Props) {
  const step = view.draft.position;
  const { data, error, isPending, isPlaceholderData } = useQuery(
    queries.energy(view.id, step, of, view.units, view.array, more),
  );
  if (error) return <p className="text-secondary m-auto max-w-md p-6 text-center text-[15px]">{wordsOf(error)}</p>;
  if (isPending || !data)
    return (
      <p className="text-secondary m-auto flex items-center gap-2 p-6 text-[15px]" role="status">
        <progress className="progress w-40" /> A year is worked out, hour by hour…
      </p>
    );
  return (
    <div
      className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1"
      aria-busy={isPlaceholderData}
      data-energy={of}
    >
      {isPlaceholderData && <progress className="progress w-full shrink-0" aria-label="Worked out anew" />}
      {data.drawings.map((drawing) => (
        <div key={drawing.key} className={`shrink-0 print:h-[240px] ${drawing.to_scale ? "h-[440px]" : "h-[270px]"}`}>
          <Sheet drawing={drawing} units={view.units}>
            {point && drawing.to_scale ? (scale) => <Pointed scale={scale} point={point} /> : undefined}
          </Sheet>
        </div>
      ))}
      {data.takes.length > 0 && view.role !== "viewer" && (
        <p className="flex flex-wrap gap-1">
          {data.takes.map((take) => (
            <button
              key={take.words}
              type="button"
              className="btn btn-sm bg-base-100 border-base-content/50 pointer-coarse:min-h-11"
              onClick={() => void job.change(take.edits)}
            >
              {take.words}
            </button>
          ))}
        </p>
      )}
      <Tables tables={data.tables} />
      <p className="text-secondary text-[13px]">{data.note}</p>
    </div>
  );
}
