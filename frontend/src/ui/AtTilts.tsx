import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { AskedSheet, JobView, Stepped } from "../api/client";
import { queries } from "../api/queries";
import { Sheet } from "../drawing/Sheet";
import { Asked } from "./Asked";
import { Tables } from "./Tables";

type Drawings = AskedSheet["drawings"];
// A table that moves is shown moving: so long stands each of its tilts.
const STEP_MS = 450;
const FEW = 8;

/** The drawings of each tilt, by what follows the last stroke of their keys. */
function byTilt(drawings: Drawings): [string, Drawings][] {
  const found = new Map<string, Drawings>();
  for (const drawing of drawings) {
    const tilt = drawing.key.slice(drawing.key.lastIndexOf("_") + 1);
    found.set(tilt, [...(found.get(tilt) ?? []), drawing]);
  }
  return [...found];
}

/** An array at each of its tilts, stepped through by hand; what moves can be seen moving. */
export function AtTilts({ view, stage }: { view: JobView; stage: Stepped }) {
  const found = useQuery(queries.tilts(view.id, view.draft.position, stage, view.units, view.array));
  return (
    <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1" data-tilts>
      <Asked of={found} waiting="Every tilt is drawn…">
        {(data) => (
          <>
            <Steps steps={byTilt(data.drawings)} view={view} />
            <Tables tables={data.tables} />
            <p className="text-secondary text-[13px]">{data.note}</p>
          </>
        )}
      </Asked>
    </div>
  );
}

function Steps({ steps, view }: { steps: [string, Drawings][]; view: JobView }) {
  const [at, setAt] = useState(0);
  const [moving, setMoving] = useState(false);
  const last = steps.length - 1;
  useEffect(() => {
    if (!moving) return;
    // Up and down again: so it comes back in the evening.
    const timer = setInterval(() => setAt((now) => (now + 1) % (2 * last)), STEP_MS);
    return () => clearInterval(timer);
  }, [moving, last]);
  const shown = at > last ? 2 * last - at : at;
  const [tilt, drawings] = steps[Math.min(shown, last)] ?? ["", []];
  const words = `${Math.round(Number(tilt))}°`.replace("-", "\u2212");
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 print:hidden">
        {steps.length > FEW && (
          <button
            type="button"
            className="btn btn-sm pointer-coarse:min-h-11"
            aria-pressed={moving}
            onClick={() => setMoving(!moving)}
          >
            {moving ? "Hold it" : "Let it move"}
          </button>
        )}
        <input
          type="range"
          className="range range-sm min-w-40 flex-1 pointer-coarse:min-h-11"
          aria-label="Tilt"
          aria-valuetext={words}
          min={0}
          max={last}
          value={shown}
          onChange={(event) => {
            setMoving(false);
            setAt(Number(event.target.value));
          }}
        />
        <output className="figure w-14 text-right text-[22px]">{words}</output>
      </div>
      <div className="flex flex-col gap-2 lg:flex-row">
        {drawings.map((drawing) => (
          <div
            key={drawing.key.slice(0, drawing.key.lastIndexOf("_"))}
            className="h-[320px] lg:h-[345px] lg:min-w-0 lg:flex-1"
          >
            <Sheet drawing={drawing} units={view.units} />
          </div>
        ))}
      </div>
    </>
  );
}
