import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { JobView } from "../../api/client";
import { queries, wordsOf } from "../../api/queries";
import { Sheet } from "../../drawing/Sheet";

const STEP_MIN = 15;
const DAYS: [string, string][] = [
  ["21 December", "12-21"],
  ["21 March", "03-21"],
  ["21 June", "06-21"],
];
const clock = (minute: number) =>
  `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}`;

/** The tables from above with the shade on the ground, at a day and an hour of the clock there. */
export function Shadows({ view }: { view: JobView }) {
  const year = new Date().getFullYear();
  const [day, setDay] = useState(`${year}-12-21`);
  const [minute, setMinute] = useState(10 * 60);
  const { data, error } = useQuery({
    ...queries.shadows(view.id, view.draft.position, view.units, day, minute),
    enabled: /^\d{4}-\d{2}-\d{2}$/.test(day),
  });
  const drawing = data?.drawings[0];
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 text-[14px] print:hidden">
        <input
          type="date"
          className="input input-sm figure w-40 pointer-coarse:min-h-11"
          aria-label="Day"
          value={day}
          onChange={(event) => setDay(event.target.value)}
        />
        {DAYS.map(([words, end]) => (
          <button
            key={end}
            type="button"
            className="btn btn-sm pointer-coarse:min-h-11"
            onClick={() => setDay(`${year}-${end}`)}
          >
            {words}
          </button>
        ))}
        <label className="flex min-w-56 flex-1 items-center gap-2">
          <span className="figure w-12">{clock(minute)}</span>
          <input
            type="range"
            className="accent-primary min-h-8 flex-1 pointer-coarse:min-h-11"
            aria-label="Hour"
            aria-valuetext={clock(minute)}
            min={4 * 60}
            max={22 * 60}
            step={STEP_MIN}
            value={minute}
            onChange={(event) => setMinute(Number(event.target.value))}
          />
        </label>
      </div>
      {error && <p className="text-secondary p-6 text-center text-[15px]">{wordsOf(error)}</p>}
      {drawing && <Sheet drawing={drawing} units={view.units} />}
    </>
  );
}
