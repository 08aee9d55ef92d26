import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { JobView } from "../../api/client";
import { queries, wordsOf } from "../../api/queries";
import type { JobStore } from "../../job/jobStore";
import { Tables } from "../../ui/Tables";

/** A support that stopped short: its number and the depth it reached in, every way on with its number out. */
export function Stopped({ view, job }: { view: JobView; job: JobStore }) {
  const [support, setSupport] = useState("1");
  const [reached, setReached] = useState("");
  const [asked, setAsked] = useState<{ support: string; reached: string } | null>(null);
  return (
    <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1" data-stopped>
      <form
        className="flex shrink-0 flex-wrap items-center gap-2 text-[14px] print:hidden"
        onSubmit={(event) => {
          event.preventDefault();
          setAsked({ support, reached });
        }}
      >
        <label className="flex items-center gap-2">
          Support
          <input
            className="input input-sm figure w-20 pointer-coarse:min-h-11"
            type="number"
            inputMode="numeric"
            min={1}
            value={support}
            onChange={(event) => setSupport(event.target.value)}
          />
        </label>
        <label className="flex items-center gap-2">
          stopped at
          <input
            className="input input-sm figure w-32 pointer-coarse:min-h-11"
            placeholder={view.units === "us" ? "3 ft 6 in" : "1.20 m"}
            value={reached}
            onChange={(event) => setReached(event.target.value)}
          />
        </label>
        <button type="submit" className="btn btn-sm pointer-coarse:min-h-11" disabled={!support || !reached.trim()}>
          What now?
        </button>
      </form>
      {asked ? (
        <Ways view={view} job={job} {...asked} />
      ) : (
        <p className="text-secondary text-[14px]">
          The number of the post as the stakes have it, and how deep it went: whether it carries so, and what else may
          be done.
        </p>
      )}
    </div>
  );
}

/** The ways, and those that are taken at one press. */
function Ways({ view, job, support, reached }: { view: JobView; job: JobStore; support: string; reached: string }) {
  const { data, error, isPlaceholderData } = useQuery(
    queries.stopped(view.id, view.draft.position, view.units, view.array, support, reached),
  );
  if (error)
    return (
      <p role="alert" className="state-stop text-[15px]">
        {wordsOf(error)}
      </p>
    );
  if (!data)
    return (
      <p className="text-secondary flex items-center gap-2 text-[15px]" role="status">
        <progress className="progress w-40" /> Every way is planned…
      </p>
    );
  return (
    <div className="flex flex-col gap-3" aria-busy={isPlaceholderData}>
      <Tables tables={data.tables} />
      {view.role !== "viewer" && data.takes.length > 0 && (
        <div className="flex flex-wrap gap-2">
          {data.takes.map((take) => (
            <button
              key={take.words}
              type="button"
              className="btn btn-sm pointer-coarse:min-h-11"
              onClick={() => void job.change(take.edits)}
            >
              {take.words}
            </button>
          ))}
        </div>
      )}
      <p className="text-secondary text-[13px]">{data.note}</p>
    </div>
  );
}
