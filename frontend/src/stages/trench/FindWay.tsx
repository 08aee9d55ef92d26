import { useState } from "react";
import { api, Problem, type JobView, type ProblemDetails } from "../../api/client";
import type { JobStore } from "../../job/jobStore";
import { ProblemList } from "../../ui/ProblemList";

/** The way is found by one press, and can be moved or undone as any other. */
export function FindWay({ view, job }: { view: JobView; job: JobStore }) {
  const [wrong, setWrong] = useState<ProblemDetails | null>(null);
  const [working, setWorking] = useState<AbortController | null>(null);
  const [told, setTold] = useState("");
  const several = view.arrays.length > 1;
  const find = async () => {
    const stop = new AbortController();
    setWrong(null);
    setTold("");
    setWorking(stop);
    try {
      await job.arrived();
      const found = await api.findWay(view.id, view.units, stop.signal);
      await job.run(() => Promise.resolve(found));
      setTold(found.draft.steps.at(-1)?.label ?? "");
    } catch (error) {
      if (error instanceof Problem) setWrong(error.details);
      else if (!stop.signal.aborted) throw error;
    } finally {
      setWorking(null);
    }
  };
  return (
    <div className="px-2 py-1 print:hidden">
      <button
        type="button"
        className="btn btn-sm w-full pointer-coarse:min-h-11"
        onClick={() => (working ? working.abort() : void find())}
      >
        {working ? "Looking for ways… stop" : several ? "Find the ways of all arrays" : "Find the way to the building"}
      </button>
      <p className="text-secondary pt-1 text-[12.5px]" role="status">
        {told ||
          (several
            ? "The trunk to where it ends now, or to the nearest wall, and a spur for each other array into what is dug."
            : "From the array to where it ends now, or to the nearest wall: round what it must keep off.")}
      </p>
      {wrong && <ProblemList details={wrong} kept="Nothing was changed." />}
    </div>
  );
}
