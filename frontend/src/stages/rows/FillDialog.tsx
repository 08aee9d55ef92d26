import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, Problem, type FillBody, type JobView, type ProblemDetails } from "../../api/client";
import { queries } from "../../api/queries";
import type { JobStore } from "../../job/jobStore";
import { Dialog } from "../../ui/Dialog";
import { ProblemList } from "../../ui/ProblemList";

type Said = Omit<FillBody, "units" | "array">;
type Typed = Exclude<keyof Said, "even" | "along">;

const FIELDS: [Typed, string, string][] = [
  ["modules", "Modules wanted", "Empty: as many as fit."],
  ["edge", "Kept free inside every edge", "To walk and turn with a machine, inside boundary, setbacks and keep-outs."],
  ["lengths", "Shorter tables", "Columns of those that may be built too: 12, 8. Empty: all as long as the others."],
  ["shortest", "Shortest table", "Or any length down to so many columns, at the end of a stretch."],
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
  const [said, setSaid] = useState<Said>({
    modules: "",
    edge: "",
    lengths: "",
    shortest: "",
    aisle_every: "",
    aisle: "",
    even: true,
    along: "",
  });
  const { data: lines = [] } = useQuery(queries.lines(view));
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
    <Dialog title="Fill the ground" close={close} wide>
      <p className="text-secondary mb-2 text-[13.5px]">
        Rows at the tilt, pitch and table that are said, past all that glass must keep off. Tables set by hand stay
        where they are, and what was taken out stays out.
      </p>
      <form
        className="grid items-start gap-x-4 gap-y-2 sm:grid-cols-2"
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
        <label className="block">
          <span className="font-semibold">Rows run along</span>
          <select
            className="select select-sm block w-full pointer-coarse:min-h-11"
            value={said.along}
            onChange={(event) => setSaid({ ...said, along: event.target.value })}
          >
            <option value="">as they face now</option>
            {lines.map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <span className="text-secondary text-[12.5px]">The longest stretch of a fence, a road, a boundary.</span>
        </label>
        <label className="flex items-center gap-2 pointer-coarse:min-h-11">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={said.even}
            onChange={(event) => setSaid({ ...said, even: event.target.checked })}
          />
          Strings come out even
        </label>
        {wrong && (
          <div className="sm:col-span-2">
            <ProblemList details={wrong} kept="Nothing was changed." />
          </div>
        )}
        <div className="flex items-center gap-2 sm:col-span-2">
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
