import { useEffect, useState } from "react";
import { api, Problem, type Drawing, type JobView, type NamedPlace, type Things } from "../../api/client";
import { PlanSheet } from "../../drawing/PlanSheet";
import { PointHandles } from "../../drawing/PointHandles";
import type { Point, Scale } from "../../drawing/scale";
import type { JobStore } from "../../job/jobStore";
import { added, tell } from "./tables";

interface Props {
  view: JobView;
  job: JobStore;
  drawing: Drawing;
  list: Things;
  /** Open what is told of a table, by its path. */
  open: (path: string) => void;
}

const HAND_M = 0.1;
const byHand = ([x, y]: Point): Point => [Math.round(x / HAND_M) * HAND_M, Math.round(y / HAND_M) * HAND_M];

/** By what a table on the drawing is known. */
const markOf = (table: NamedPlace) => `table ${table.text}`;

/** The tables from above: one is taken hold of, moved, made longer, taken out; one more is put in. */
export function TablesPlan({ view, job, drawing, list, open }: Props) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [pointing, setPointing] = useState(false);
  const [refused, setRefused] = useState("");
  const readOnly = view.role === "viewer";
  const { places } = view.stage;
  const table = places.find((place) => place.text === chosen);
  const told = list.items.find((item) => item.path === table?.of)?.values;
  const usual = view.stage.givens.find((given) => given.path === `arrays.${view.array}.rows.modules_along`)?.text ?? "";
  const columns = Number(told?.modules_along || usual);
  const out = told?.out === "yes";

  useEffect(() => {
    if (!pointing) return;
    const escape = (event: KeyboardEvent) => {
      if (event.key === "Escape" && !document.querySelector("dialog[open]")) setPointing(false);
    };
    window.addEventListener("keydown", escape);
    return () => window.removeEventListener("keydown", escape);
  }, [pointing]);

  const say = (said: Record<string, string>) => {
    setRefused("");
    if (table) void job.change(tell(list.path, table, said).edits);
  };
  const snapped = async (id: string, otherwise: string, at: Point) => {
    setRefused("");
    // What was typed just before moves the tables too.
    await job.arrived();
    try {
      const found = await api.snapTable(view.id, view.array, id, at);
      if (!found.refused) return { along_m: found.along, back_m: found.back };
      setRefused(`${otherwise}: ${found.refused}.`);
    } catch (error) {
      setRefused(error instanceof Problem ? error.message : String(error));
    }
    return null;
  };
  const move = async (at: Point) => {
    if (!table) return;
    const said = await snapped(table.text, `Table ${table.name} stays where it is`, at);
    if (said) await job.change(tell(list.path, table, said).edits);
  };
  const putIn = async (at: Point) => {
    setPointing(false);
    const said = await snapped("", "No table is put in", at);
    if (said) await job.change(added(list.path, said).edits);
  };

  return (
    <>
      <div className="min-h-0 flex-1">
        <PlanSheet
          drawing={drawing}
          units={view.units}
          point={pointing ? (at) => void putIn(at) : null}
          pick={(of) => setChosen(places.find((place) => markOf(place) === of)?.text ?? null)}
          tools={
            !readOnly &&
            places.length > 0 && (
              <button
                type="button"
                className="layer-toggle on"
                aria-pressed={pointing}
                onClick={() => setPointing(!pointing)}
              >
                One more table
              </button>
            )
          }
        >
          {(scale) =>
            table && (
              <>
                <Held drawing={drawing} table={table} scale={scale} />
                {!readOnly && !pointing && !out && (
                  <PointHandles
                    group="table"
                    points={[[table.east_m, table.north_m]]}
                    scale={scale}
                    name={() => `Table ${table.name}`}
                    snap={byHand}
                    move={([at]) => at && void move(at)}
                    follows={drawing.marks.find((mark) => mark.of === markOf(table))?.points}
                  />
                )}
              </>
            )
          }
        </PlanSheet>
      </div>
      {pointing && (
        <p role="status" className="border-primary border-l-4 pl-2">
          Point at the middle of its posts: it comes into line with what is near. Escape ends it.
        </p>
      )}
      {refused && (
        <p role="alert" className="border-error border-l-4 pl-2">
          {refused}
        </p>
      )}
      {places.length > 0 && (
        <div className="flex flex-wrap items-center gap-1 text-[13px] print:hidden" role="group" aria-label="One table">
          <select
            className="select select-sm w-auto"
            aria-label="Table"
            value={table ? table.text : ""}
            onChange={(event) => setChosen(event.target.value || null)}
          >
            <option value="">Press a table…</option>
            {places.map((place) => (
              <option key={place.text} value={place.text}>
                Table {place.name}
              </option>
            ))}
          </select>
          {table && !readOnly && (
            <>
              <button type="button" className="btn btn-sm" onClick={() => say({ out: out ? "no" : "yes" })}>
                {out ? "Put back" : "Take out"}
              </button>
              {!out && (
                <>
                  <button
                    type="button"
                    className="btn btn-sm"
                    aria-label="One column shorter"
                    disabled={columns <= 1}
                    onClick={() => say({ modules_along: String(columns - 1) })}
                  >
                    −
                  </button>
                  <span className="figure">{columns} along</span>
                  <button
                    type="button"
                    className="btn btn-sm"
                    aria-label="One column longer"
                    onClick={() => say({ modules_along: String(columns + 1) })}
                  >
                    +
                  </button>
                  <button
                    type="button"
                    className="btn btn-sm"
                    onClick={() => {
                      if (table.of) open(table.of);
                      else {
                        const { path, edits } = tell(list.path, table, {});
                        void job.change(edits).then(() => open(path));
                      }
                    }}
                  >
                    By number…
                  </button>
                </>
              )}
              {table.of && (
                <button
                  type="button"
                  className="btn btn-sm"
                  onClick={() => {
                    void job.change([{ path: table.of, text: "" }]);
                    setRefused("");
                  }}
                >
                  {told?.place ? "As the others" : "Remove"}
                </button>
              )}
            </>
          )}
        </div>
      )}
    </>
  );
}

/** The table that is taken hold of, its edge drawn over. */
function Held({ drawing, table, scale }: { drawing: Drawing; table: NamedPlace; scale: Scale }) {
  const points = drawing.marks.find((mark) => mark.of === markOf(table))?.points ?? [];
  return (
    <path
      className="layer-glass-held"
      d={`M${points.map(([x, y]) => `${scale.x(x)} ${scale.y(y)}`).join("L")}Z`}
      data-held={table.text}
    />
  );
}
