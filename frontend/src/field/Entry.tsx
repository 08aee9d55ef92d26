import { useState } from "react";
import type { FieldPost, FieldRecord, FieldView } from "../api/client";
import { State } from "../ui/State";
import { saidAt } from "./ladder";
import { NO_NUMBER, valueOf, writtenNumber } from "./numbers";
import type { Waiting } from "./outbox";
import { cutWords, metres, NOTHING, written } from "./pad";
import { Between, KeepIt, LengthPad, Note, NumberPad, Verdict } from "./Pads";
import { Photo } from "./Photo";
import { recordOf, settledBy } from "./record";
import { Told } from "./Told";

/** A post with what this device holds of it and has not sent. */
export interface Shown {
  post: FieldPost;
  /** The newest that waits here; it speaks before what the server knows. */
  waits: Waiting | null;
}

interface Props {
  view: FieldView;
  shown: Shown;
  /** What is measured along the string: one thing at post after post. */
  kind: Kind;
  setKind: (kind: Kind) => void;
  add: (record: FieldRecord) => Promise<void>;
  go: (by: -1 | 1) => void;
  close: () => void;
}

export type Kind = "depth" | "refusal" | "top" | "plumb";
const KINDS: [Kind, string][] = [
  ["depth", "Depth reached"],
  ["refusal", "It stopped here"],
  ["top", "Rod on top"],
  ["plumb", "Off plumb"],
];
const ASKS: Record<Kind, string> = {
  depth: "Tap the depth: what it carries is read here at once.",
  refusal: "Tap the depth at which it stopped: what it carries is read here at once.",
  top: "Tap what the rod on its top reads: what to cut is read here at once.",
  plumb: "Tap what the level shows off plumb, the worse of two sides.",
};

/** One post: planned, tapped, and what that means, large enough for muddy hands and a low sun. */
export function Entry({ view, shown, kind, setKind, add, go, close }: Props) {
  const { post, waits } = shown;
  const [tapped, setTapped] = useState(NOTHING);
  const [leans, setLeans] = useState(NO_NUMBER);
  const [note, setNote] = useState("");
  const [photo, setPhoto] = useState("");
  const length = metres(tapped, view.units);
  const said = kind === "top" || kind === "plumb" ? null : saidAt(view, post, length);
  const rod = kind === "top" && !Number.isNaN(length) ? post.rod_m - length : null;
  const degrees = kind === "plumb" ? valueOf(leans) : NaN;
  const nothing = said === null && rod === null && Number.isNaN(degrees);
  const save = () =>
    add(
      recordOf(kind, post, kind === "plumb" ? writtenNumber(leans, "°") : written(tapped, view.units), {
        note,
        photo,
        settles: settledBy(kind, post),
      }),
    ).then(() => {
      setTapped(NOTHING);
      setLeans(NO_NUMBER);
      setNote("");
      setPhoto("");
      go(1);
    });
  const verdict = (
    <Verdict sound={said?.carries ?? null}>
      {said ? (
        <>
          <State level={said.carries ? "sound" : "stop"} /> <span className="font-semibold">{said.words}</span>
          <span className="figure block">{cutWords(post.planned_m - length, said.carries, view.units)}</span>
          {kind === "refusal" && !said.carries && <span className="block text-[16px]">{post.ways}</span>}
        </>
      ) : rod !== null ? (
        <span className="figure font-semibold">{cutWords(rod, post.verdict === "sound", view.units)}</span>
      ) : (
        <span className="text-secondary">{ASKS[kind]}</span>
      )}
    </Verdict>
  );
  return (
    <section aria-label={`Post ${post.name}`} className="pt-1">
      <Between name={post.name} about={post.array} what="Post" go={go} close={close} />
      <dl className="grid grid-cols-3 gap-2 py-2 text-center">
        {[
          ["planned", post.planned],
          ["on the string", post.tape],
          ["rod on top", post.rod_top],
        ].map(([name, text]) => (
          <div key={name}>
            <dd className="figure text-[20px] font-semibold whitespace-nowrap">{text}</dd>
            <dt className="text-secondary text-[13px]">{name}</dt>
          </div>
        ))}
      </dl>
      <Told job={view.id} records={post.records} />
      {post.words && !waits && <p className="text-secondary px-1 text-[14px]">{post.words}</p>}
      {waits && (
        <p className="state-look px-1 text-[14px]">
          <span className="figure">{waits.record.typed}</span> on this device, not yet sent
        </p>
      )}
      {view.role !== "viewer" && (
        <>
          <div className="mt-1 grid grid-cols-4 gap-2" role="group" aria-label="What was measured">
            {KINDS.map(([of, words]) => (
              <button
                key={of}
                type="button"
                className={`btn h-12! px-1 leading-tight ${kind === of ? "btn-primary" : ""}`}
                aria-pressed={kind === of}
                onClick={() => {
                  setKind(of);
                  setTapped({ ...tapped, above: false });
                }}
              >
                {words}
              </button>
            ))}
          </div>
          {kind === "plumb" ? (
            <NumberPad
              fields={[{ key: "leans", label: "off plumb", unit: "°" }]}
              numbers={{ leans }}
              setNumber={(_, number) => setLeans(number)}
            >
              {verdict}
            </NumberPad>
          ) : (
            <LengthPad
              units={view.units}
              tapped={tapped}
              setTapped={setTapped}
              beside={
                kind === "top" && (
                  <button
                    type="button"
                    className={`btn h-14! ${tapped.above ? "btn-primary" : ""}`}
                    aria-pressed={tapped.above}
                    onClick={() => setTapped({ ...tapped, above: !tapped.above })}
                  >
                    over the line
                  </button>
                )
              }
            >
              {verdict}
            </LengthPad>
          )}
          <Note note={note} setNote={setNote} hint="rock, water, who was asked" />
          <Photo job={view.id} photo={photo} setPhoto={setPhoto} />
          <KeepIt disabled={nothing} save={save} />
        </>
      )}
    </section>
  );
}
