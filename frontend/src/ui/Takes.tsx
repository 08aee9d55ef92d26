import type { AskedSheet } from "../api/client";
import type { JobStore } from "../job/jobStore";

/** Changes that are made at one press, each by its words. */
export function Takes({ takes, job }: { takes: AskedSheet["takes"]; job: JobStore }) {
  return (
    <div className="flex flex-wrap gap-2">
      {takes.map((take) => (
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
  );
}
