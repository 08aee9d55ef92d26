import { useState } from "react";
import type { FieldLoad, FieldPart, FieldRecord, FieldView } from "../api/client";
import { State, type Level } from "../ui/State";
import { today } from "./day";
import { NO_NUMBER, valueOf } from "./numbers";
import type { Waiting } from "./outbox";
import { KeepIt, Note, NumberPad, useOnce } from "./Pads";
import { nowhere, recordOf } from "./record";
import { Told } from "./Told";

interface Props {
  view: FieldView;
  waiting: Waiting[];
  add: (record: FieldRecord) => Promise<void>;
}

const LEVEL: Record<FieldPart["verdict"], Level> = {
  "not yet": "nothing",
  there: "sound",
  short: "look",
  changed: "look",
};

/** A part with what was said of it last, on this device or before. */
interface Counted {
  part: FieldPart;
  verdict: FieldPart["verdict"];
  words: string;
  waits: boolean;
}

function counted(part: FieldPart, waiting: Waiting[]): Counted {
  const said = waiting.findLast(({ record }) => record.of === part.of)?.record;
  if (!said) return { part, verdict: part.verdict, words: part.words, waits: false };
  if (said.kind === "loaded") return { part, verdict: "there", words: "all of it there", waits: true };
  const missing = part.pieces === null ? "not all there" : `${said.typed} missing`;
  return { part, verdict: "short", words: missing, waits: true };
}

/** The load that is next: of today or later, with anything left to count; else the first such; else the first. */
function nextOf(loads: FieldLoad[], waiting: Waiting[]): string {
  const open = loads.filter(({ parts }) => parts.some((part) => counted(part, waiting).verdict === "not yet"));
  const now = today();
  return (open.find(({ day }) => day !== null && day >= now) ?? open[0] ?? loads[0])?.key ?? "";
}

/** What is counted onto the truck, or off a delivery: part by part, what stops the most first. */
export function Loads({ view, waiting, add }: Props) {
  const [chosen, choose] = useState(() => nextOf(view.loads, waiting));
  const [open, setOpen] = useState("");
  const load = view.loads.find(({ key }) => key === chosen) ?? view.loads[0];
  if (!load) return <p className="p-3">Nothing is to come before the job has its days.</p>;
  const parts = load.parts.map((part) => counted(part, waiting));
  const left = parts.filter(({ verdict }) => verdict === "not yet" || verdict === "changed").length;
  const short = parts.filter(({ verdict }) => verdict === "short").length;
  return (
    <section aria-label="Loads" className="pt-1">
      <select
        className="select h-12! w-full text-[16px]"
        aria-label="Load"
        value={load.key}
        onChange={(event) => {
          choose(event.target.value);
          setOpen("");
        }}
      >
        {view.loads.map(({ key, name, when }) => (
          <option key={key} value={key}>
            {when}: {name}
          </option>
        ))}
      </select>
      <p className="flex flex-wrap items-baseline gap-x-4 px-1 py-1 text-[15px]" role="status">
        <span>
          <span className="figure text-[22px] font-semibold">{parts.length - left}</span> of {parts.length} counted
        </span>
        {short > 0 && <span className="state-look font-semibold">{short} short</span>}
        {load.weight && <span className="text-secondary ml-auto">{load.weight} and small parts</span>}
      </p>
      <ul aria-label="Parts">
        {parts.map((one) => (
          <PartRow
            key={one.part.of}
            view={view}
            one={one}
            open={open === one.part.of}
            toggle={() => setOpen(open === one.part.of ? "" : one.part.of)}
            close={() => setOpen("")}
            add={add}
          />
        ))}
      </ul>
    </section>
  );
}

interface RowProps {
  view: FieldView;
  one: Counted;
  open: boolean;
  toggle: () => void;
  close: () => void;
  add: (record: FieldRecord) => Promise<void>;
}

function PartRow({ view, one, open, toggle, close, add }: RowProps) {
  const { part, verdict, words, waits } = one;
  const may = view.role !== "viewer";
  const there = verdict === "there";
  const all = useOnce(() => add(recordOf("loaded", nowhere(part.of), part.much)).then(close));
  return (
    <li className="border-b border-base-300" data-part={part.of}>
      <div className="flex items-stretch">
        <button
          type="button"
          className="flex min-h-16 min-w-0 flex-1 flex-col justify-center px-1 py-1 text-left"
          aria-expanded={open}
          onClick={toggle}
        >
          <span className="flex items-baseline gap-2">
            <span className="figure text-[22px] font-semibold whitespace-nowrap">{part.much}</span>
            <span className="text-[16px] leading-tight">{part.item}</span>
          </span>
          <span className="text-secondary text-[13px]">
            <State level={LEVEL[verdict]} /> {words}
            {waits && <span className="state-look">, not yet sent</span>}
          </span>
        </button>
        {may && (
          <button
            type="button"
            className={`m-1 w-16 shrink-0 border-2 text-[28px] ${there ? "border-primary bg-primary text-primary-content" : "border-base-content/40"}`}
            aria-pressed={there}
            aria-label={`All ${part.much} there: ${part.item}`}
            disabled={there}
            onClick={() => all()}
          >
            {there ? "✓" : ""}
          </button>
        )}
      </div>
      {open && (
        <div className="px-1 pb-3">
          <p className="text-secondary text-[14px]">
            {part.where} {part.weight}
          </p>
          <Told job={view.id} records={part.records} />
          {may && <Missing part={part} add={add} close={close} />}
        </div>
      )}
    </li>
  );
}

/** How many are missing, with a word of who was told. */
function Missing({ part, add, close }: Pick<RowProps, "add" | "close"> & { part: FieldPart }) {
  const [number, setNumber] = useState(NO_NUMBER);
  const [note, setNote] = useState("");
  const tapped = valueOf(number);
  const most = part.pieces ?? 1;
  const fits = Number.isInteger(tapped) && tapped >= 1 && tapped <= most;
  const say = (typed: string) => add(recordOf("short", nowhere(part.of), typed, { note })).then(close);
  const once = useOnce(say);
  if (part.pieces === null) {
    return (
      <>
        <Note note={note} setNote={setNote} hint="how much is there, who brings the rest" />
        <button type="button" className="btn mt-2 h-14! w-full text-[18px]" onClick={() => once("1")}>
          Not all of it is there
        </button>
      </>
    );
  }
  return (
    <>
      <NumberPad
        fields={[{ key: "missing", label: "missing", unit: `of ${most}` }]}
        numbers={{ missing: number }}
        setNumber={(_, next) => setNumber(next)}
      >
        {number.text !== "" && !fits && (
          <p role="alert" className="border-error my-1 border-l-4 pl-2">
            A whole number from 1 to {most}.
          </p>
        )}
      </NumberPad>
      <Note note={note} setNote={setNote} hint="who brings the rest, and when" />
      <KeepIt disabled={!fits} save={() => say(number.text)} />
    </>
  );
}
