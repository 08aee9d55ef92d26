import { useState } from "react";
import type { FieldRecord, FieldString, FieldView } from "../api/client";
import { State } from "../ui/State";
import { NO_NUMBER, valueOf, writtenNumber, type Number } from "./numbers";
import type { Waiting } from "./outbox";
import { Between, KeepIt, Note, NumberPad, Verdict } from "./Pads";
import { nowhere, recordOf, settledBy } from "./record";
import { Row } from "./Row";
import { Told } from "./Told";
import { ampsSaid, voltsSaid } from "./volts";

interface Props {
  view: FieldView;
  waiting: Waiting[];
  add: (record: FieldRecord) => Promise<void>;
}

type What = "voltage" | "insulation" | "current";
const WHAT: [What, string][] = [
  ["voltage", "Open"],
  ["insulation", "To earth"],
  ["current", "Running"],
];
const WARNS: Record<What, string> = {
  voltage: "In light it is live: rated gloves and meter, nobody alone.",
  insulation: "In light it is live: rated gloves and meter, nobody alone.",
  current: "Clamp one whole wire. Never pull a plug that carries current: it burns.",
};

const LEVEL = { sound: "sound", "not sound": "stop", reversed: "stop", asked: "look", "not yet": "nothing" } as const;

/** Strings, one by one: what each gives open against its warmth, and running against its light. */
export function Strings({ view, waiting, add }: Props) {
  const [chosen, setChosen] = useState<string | null>(null);
  // Modules of one array are about as warm as each other: what was held to one is offered for the next.
  const [warm, setWarm] = useState(NO_NUMBER);
  const [what, setWhat] = useState<What>("voltage");
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
        what={what}
        setWhat={setWhat}
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
  what: What;
  setWhat: (what: What) => void;
  add: (record: FieldRecord) => Promise<void>;
  go: (by: -1 | 1) => void;
  close: () => void;
}

function StringEntry({ view, string, warm, setWarm, what, setWhat, add, go, close }: EntryProps) {
  const earth = what === "insulation";
  const [volts, setVolts] = useState(NO_NUMBER);
  const [ohms, setOhms] = useState(NO_NUMBER);
  const [light, setLight] = useState(NO_NUMBER);
  const [amps, setAmps] = useState(NO_NUMBER);
  const [note, setNote] = useState("");
  const said =
    what === "voltage"
      ? voltsSaid(view, string, valueOf(volts), valueOf(warm))
      : what === "current"
        ? ampsSaid(view, string, valueOf(amps), valueOf(light))
        : null;
  const wanted = { voltage: [volts, warm], insulation: [ohms], current: [amps, light] }[what];
  const ready = wanted.every((number) => !Number.isNaN(valueOf(number)));
  const insulated = valueOf(ohms) >= view.least_insulation_mohm;
  const SET: Record<string, (number: Number) => void> = {
    warm: setWarm,
    volts: setVolts,
    ohms: setOhms,
    light: setLight,
    amps: setAmps,
  };
  const save = () => {
    const record = earth
      ? recordOf("insulation", nowhere(string.of), writtenNumber(ohms, "MΩ"), {
          note,
          settles: settledBy("insulation", string),
        })
      : what === "current"
        ? recordOf("current", nowhere(string.of), writtenNumber(amps, "A"), {
            note,
            settles: settledBy("current", string),
            beside: writtenNumber(light, "W/m²"),
          })
        : recordOf("voltage", nowhere(string.of), writtenNumber(volts, "V"), {
            note,
            settles: settledBy("voltage", string),
            beside: writtenNumber(warm, view.warm_unit),
          });
    return add(record).then(() => {
      setVolts(NO_NUMBER);
      setOhms(NO_NUMBER);
      setAmps(NO_NUMBER);
      setLight(NO_NUMBER);
      setNote("");
      go(1);
    });
  };
  const asks = earth
    ? "Isolated from the inverter, plus and minus together to earth. At least " + `${view.least_insulation_mohm} MΩ.`
    : what === "current"
      ? `In steady light of ${view.least_light_w_m2} W/m² at least: a sensor in the plane of the glass, then the clamp.`
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
          <p className="border-warning my-1 border-l-4 pl-2 text-[14px]">{WARNS[what]}</p>
          <div className="mt-1 grid grid-cols-3 gap-2" role="group" aria-label="What is measured">
            {WHAT.map(([of, words]) => (
              <button
                key={words}
                type="button"
                className={`btn h-12! px-1 ${what === of ? "btn-primary" : ""}`}
                aria-pressed={what === of}
                onClick={() => setWhat(of)}
              >
                {words}
              </button>
            ))}
          </div>
          <NumberPad
            key={what}
            fields={
              earth
                ? [{ key: "ohms", label: "to earth", unit: "MΩ" }]
                : what === "current"
                  ? [
                      { key: "light", label: "light", unit: "W/m²" },
                      { key: "amps", label: "clamp shows", unit: "A" },
                    ]
                  : [
                      { key: "warm", label: "modules at", unit: view.warm_unit, signed: true },
                      { key: "volts", label: "meter shows", unit: "V", signed: true },
                    ]
            }
            numbers={{ warm, volts, ohms, light, amps }}
            setNumber={(key, number) => SET[key]?.(number)}
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
