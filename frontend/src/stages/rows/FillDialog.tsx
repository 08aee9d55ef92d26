import { useState } from "react";
import { api, Problem, type FillBody, type JobView, type ProblemDetails } from "../../api/client";
import type { JobStore } from "../../job/jobStore";
import { Dialog } from "../../ui/Dialog";
import { ProblemList } from "../../ui/ProblemList";

type Said = Omit<FillBody, "units" | "array">;

const FIELDS: [keyof Said, string, string][] = [
  ["modules", "Modules wanted", "Empty: as many as fit."],
  ["edge", "Kept free inside every edge", "To walk and turn with a machine, inside boundary, setbacks and keep-outs."],
  ["shortest", "Shortest table", "Columns of a table at the end of a stretch. Empty: none shorter than the others."],
  ["aisle_every", "Aisle after so many tables", "Empty: none but the usual gaps."],
  ["aisle", "Aisle", "How wide."],
];

interface Props {
  view: JobView;
  job: JobStore;
  close: () => void;
}

/** Tables over all the ground inside the boundary, as one step that can be undone. */
export function FillDialog({ view, job, close }: Props) {
  const [said, setSaid] = useState<Said>({ modules: "", edge: "", shortest: "", aisle_every: "", aisle: "" });
  const [wrong, setWrong] = useState<ProblemDetails | null>(null);
  const [working, setWorking] = useState<AbortController | null>(null);
  const fill = async () => {
    const stop = new AbortController();
    setWrong(null);
    setWorking(stop);
    try {
      await job.arrived();
      const filled = await api.fill(view.id, { units: view.units, array: view.array, ...said }, stop.signal);
      await job.run(() => Promise.resolve(filled));
      close();
    } catch (error) {
      if (error instanceof Problem) setWrong(error.details);
      else if (!stop.signal.aborted) throw error;
    } finally {
      setWorking(null);
    }
  };
  return (
    <Dialog title="Fill the ground" close={close}>
      <p className="text-secondary mb-2 text-[13.5px]">
        Rows at the tilt, pitch and table that are said, past all that glass must keep off. Tables set by hand stay
        where they are.
      </p>
      <form
        className="grid gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void fill();
        }}
      >
        {FIELDS.map(([name, label, about]) => (
          <label key={name} className="block">
            <span className="font-semibold">{label}</span>
            <input
              className="input input-sm figure block w-full pointer-coarse:min-h-11"
              value={said[name]}
              onChange={(event) => setSaid({ ...said, [name]: event.target.value })}
            />
            <span className="text-secondary text-[12.5px]">{about}</span>
          </label>
        ))}
        {wrong && <ProblemList details={wrong} kept="Nothing was changed." />}
        <div className="flex items-center gap-2">
          <button type="submit" className="btn btn-primary pointer-coarse:min-h-11" disabled={working !== null}>
            Fill
          </button>
          {working && (
            <>
              <progress className="progress w-32" aria-label="Tables are laid" />
              <button type="button" className="btn pointer-coarse:min-h-11" onClick={() => working.abort()}>
                Stop
              </button>
            </>
          )}
        </div>
      </form>
    </Dialog>
  );
}
