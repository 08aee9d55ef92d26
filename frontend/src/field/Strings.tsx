import { useState } from "react";
import type { FieldRecord, FieldString, FieldView } from "../api/client";
import { State } from "../ui/State";
import { NO_NUMBER, valueOf, writtenNumber, type Number } from "./numbers";
import type { Waiting } from "./outbox";
import { Between, KeepIt, Note, NumberPad, Verdict } from "./Pads";
import { nowhere, recordOf, settledBy } from "./record";
import { Row } from "./Row";
import { Told } from "./Told";
import { voltsSaid } from "./volts";

interface Props {
  view: FieldView;
  waiting: Waiting[];
  add: (record: FieldRecord) => Promise<void>;
}

const LEVEL = { sound: "sound", "not sound": "stop", reversed: "stop", asked: "look", "not yet": "nothing" } as const;

/** Strings, one by one before they are joined: what each gives, against what its warmth says. */
export function Strings({ view, waiting, add }: Props) {
  const [chosen, setChosen] = useState<string | null>(null);
  // Modules of one array are about as warm as each other: what was held to one is offered for the next.
  const [warm, setWarm] = useState(NO_NUMBER);
  const at = view.strings.findIndex(({ of }) => of === chosen);
  const current = view.strings[at];
  if (current)
    return (
      <StringEntry
        key={current.of}
        view={view}
        string={current}
        warm={warm}
        setWarm={setWarm}
        add={add}
        go={(by) => setChosen(view.strings[at + by]?.of ?? null)}
        close={() => setChosen(null)}
      />
    );
  if (view.strings.length === 0) return <p className="p-3">Nothing is wired yet.</p>;
  return (
    <ul aria-label="Strings">
      {view.strings.map((string) => {
        const waits = waiting.findLast(({ record }) => record.of === string.of);
        return (
          <Row
            key={string.of}
            of={string.of}
            name={string.name}
            about={`${string.modules} modules${string.array && `, ${string.array}`}`}
            value={waits?.record.typed || string.volts}
            level={LEVEL[string.verdict]}
            words={string.words}
            waits={waits !== undefined}
            choose={setChosen}
          />
        );
      })}
    </ul>
  );
}

interface EntryProps {
  view: FieldView;
  string: FieldString;
  warm: Number;
  setWarm: (number: Number) => void;
  add: (record: FieldRecord) => Promise<void>;
  go: (by: -1 | 1) => void;
  close: () => void;
}

function StringEntry({ view, string, warm, setWarm, add, go, close }: EntryProps) {
  const [earth, setEarth] = useState(false);
  const [volts, setVolts] = useState(NO_NUMBER);
  const [ohms, setOhms] = useState(NO_NUMBER);
  const [note, setNote] = useState("");
  const said = earth ? null : voltsSaid(view, string, valueOf(volts), valueOf(warm));
  const ready = earth ? !Number.isNaN(valueOf(ohms)) : !Number.isNaN(valueOf(volts)) && !Number.isNaN(valueOf(warm));
  const insulated = valueOf(ohms) >= view.least_insulation_mohm;
  const save = () => {
    const record = earth
      ? recordOf("insulation", nowhere(string.of), writtenNumber(ohms, "MΩ"), {
          note,
          settles: settledBy("insulation", string),
        })
      : recordOf("voltage", nowhere(string.of), writtenNumber(volts, "V"), {
          note,
          settles: settledBy("voltage", string),
          beside: writtenNumber(warm, view.warm_unit),
        });
    void add(record).then(() => {
      setVolts(NO_NUMBER);
      setOhms(NO_NUMBER);
      setNote("");
      go(1);
    });
  };
  const asks = earth
    ? "Isolated from the inverter, plus and minus together to earth. At least " + `${view.least_insulation_mohm} MΩ.`
    : "Hold a thermometer to the back of a module, then read the string, plus on plus.";
  return (
    <section aria-label={`String ${string.name}`} className="pt-1">
      <Between
        name={string.name}
        about={`${string.modules} modules${string.array && `, ${string.array}`}`}
        what="String"
        go={go}
        close={close}
      />
      <Told job={view.id} records={string.records} />
      {string.words && <p className="text-secondary px-1 text-[14px]">{string.words}</p>}
      {view.role !== "viewer" && (
        <>
          <p className="border-warning my-1 border-l-4 pl-2 text-[14px]">
            In light it is live: rated gloves and meter, nobody alone.
          </p>
          <div className="mt-1 grid grid-cols-2 gap-2" role="group" aria-label="What is measured">
            {(
              [
                [false, "Voltage, open"],
                [true, "To earth"],
              ] as const
            ).map(([of, words]) => (
              <button
                key={words}
                type="button"
                className={`btn h-12! ${earth === of ? "btn-primary" : ""}`}
                aria-pressed={earth === of}
                onClick={() => setEarth(of)}
              >
                {words}
              </button>
            ))}
          </div>
          <NumberPad
            key={String(earth)}
            fields={
              earth
                ? [{ key: "ohms", label: "to earth", unit: "MΩ" }]
                : [
                    { key: "warm", label: "modules at", unit: view.warm_unit, signed: true },
                    { key: "volts", label: "meter shows", unit: "V", signed: true },
                  ]
            }
            numbers={{ warm, volts, ohms }}
            setNumber={(key, number) => (key === "warm" ? setWarm : key === "volts" ? setVolts : setOhms)(number)}
          >
            <Verdict sound={said?.sound ?? (earth && ready ? insulated : null)}>
              {said ? (
                <>
                  <State level={said.sound ? "sound" : "stop"} /> <span className="font-semibold">{said.words}</span>
                </>
              ) : earth && ready ? (
                <>
                  <State level={insulated ? "sound" : "stop"} />{" "}
                  <span className="font-semibold">
                    {insulated ? "insulated" : "not insulated: leave it open, find the wire"}
                  </span>
                </>
              ) : (
                <span className="text-secondary">{asks}</span>
              )}
            </Verdict>
          </NumberPad>
          <Note note={note} setNote={setNote} hint="cloud, shade, which meter" />
          <KeepIt disabled={!ready} save={save} />
        </>
      )}
    </section>
  );
}
