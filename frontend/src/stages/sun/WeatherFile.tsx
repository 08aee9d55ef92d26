import { useRef, useState } from "react";
import { api, Problem, type JobView, type ProblemDetails } from "../../api/client";
import type { JobStore } from "../../job/jobStore";
import { ProblemList } from "../../ui/ProblemList";

/** A file of a year's weather is chosen and taken at once; undo gives back what was there. */
export function WeatherFile({ view, job }: { view: JobView; job: JobStore }) {
  const field = useRef<HTMLInputElement>(null);
  const [wrong, setWrong] = useState<ProblemDetails | null>(null);
  const [reading, setReading] = useState(false);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setWrong(null);
    setReading(true);
    try {
      const taken = await api.takeWeather(view.id, view.units, file);
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
        accept=".epw,.csv"
        className="hidden"
        tabIndex={-1}
        aria-label="Weather file"
        onChange={(event) => void take(event.target.files?.[0])}
      />
      <button
        type="button"
        className="btn btn-sm w-full pointer-coarse:min-h-11"
        disabled={reading}
        onClick={() => field.current?.click()}
      >
        {reading ? "Reading the year…" : "Weather file…"}
      </button>
      {wrong && <ProblemList details={wrong} kept="Nothing was changed." />}
    </div>
  );
}
