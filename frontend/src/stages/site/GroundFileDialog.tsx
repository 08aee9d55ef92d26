import { useState } from "react";
import {
  api,
  Problem,
  type GroundFile,
  type HowToRead,
  type JobView,
  type ProblemDetails,
  type Units,
} from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { GridField } from "../../ui/GridField";
import { ProblemList } from "../../ui/ProblemList";

const ROLES = ["east", "north", "level", "code", "latitude", "longitude", "-"];
const UNITS: [string, string][] = [
  ["", "as the file says, else as shown here"],
  ["m", "metres"],
  ["ft", "feet"],
  ["us-ft", "US survey feet"],
  ["mm", "millimetres"],
  ["in", "inches"],
];

interface Props {
  id: string;
  units: Units;
  /** What a layer may become. */
  kinds: string[];
  run: (work: (units: Units) => Promise<JobView>) => Promise<void>;
  close: () => void;
}

/** Shots pasted or a file brought: looked at first, then taken as one step that can be undone. */
export function GroundFileDialog({ id, units, kinds, run, close }: Props) {
  const [text, setText] = useState("");
  const [file, setFile] = useState<File | null>(null);
  const [how, setHow] = useState<HowToRead>({ name: "pasted shots" });
  const [found, setFound] = useState<GroundFile | null>(null);
  const [wrong, setWrong] = useState<ProblemDetails | null>(null);
  const [looking, setLooking] = useState(false);
  const body = file ?? new Blob([text]);
  const look = async (next: HowToRead, of: Blob = body) => {
    setHow(next);
    setWrong(null);
    setLooking(true);
    try {
      setFound(await api.lookAtFile(id, units, next, of));
    } catch (error) {
      if (error instanceof Problem) setWrong(error.details);
    } finally {
      setLooking(false);
    }
  };
  const take = async () => {
    try {
      const taken = await api.takeFile(id, units, how, body);
      await run(() => Promise.resolve(taken));
      close();
    } catch (error) {
      if (error instanceof Problem) setWrong(error.details);
    }
  };
  const choose = (chosen: File | undefined) => {
    if (!chosen) return;
    setFile(chosen);
    setFound(null);
    void look({ name: chosen.name.slice(0, 80) }, chosen);
  };
  return (
    <Dialog title="Shots and what is there, from text or a file" close={close} wide>
      <div className="grid gap-3 sm:grid-cols-2">
        <label className="flex flex-col gap-1">
          <span className="font-semibold">Paste shots</span>
          <textarea
            className="textarea figure h-28 w-full"
            data-first
            data-testid="paste-shots"
            placeholder={"east, north, level, code\n0, 0, 100.00, grass"}
            value={text}
            onChange={(event) => setText(event.target.value)}
            spellCheck={false}
          />
          <button
            type="button"
            className="btn btn-sm"
            disabled={!text.trim()}
            onClick={() => {
              setFile(null);
              void look({ name: "pasted shots" }, new Blob([text]));
            }}
          >
            Look at them
          </button>
        </label>
        <label className="flex flex-col gap-1">
          <span className="font-semibold">Or bring a file</span>
          <input
            type="file"
            className="file-input file-input-sm w-full"
            accept=".csv,.txt,.json,.geojson,.gpx,.dxf,.xml"
            data-testid="ground-file"
            onChange={(event) => choose(event.target.files?.[0])}
          />
          <span className="text-secondary text-[13px]">
            CSV in any order and unit, GeoJSON, GPX, DXF (points, polylines, 3-D faces), LandXML. Shots whose code
            begins with break are joined: the ground bends along them. Nothing changes until you take it.
          </span>
        </label>
      </div>
      {looking && (
        <p role="status" className="pt-2">
          Looking at it…
        </p>
      )}
      {wrong && <ProblemList details={wrong} kept="The site is as it was." />}
      {found && <Found id={id} found={found} kinds={kinds} how={how} change={(next) => void look(next)} />}
      {found && found.asks.length === 0 && (
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={how.replace ?? false}
              onChange={(event) => setHow({ ...how, replace: event.target.checked })}
            />
            in place of what is there now
          </label>
          <button
            type="button"
            className="btn btn-primary ml-auto"
            onClick={() => void take()}
            data-testid="take-ground"
          >
            Take it
          </button>
        </div>
      )}
    </Dialog>
  );
}

interface FoundProps {
  id: string;
  found: GroundFile;
  kinds: string[];
  how: HowToRead;
  change: (how: HowToRead) => void;
}

/** What a file holds and what has to be said of it: every answer is looked at anew. */
function Found({ id, found, kinds, how, change }: FoundProps) {
  const asking = found.asks.length > 0;
  return (
    <section aria-label="What it holds" className="mt-3 border-t border-base-300 pt-2" data-testid="ground-found">
      {!asking && (
        <p>
          <span className="figure text-[20px] font-semibold">{found.shots}</span> shots, levels {found.lowest} to{" "}
          {found.highest}, over {found.reach}
        </p>
      )}
      {found.asks.map((question) => (
        <p key={question} className="state-look font-semibold" role="status">
          Asked: {question}
        </p>
      ))}
      {asking && found.columns.length > 0 && (how.columns ?? []).length === 0 && found.shots > 0 && (
        <button type="button" className="btn btn-sm mt-1" onClick={() => change({ ...how, columns: found.roles })}>
          The columns are right as below
        </button>
      )}
      {found.grids.length > 0 && (
        <div className="mt-1" aria-label="Grids that put it at the site" role="group">
          <p className="text-secondary text-[13px]">
            In these it would lie at the site. Which one was it measured in? They can differ by a hundred metres: ask
            who measured.
          </p>
          <div className="mt-1 flex flex-wrap gap-1">
            {found.grids.map((grid) => (
              <button
                key={grid.epsg}
                type="button"
                className="btn btn-sm font-normal"
                onClick={() => change({ ...how, grid: grid.epsg })}
              >
                <span className="figure">{grid.epsg}</span> {grid.name}, {grid.unit}
              </button>
            ))}
          </div>
        </div>
      )}
      {found.notes.map((note) => (
        <p key={note} className="state-look">
          {note}
        </p>
      ))}
      <div className="mt-2 flex flex-wrap gap-3">
        <label className="flex flex-col text-[13px]">
          Lengths are in
          <select
            className="select select-sm"
            aria-label="Unit of the file"
            value={how.unit ?? ""}
            onChange={(event) => change({ ...how, unit: event.target.value || undefined })}
          >
            {UNITS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <GridField key={found.grid} id={id} grid={found.grid} change={(grid) => change({ ...how, grid })} />
        <label className="flex flex-col text-[13px]">
          Take off its origin, east
          <input
            className="input input-sm figure w-32"
            aria-label="Origin east"
            defaultValue={how.shift_east_m ?? 0}
            onBlur={(event) => change({ ...how, shift_east_m: Number(event.target.value) || 0 })}
          />
        </label>
        <label className="flex flex-col text-[13px]">
          and north, m
          <input
            className="input input-sm figure w-32"
            aria-label="Origin north"
            defaultValue={how.shift_north_m ?? 0}
            onBlur={(event) => change({ ...how, shift_north_m: Number(event.target.value) || 0 })}
          />
        </label>
      </div>
      {found.columns.length > 0 && (
        <div className="mt-2 flex flex-wrap gap-2">
          {found.columns.map((column, index) => (
            <label key={index} className="flex flex-col text-[13px]">
              {column}
              <select
                className="select select-sm"
                aria-label={`Column ${index + 1}`}
                value={found.roles[index]}
                onChange={(event) =>
                  change({ ...how, columns: found.roles.map((role, at) => (at === index ? event.target.value : role)) })
                }
              >
                {ROLES.map((role) => (
                  <option key={role}>{role}</option>
                ))}
              </select>
            </label>
          ))}
        </div>
      )}
      {found.format !== "csv" && (
        <table className="mt-2 w-full text-left">
          <thead>
            <tr className="text-secondary text-[13px]">
              <th scope="col">Layer</th>
              <th scope="col">holds</th>
              <th scope="col">becomes</th>
            </tr>
          </thead>
          <tbody>
            {found.layers.map((layer) => (
              <tr key={`${layer.name}${layer.shape}`} className="border-t border-base-300">
                <th scope="row" className="pr-2 font-normal">
                  {layer.name}
                </th>
                <td className="pr-2">{layer.shots ? `${layer.shots} shots` : `${layer.shapes} × ${layer.shape}`}</td>
                <td>
                  <select
                    className="select select-sm"
                    aria-label={`Layer ${layer.name}`}
                    value={layer.becomes}
                    onChange={(event) =>
                      change({ ...how, layers: { ...how.layers, [layer.name]: event.target.value } })
                    }
                  >
                    {["nothing", ...(layer.shots ? ["shots"] : layer.bends ? ["break line", ...kinds] : kinds)].map(
                      (kind) => (
                        <option key={kind}>{kind}</option>
                      ),
                    )}
                  </select>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {found.sample.length > 0 && (
        <p className="text-secondary figure mt-2 text-[14px]">
          {asking ? "as it stands there" : "first, at the site"}: {found.sample.map((row) => row.join(", ")).join("; ")}
        </p>
      )}
    </section>
  );
}
