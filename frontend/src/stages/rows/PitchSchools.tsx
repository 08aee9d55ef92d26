import { useState } from "react";
import type { JobView } from "../../api/client";
import type { JobStore } from "../../job/jobStore";
import { EnergyView } from "../../ui/EnergyView";

/** What a row may lose, in per cent; what cannot be read leaves the sheet as it was. */
const [LEAST, MOST] = [0.1, 30];

/** Three ways to choose the pitch on one chart. */
export function PitchSchools({ view, job }: { view: JobView; job: JobStore }) {
  const [text, setText] = useState("3");
  const said = Number(text.replace("%", "").replace(",", "."));
  const fits = said >= LEAST && said <= MOST;
  const [held, setHeld] = useState(3);
  if (fits && said !== held) setHeld(said);
  return (
    <>
      <label className="flex items-center gap-2 text-[14px] print:hidden">
        A row may lose
        <input
          className={`input input-sm figure w-20 pointer-coarse:min-h-11 ${fits ? "" : "input-error"}`}
          inputMode="decimal"
          value={text}
          aria-invalid={!fits}
          onChange={(event) => setText(event.target.value)}
        />
        % of a year
        {!fits && (
          <span className="text-error" role="alert">
            Write {LEAST} to {MOST}.
          </span>
        )}
      </label>
      <EnergyView view={view} job={job} of="pitch" more={{ accepted: (held / 100).toFixed(4) }} />
    </>
  );
}
