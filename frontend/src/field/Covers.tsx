import { useState } from "react";
import type { FieldCover, FieldRecord, FieldView } from "../api/client";
import { State } from "../ui/State";
import type { Waiting } from "./outbox";
import { lengthOf, metres, NOTHING, written } from "./pad";
import { Between, KeepIt, LengthPad, Note, Verdict } from "./Pads";
import { Photo } from "./Photo";
import { recordOf, settledBy } from "./record";
import { Row } from "./Row";
import { Told } from "./Told";

interface Props {
  view: FieldView;
  waiting: Waiting[];
  add: (record: FieldRecord) => Promise<void>;
}

const LEVEL = { sound: "sound", shallow: "look", "not sound": "stop", asked: "look", "not yet": "nothing" } as const;
/** Less than any tape shows. */
const HAIR_M = 1e-6;

/** What a cover comes to: against what is asked for, and what was planned. */
function coverSaid(cover: FieldCover, m: number): { level: "sound" | "look" | "stop"; words: string } | null {
  if (Number.isNaN(m)) return null;
  if (m < cover.least_m - HAIR_M) return { level: "stop", words: `too shallow: ${cover.least} is asked for` };
  if (m < cover.as_planned_m) return { level: "look", words: `enough; ${cover.planned} was planned` };
  return { level: "sound", words: "as planned" };
}

/** The open trench, place by place: the tape goes in before the inspector's does. */
export function Covers({ view, waiting, add }: Props) {
  const [chosen, setChosen] = useState<string | null>(null);
  const at = view.covers.findIndex(({ of }) => of === chosen);
  const current = view.covers[at];
  if (current)
    return (
      <CoverEntry
        key={current.of}
        view={view}
        cover={current}
        add={add}
        go={(by) => setChosen(view.covers[at + by]?.of ?? null)}
        close={() => setChosen(null)}
      />
    );
  if (view.covers.length === 0) return <p className="p-3">No trench is planned yet.</p>;
  return (
    <ul aria-label="Places of the trench">
      {view.covers.map((cover) => {
        const waits = waiting.findLast(({ record }) => record.of === cover.of);
        const here = coverSaid(cover, lengthOf(waits?.record.typed ?? ""));
        return (
          <Row
            key={cover.of}
            of={cover.of}
            name={cover.name}
            about={`at least ${cover.least}`}
            value={waits?.record.typed || cover.cover}
            level={here?.level ?? LEVEL[cover.verdict]}
            words={here?.words ?? cover.words}
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
  cover: FieldCover;
  add: (record: FieldRecord) => Promise<void>;
  go: (by: -1 | 1) => void;
  close: () => void;
}

function CoverEntry({ view, cover, add, go, close }: EntryProps) {
  const [tapped, setTapped] = useState(NOTHING);
  const [note, setNote] = useState("");
  const [photo, setPhoto] = useState("");
  const said = coverSaid(cover, metres(tapped, view.units));
  const save = () =>
    add(
      recordOf("cover", cover, written(tapped, view.units), {
        note,
        photo,
        settles: settledBy("cover", cover),
      }),
    ).then(() => {
      setTapped(NOTHING);
      setNote("");
      setPhoto("");
      go(1);
    });
  return (
    <section aria-label={`Trench ${cover.name}`} className="pt-1">
      <Between name={cover.name} about="stretch, along it" what="Place" go={go} close={close} />
      <dl className="grid grid-cols-2 gap-2 py-2 text-center">
        {[
          ["asked for over it", cover.least],
          ["planned", cover.planned],
        ].map(([name, text]) => (
          <div key={name}>
            <dd className="figure text-[20px] font-semibold whitespace-nowrap">{text}</dd>
            <dt className="text-secondary text-[13px]">{name}</dt>
          </div>
        ))}
      </dl>
      <Told job={view.id} records={cover.records} />
      {view.role !== "viewer" && (
        <>
          <LengthPad units={view.units} tapped={tapped} setTapped={setTapped}>
            <Verdict sound={said ? said.level !== "stop" : null}>
              {said ? (
                <>
                  <State level={said.level} /> <span className="font-semibold">{said.words}</span>
                </>
              ) : (
                <span className="text-secondary">
                  From the ground down to the top of the pipe or cable. Nobody climbs into it to read a tape.
                </span>
              )}
            </Verdict>
          </LengthPad>
          <Note note={note} setNote={setNote} hint="rock, a line met" />
          <Photo job={view.id} photo={photo} setPhoto={setPhoto} />
          <KeepIt disabled={said === null} save={save} />
        </>
      )}
    </section>
  );
}
