import { useRef, useState } from "react";
import { Problem, type JobView, type ProblemDetails, type Units } from "../api/client";
import type { JobStore } from "../job/jobStore";
import { ProblemList } from "./ProblemList";

interface Props {
  view: JobView;
  job: JobStore;
  /** What the button says, and which files it takes. */
  words: string;
  accept: string;
  take: (id: string, units: Units, file: File) => Promise<JobView>;
}

/** A file is chosen and taken at once; undo gives back what was there. */
export function TakenFile({ view, job, words, accept, take }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const [wrong, setWrong] = useState<ProblemDetails | null>(null);
  const [reading, setReading] = useState(false);
  const read = async (file: File | undefined) => {
    if (!file) return;
    setWrong(null);
    setReading(true);
    try {
      const taken = await take(view.id, view.units, file);
      await job.run(() => Promise.resolve(taken));
    } catch (error) {
      if (error instanceof Problem) setWrong(error.details);
      else throw error;
    } finally {
      setReading(false);
      if (field.current) field.current.value = "";
    }
  };
  return (
    <div className="px-2 py-1 print:hidden">
      <input
        ref={field}
        type="file"
        accept={accept}
        className="hidden"
        tabIndex={-1}
        aria-label={words}
        onChange={(event) => void read(event.target.files?.[0])}
      />
      <button
        type="button"
        className="btn btn-sm w-full pointer-coarse:min-h-11"
        disabled={reading}
        onClick={() => field.current?.click()}
      >
        {reading ? "Reading the file…" : `${words}…`}
      </button>
      {wrong && <ProblemList details={wrong} kept="Nothing was changed." />}
    </div>
  );
}
