import { useState } from "react";
import type { JobView } from "../../api/client";
import type { Point } from "../../drawing/scale";
import type { JobStore } from "../../job/jobStore";
import { EnergyView } from "../../ui/EnergyView";

/** What stands around the glass, or around any spot of the ground that is pointed at, named or typed. */
export function Around({ view, job }: { view: JobView; job: JobStore }) {
  const [text, setText] = useState("");
  const [spot, setSpot] = useState("");
  const { places } = view.stage;
  const point = ([east, north]: Point) => {
    const said = `${east.toFixed(1)} m, ${north.toFixed(1)} m`;
    setText(said);
    setSpot(said);
  };
  const look = () => setSpot(places.find((place) => place.name === text)?.text ?? text);
  return (
    <>
      <form
        className="flex flex-wrap items-center gap-2 text-[14px] print:hidden"
        onSubmit={(event) => {
          event.preventDefault();
          look();
        }}
      >
        <label className="flex items-center gap-2">
          Hours of sun at
          <input
            className="input input-sm figure w-44 pointer-coarse:min-h-11"
            placeholder="point, or east, north"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <button type="submit" className="btn btn-sm pointer-coarse:min-h-11">
          Look
        </button>
      </form>
      <EnergyView view={view} job={job} of="around" more={spot ? { spot } : undefined} point={point} />
    </>
  );
}
