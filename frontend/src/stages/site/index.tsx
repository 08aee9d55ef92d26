import { lazy, Suspense, useEffect, useState } from "react";
import type { Drawing, NamedPlace } from "../../api/client";
import { PlanSheet } from "../../drawing/PlanSheet";
import { PointHandles } from "../../drawing/PointHandles";
import { Sheet } from "../../drawing/Sheet";
import type { Point, Scale } from "../../drawing/scale";
import { focusOn, focusSoon } from "../../ui/focus";
import { TableView } from "../../ui/TableView";
import { StageLayout, type StageProps } from "../StageLayout";
import { GroundFileDialog } from "./GroundFileDialog";
import { LocateAnswers } from "./LocateAnswers";
import { MeasureDialog } from "./MeasureDialog";
import { StandHere } from "./StandHere";
import { PLACED } from "./placed";
import { ThingHandles } from "./ThingHandles";
import { inMetres, snapTo, written } from "./snap";
import { useSection } from "./useSection";

const SceneView = lazy(() => import("./SceneView"));

/** What a click on the plan is for. */
type Pointing =
  | { for: "thing"; path: string; points: string; before: string }
  | { for: "place"; path: string }
  | { for: "section" }
  | null;

const POINTING = {
  section: "Point at the two ends of the section. Escape ends it.",
  place: "Point at its place; Escape leaves it. Correct it by number on the left.",
  thing:
    "Point at each place in turn; corners snap, Escape gives back what was there. Correct them by number on the left.",
};

/** The site from above: what is there, what was shot, the array and its way, moved where a hand points. */
export function SiteStage(props: StageProps) {
  const { view, job } = props;
  const [drawing] = view.stage.drawings;
  const [open, setOpen] = useState<string | null>(null);
  const [pointing, setPointing] = useState<Pointing>(null);
  const [measuring, setMeasuring] = useState<{ path: string; points: string } | null>(null);
  const [bringing, setBringing] = useState(false);
  const [inSpace, setInSpace] = useState(false);
  const section = useSection(view.id, view.units, view.draft.position);
  const readOnly = view.role === "viewer";
  const { places } = view.stage;
  // The way begins at a post, which is not moved by hand.
  const bends = drawing?.marks.find((mark) => mark.layer === "pipe")?.points.slice(1) ?? [];
  // A thing without a place, or one that is gone, leaves the way's bends in the hand.
  const held = open !== null && places.some((place) => place.of === open);
  const owners = view.stage.lists.find((list) => list.path === "site.tickets");
  const missing = (path: string) => view.sheet.missing.some((one) => one.path === path);
  const tickets = view.stage.tables.find((table) => table.key === "tickets");

  // Escape gives back the places that stood there before pointing began.
  useEffect(() => {
    if (!pointing) return;
    const escape = (event: KeyboardEvent) => {
      if (event.key !== "Escape" || document.querySelector("dialog[open]")) return;
      if (pointing.for === "thing" && pointing.points !== pointing.before) job.type(pointing.path, pointing.before);
      setPointing(null);
    };
    window.addEventListener("keydown", escape);
    return () => window.removeEventListener("keydown", escape);
  }, [pointing, job]);
  // The middle of each array's front row is where it stands: moved by hand, it is typed into its rows.
  const arrays = places.filter((place) => place.of.startsWith("arrays."));
  const moveArrays = (moved: Point[]) => {
    for (const [index, at] of moved.entries()) {
      const place = arrays[index];
      if (!place || (at[0] === place.east_m && at[1] === place.north_m)) continue;
      job.type(`${place.of}.rows.at_east_m`, `${at[0].toFixed(4)} m`);
      job.type(`${place.of}.rows.at_north_m`, `${at[1].toFixed(4)} m`);
    }
  };
  const closeSpace = () => {
    setInSpace(false);
    focusSoon("[data-tool='space']");
  };

  const point = (at: Point, scale: Scale | null) => {
    const snapped = snapTo(at, places, scale);
    if (pointing?.for === "section") section.point(snapped);
    if (pointing?.for === "place") {
      job.type(`${pointing.path}.east_m`, `${snapped[0].toFixed(3)} m`);
      job.type(`${pointing.path}.north_m`, `${snapped[1].toFixed(3)} m`);
      setPointing(null);
    }
    if (pointing?.for !== "thing") return;
    const points = [pointing.points, written(snapped, view.units)].filter(Boolean).join("\n");
    setPointing({ ...pointing, points });
    job.type(pointing.path, points);
  };

  return (
    <StageLayout
      {...props}
      thing={{
        open,
        setOpen: (path) => {
          setOpen(path);
          setPointing(null);
        },
        tools: (list, path, values) =>
          PLACED.includes(list) ? (
            <button
              type="button"
              className="btn btn-sm"
              aria-pressed={pointing?.for === "place"}
              onClick={() => setPointing(pointing ? null : { for: "place", path })}
            >
              {pointing?.for === "place" ? "Done pointing" : "Point on plan"}
            </button>
          ) : list === "site.features" || list === "site.spurs" ? (
            <>
              <button
                type="button"
                className="btn btn-sm"
                aria-pressed={pointing?.for === "thing"}
                onClick={() =>
                  setPointing(
                    pointing
                      ? null
                      : {
                          for: "thing",
                          path: `${path}.points`,
                          points: values.points ?? "",
                          before: values.points ?? "",
                        },
                  )
                }
              >
                {pointing?.for === "thing" ? "Done pointing" : "Point on plan"}
              </button>
              <button
                type="button"
                className="btn btn-sm"
                onClick={() => setMeasuring({ path: `${path}.points`, points: values.points ?? "" })}
              >
                Measure in…
              </button>
            </>
          ) : null,
      }}
      after={(group) =>
        group === "Place" && !readOnly ? (
          <StandHere asked={missing("site.latitude_deg")} change={job.change} />
        ) : group === "Ground" && !readOnly ? (
          <p className="px-2 py-1">
            <button type="button" className="btn btn-sm w-full" onClick={() => setBringing(true)}>
              Paste shots or bring a file…
            </button>
          </p>
        ) : group === "Locate" && tickets ? (
          <div className="px-2 pb-2">
            {!readOnly && owners && <LocateAnswers tickets={owners} change={(edits) => void job.change(edits)} />}
            <TableView table={tickets} />
          </div>
        ) : null
      }
    >
      <div className="h-[420px] lg:h-auto lg:min-h-0 lg:flex-[3]">
        {drawing &&
          (inSpace ? (
            <Suspense fallback={<p className="p-4">Opening the view in space…</p>}>
              <SceneView id={view.id} step={view.draft.position} close={closeSpace} />
            </Suspense>
          ) : (
            <PlanSheet
              drawing={drawing}
              units={view.units}
              point={pointing ? (at, scale) => point(at, scale) : null}
              pick={(path) => {
                setOpen(path);
                focusOn(`[data-thing="${path}"]`);
              }}
              tools={
                <>
                  <button
                    type="button"
                    className="layer-toggle on"
                    aria-pressed={pointing?.for === "section"}
                    onClick={() => setPointing(pointing?.for === "section" ? null : { for: "section" })}
                  >
                    Section
                  </button>
                  <button type="button" className="layer-toggle on" data-tool="space" onClick={() => setInSpace(true)}>
                    In space
                  </button>
                </>
              }
            >
              {(scale) => (
                <>
                  {!readOnly && !pointing && !held && (
                    <PointHandles
                      group="way"
                      points={bends}
                      scale={scale}
                      name={(index) => (index === bends.length - 1 ? "Wall of the building" : `Bend ${index + 1}`)}
                      snap={(at) => snapTo(at, places, scale)}
                      move={(moved) => job.type("site.route", inMetres(moved))}
                      bendable
                    />
                  )}
                  {!readOnly && !pointing && !held && (
                    <PointHandles
                      group="array"
                      points={arrays.map((place) => [place.east_m, place.north_m])}
                      scale={scale}
                      name={(index) => arrays[index]?.name ?? ""}
                      snap={(at) =>
                        snapTo(
                          at,
                          places.filter(({ of }) => !of.startsWith("arrays.")),
                          scale,
                        )
                      }
                      move={moveArrays}
                    />
                  )}
                  {!readOnly && !pointing && open && held && (
                    <ThingHandles path={open} stage={view.stage} drawing={drawing} scale={scale} type={job.type} />
                  )}
                  {pointing?.for === "section" && <Ends ends={section.ends} scale={scale} />}
                </>
              )}
            </PlanSheet>
          ))}
      </div>
      {pointing && (
        <p role="status" className="border-primary border-l-4 pl-2">
          {POINTING[pointing.for]}
        </p>
      )}
      {pointing?.for === "section" && <SectionPanel section={section} places={places} units={view.units} />}
      {measuring && (
        <MeasureDialog
          id={view.id}
          units={view.units}
          places={places}
          close={() => setMeasuring(null)}
          take={(text) => {
            const points = [measuring.points, text].filter(Boolean).join("\n");
            setMeasuring({ ...measuring, points });
            job.type(measuring.path, points);
          }}
        />
      )}
      {bringing && (
        <GroundFileDialog
          id={view.id}
          units={view.units}
          kinds={view.stage.lists.find((list) => list.path === "site.features")?.choices ?? []}
          run={job.run}
          close={() => setBringing(false)}
        />
      )}
    </StageLayout>
  );
}

function Ends({ ends, scale }: { ends: Point[]; scale: Scale }) {
  const path = ends.map(([x, y]) => `${scale.x(x)} ${scale.y(y)}`).join("L");
  return (
    <g>
      {ends.length > 1 && <path className="layer-pointed" d={`M${path}`} />}
      {ends.map(([x, y], index) => (
        <circle key={index} className="layer-pointed" cx={scale.x(x)} cy={scale.y(y)} r={6} />
      ))}
    </g>
  );
}

function SectionPanel({
  section,
  places,
  units,
}: {
  section: ReturnType<typeof useSection>;
  places: NamedPlace[];
  units: "us" | "metric";
}) {
  const cut: Drawing | null = section.drawing;
  return (
    <div className="flex flex-col gap-1 lg:flex-[2]">
      <form
        className="flex flex-wrap items-center gap-2 text-[13px]"
        onSubmit={(event) => {
          event.preventDefault();
          section.ask();
        }}
      >
        <label className="flex items-center gap-1">
          From
          <input
            className="input input-sm figure w-40"
            list="named-places"
            value={section.texts[0]}
            onChange={(event) => section.type(0, event.target.value, places)}
          />
        </label>
        <label className="flex items-center gap-1">
          to
          <input
            className="input input-sm figure w-40"
            list="named-places"
            value={section.texts[1]}
            onChange={(event) => section.type(1, event.target.value, places)}
          />
        </label>
        <button type="submit" className="btn btn-sm">
          Cut
        </button>
        <datalist id="named-places">
          {places.map((place) => (
            <option key={place.name} value={place.name} />
          ))}
        </datalist>
        {section.wrong && (
          <span role="alert" className="text-error">
            {section.wrong}
          </span>
        )}
      </form>
      {cut && (
        <div className="h-[200px] lg:h-auto lg:min-h-[150px] lg:flex-1">
          <Sheet drawing={cut} units={units} />
        </div>
      )}
    </div>
  );
}
