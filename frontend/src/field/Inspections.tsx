import { useState } from "react";
import type { FieldInspection, FieldRecord, FieldView } from "../api/client";
import { State } from "../ui/State";
import type { Waiting } from "./outbox";
import { Note, useOnce } from "./Pads";
import { nowhere, recordOf } from "./record";
import { Told } from "./Told";

interface Props {
  view: FieldView;
  waiting: Waiting[];
  add: (record: FieldRecord) => Promise<void>;
}

const LEVEL = { "not asked": "nothing", asked: "look", passed: "sound", failed: "stop" } as const;
const WORDS: [FieldRecord["kind"], string][] = [
  ["asked", "Asked for"],
  ["passed", "Passed"],
  ["failed", "Not passed"],
];

/** What others have to say: asked for, passed or not, and who said what. */
export function Inspections({ view, waiting, add }: Props) {
  return (
    <ul aria-label="Inspections">
      {view.inspections.map((one) => (
        <InspectionRow
          key={one.of}
          view={view}
          one={one}
          waits={waiting.findLast(({ record }) => record.of === one.of) ?? null}
          add={add}
        />
      ))}
    </ul>
  );
}

interface RowProps {
  view: FieldView;
  one: FieldInspection;
  waits: Waiting | null;
  add: (record: FieldRecord) => Promise<void>;
}

function InspectionRow({ view, one, waits, add }: RowProps) {
  const [note, setNote] = useState("");
  // What is typed while the press before is still being kept belongs to the next.
  const say = useOnce((kind: FieldRecord["kind"], words: string) =>
    add(recordOf(kind, nowhere(one.of), words, { note })).then(() => setNote((now) => (now === note ? "" : now))),
  );
  return (
    <li className="border-b border-base-300 px-2 py-3" data-inspection={one.of}>
      <p className="flex items-baseline gap-2">
        <State level={LEVEL[one.state]} />
        <span className="text-[19px] font-semibold">{one.name}</span>
        <span className="text-secondary ml-auto text-[14px]">{one.state}</span>
      </p>
      <p className="text-secondary text-[14px]">Before {one.holds_up}.</p>
      <Told job={view.id} records={one.records} />
      {waits && <p className="state-look text-[14px]">{waits.record.typed}, on this device, not yet sent</p>}
      {view.role !== "viewer" && (
        <>
          <Note note={note} setNote={setNote} hint="who said what" />
          <div className="mt-2 grid grid-cols-3 gap-2">
            {WORDS.map(([kind, words]) => (
              <button
                key={kind}
                type="button"
                className="btn h-12!"
                disabled={kind !== "asked" && note.trim() === ""}
                onClick={() => say(kind, words)}
              >
                {words}
              </button>
            ))}
          </div>
          {note.trim() === "" && (
            <p className="text-secondary pt-1 text-[13px]">Passed or not is kept with the name of who said so.</p>
          )}
        </>
      )}
    </li>
  );
}
