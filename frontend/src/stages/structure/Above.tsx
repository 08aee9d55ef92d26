import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Drawing, JobView } from "../../api/client";
import { queries, wordsOf } from "../../api/queries";
import { Sheet } from "../../drawing/Sheet";
import type { Point } from "../../drawing/scale";
import { Pointed } from "../../ui/Pointed";
import { Tables } from "../../ui/Tables";

/** Supports from above by what they carry; the one that is pointed at says its own numbers. */
export function Above({ view, drawing }: { view: JobView; drawing: Drawing }) {
  const [text, setText] = useState("");
  const [at, setAt] = useState("");
  const point = ([east, north]: Point) => {
    const said = `${east.toFixed(2)} m, ${north.toFixed(2)} m`;
    setText(said);
    setAt(said);
  };
  return (
    <>
      <form
        className="flex flex-wrap items-center gap-2 text-[14px] print:hidden"
        onSubmit={(event) => {
          event.preventDefault();
          setAt(text);
        }}
      >
        <label className="flex items-center gap-2">
          The support nearest to
          <input
            className="input input-sm figure w-44 pointer-coarse:min-h-11"
            placeholder="point, or east, north"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <button type="submit" className="btn btn-sm pointer-coarse:min-h-11" disabled={!text.trim()}>
          Look
        </button>
      </form>
      <div className="h-[300px] lg:h-auto lg:min-h-0 lg:flex-[6]">
        <Sheet drawing={drawing} units={view.units}>
          {(scale) => <Pointed scale={scale} point={point} />}
        </Sheet>
      </div>
      <div className="scroll-cue min-h-0 overflow-y-auto lg:flex-[6]">
        {at ? <Support view={view} at={at} back={() => setAt("")} /> : <Tables tables={view.stage.tables} />}
      </div>
    </>
  );
}

/** What one support is, and what it asks for case by case. */
function Support({ view, at, back }: { view: JobView; at: string; back: () => void }) {
  const { data, error } = useQuery(queries.support(view.id, view.draft.position, view.units, view.array, at));
  return (
    <div className="flex flex-col gap-2" data-support>
      {error && <p role="alert">{wordsOf(error)}</p>}
      {data && <Tables tables={data.tables} />}
      {data && <p className="text-secondary text-[13px]">{data.note}</p>}
      <p>
        <button type="button" className="btn btn-sm pointer-coarse:min-h-11" onClick={back}>
          All kinds of supports
        </button>
      </p>
    </div>
  );
}
