import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  api,
  fileAddress,
  FILES,
  Problem,
  type Wanted,
  type JobView,
  type ProblemDetails,
  type Stage,
  type Units,
} from "../api/client";
import { queries, wordsOf } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { GridField } from "../ui/GridField";
import { ProblemList } from "../ui/ProblemList";
import { Archive } from "./Archive";

const ABOUT: Record<(typeof FILES)[number], string> = {
  "design.json": "the design, to keep or to open elsewhere",
  "stakes.csv": "every post: tape, levels, lengths, rod readings",
  "cuts.csv": "every length the saw cuts, its mark, and how many",
  "sticks.csv": "every stick and what is cut of it, in the order of sawing",
  "loads.csv": "what comes when and on which load, and what stops without it",
  "wires.csv": "every circuit: from where to where, its wires, what guards it, what is lost",
  "signs.csv": "every sign in its words, where it goes, and how many",
  "one-line.svg": "the one line, to look at and to print",
  "one-line.dxf": "the one line, to go on drawing in",
  "materials.csv": "what to buy, cut and bring",
  "profiles.csv": "profiles of your own, or the titles that a list of them has: for a merchant to fill in",
  "prices.csv": "the list with its prices, or room for them: for a merchant to fill in",
  "tables.xlsx": "all of these tables in one workbook: materials, loads, cuts, stakes, wires",
  "practice.csv": "values of practice that nobody has looked at",
  "schedule.csv": "every task: how much, by whom, when, what holds it",
  "schedule.ics": "the days of work, for any calendar",
  "as-built.csv": "every post as it was read, beside the plan",
  "covers.csv": "the trench as it was read, place by place",
  "strings.csv": "every string as it was measured",
  "serials.csv": "which serial sits where",
  "inspections.csv": "who said what, and when",
  "care.ics": "what is looked at from then on, for any calendar",
  "plan.json": "every answer and rule, for machines",
  "plan.geojson": "tables, posts and trench on the map",
  "site.geojson": "shots and what is there, on the map",
  "site.dxf": "ground, what is there and the array, by layers",
  "surface.xml": "the surface as LandXML",
  "shots.csv": "every shot that is used",
};

interface Props {
  view: JobView;
  stage: Stage;
  run: (work: (units: Units) => Promise<JobView>) => Promise<void>;
  close: () => void;
}

/** Files out and in, and whom the job is shared with. */
export function FilesDialog({ view, stage, run, close }: Props) {
  const [wrong, setWrong] = useState<ProblemDetails | null>(null);
  const [done, setDone] = useState("");
  const take = async (file: File | undefined) => {
    if (!file) return;
    setWrong(null);
    setDone("");
    try {
      const taken = await api.importDesign(view.id, stage, view.units, file);
      await run(() => Promise.resolve(taken));
      setDone(`${file.name} is in your draft now, as one step that can be undone.`);
    } catch (error) {
      if (error instanceof Problem) setWrong(error.details);
    }
  };
  return (
    <Dialog title="Files and people" close={close}>
      <h3 className="font-semibold">Out</h3>
      <FilesOut view={view} />
      <Archive id={view.id} />
      {view.role !== "viewer" && (
        <>
          <h3 className="font-semibold">In</h3>
          <label className="mb-1 flex flex-col gap-1">
            <span>A design.json takes the place of your draft's design:</span>
            <input
              type="file"
              className="file-input file-input-sm w-full"
              accept=".json,application/json"
              data-testid="import-design"
              onChange={(event) => void take(event.target.files?.[0])}
            />
          </label>
          {done && <p role="status">{done}</p>}
          {wrong && <ProblemList details={wrong} kept="Your draft is as it was." />}
        </>
      )}
      <People id={view.id} owner={view.role === "owner"} />
    </Dialog>
  );
}

/** Every file of the job, in the unit and from the origin that are wanted. */
function FilesOut({ view }: { view: JobView }) {
  const [wanted, setWanted] = useState<Wanted>({ units: view.units, length: "", grid: 0 });
  const [refused, setRefused] = useState<ProblemDetails | null>(null);
  const bring = async (name: string) => {
    setRefused(null);
    try {
      const { content, kept } = await api.file(view.id, name, wanted);
      const address = URL.createObjectURL(content);
      const link = Object.assign(document.createElement("a"), { href: address, download: kept });
      link.click();
      URL.revokeObjectURL(address);
    } catch (error) {
      if (error instanceof Problem) setRefused(error.details);
    }
  };
  return (
    <>
      <div className="flex flex-wrap gap-3 pb-1">
        <label className="flex flex-col text-[13px]">
          Lengths in lists and drawings
          <select
            className="select select-sm"
            aria-label="Unit of files"
            value={wanted.length}
            onChange={(event) => setWanted({ ...wanted, length: event.target.value as Wanted["length"] })}
          >
            <option value="">{view.units === "us" ? "as here: feet" : "as here: metres"}</option>
            <option value="m">metres</option>
            <option value="ft">feet</option>
            <option value="in">inches</option>
            <option value="us_ft">US survey feet</option>
          </select>
        </label>
        <GridField id={view.id} grid={wanted.grid} change={(grid) => setWanted({ ...wanted, grid })} />
      </div>
      <ul className="mb-2">
        {FILES.map((name) => (
          <li key={name} className="flex min-h-9 items-baseline gap-2">
            <a
              className="link"
              href={fileAddress(view.id, name, wanted)}
              download
              onClick={(event) => {
                event.preventDefault();
                void bring(name);
              }}
            >
              {name}
            </a>
            <span className="text-secondary">{ABOUT[name]}</span>
          </li>
        ))}
      </ul>
      {refused && <ProblemList details={refused} kept="No file was made." />}
    </>
  );
}

function People({ id, owner }: { id: string; owner: boolean }) {
  const held = useQueryClient();
  const { data: members = [], error } = useQuery(queries.members(id));
  const [name, setName] = useState("");
  const [role, setRole] = useState<"editor" | "viewer">("editor");
  const share = useMutation({
    mutationFn: () => api.share(id, name, role),
    onSuccess: () => {
      setName("");
      return held.invalidateQueries({ queryKey: queries.members(id).queryKey });
    },
  });
  const wrong = wordsOf(share.error ?? error);
  return (
    <section className="mt-4" aria-label="People">
      <h3 className="font-semibold">People</h3>
      <ul>
        {members.map((member) => (
          <li key={member.name}>
            {member.name} <span className="text-secondary">{member.role}</span>
          </li>
        ))}
      </ul>
      {owner && (
        <form
          className="mt-2 flex flex-wrap gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            share.mutate();
          }}
        >
          <input
            className="input input-sm flex-1"
            aria-label="Name of the person"
            placeholder="name they sign in with"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <select
            className="select select-sm w-32"
            aria-label="What they may do"
            value={role}
            onChange={(event) => setRole(event.target.value as "editor" | "viewer")}
          >
            <option value="editor">may change</option>
            <option value="viewer">may read</option>
          </select>
          <button type="submit" className="btn btn-sm">
            Share
          </button>
          {wrong && (
            <p role="alert" className="text-error w-full">
              {wrong}
            </p>
          )}
        </form>
      )}
    </section>
  );
}
