import { useState } from "react";
import type { FieldRecord, FieldView, Units } from "../api/client";
import { State } from "../ui/State";
import type { Shown } from "./FieldScreen";
import { saidAt } from "./ladder";
import { deviceName } from "./outbox";
import { back, CELLS, cutWords, metres, NOTHING, tap, written, type Cell } from "./pad";

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

export type Kind = "depth" | "refusal" | "top";
const KINDS: [Kind, string][] = [
  ["depth", "Depth reached"],
  ["refusal", "It stopped here"],
  ["top", "Rod on top"],
];
const ASKS: Record<Kind, string> = {
  depth: "Tap the depth: what it carries is read here at once.",
  refusal: "Tap the depth at which it stopped: what it carries is read here at once.",
  top: "Tap what the rod on its top reads: what to cut is read here at once.",
};
const DIGITS = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "0"];
const KEY = "btn figure h-14! min-w-12 text-[22px]";

/** One post: planned, tapped, and what that means, large enough for muddy hands and a low sun. */
export function Entry({ view, shown, kind, setKind, add, go, close }: Props) {
  const { post, waits } = shown;
  const units: Units = view.units;
  const cells = CELLS[units];
  const [cell, setCell] = useState<Cell>(cells[0]?.[0] ?? "mm");
  const [tapped, setTapped] = useState(NOTHING);
  const [note, setNote] = useState("");
  const length = metres(tapped, units);
  const rod = kind === "top" && !Number.isNaN(length) ? post.rod_m - length : null;
  const said = kind === "top" ? null : saidAt(view, post, length);
  const others = post.records.filter(({ by }) => by);
  const readOnly = view.role === "viewer";
  const save = () =>
    void add({
      id: crypto.randomUUID(),
      device: deviceName(),
      kind,
      of: post.of,
      typed: written(tapped, units),
      east_m: post.east_m,
      north_m: post.north_m,
      note: note.trim(),
      settles: post.verdict === "asked" ? post.records.map(({ id }) => id) : [],
      device_time: new Date().toISOString(),
    }).then(() => {
      setTapped(NOTHING);
      setNote("");
      go(1);
    });
  return (
    <section aria-label={`Post ${post.name}`} className="pt-1">
      <div className="flex items-center gap-2">
        <button type="button" className="btn h-12! min-w-12" onClick={() => go(-1)} aria-label="Post before">
          ‹
        </button>
        <h2 className="figure flex-1 text-center text-[26px] font-semibold">
          {post.name}
          {post.array && <span className="text-secondary block text-[14px] font-normal">{post.array}</span>}
        </h2>
        <button type="button" className="btn h-12! min-w-12" onClick={() => go(1)} aria-label="Post after">
          ›
        </button>
        <button type="button" className="btn h-12!" onClick={close}>
          All
        </button>
      </div>
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
      {others.map((record) => (
        <p key={record.id} className="px-1 text-[14px]">
          <span className="figure font-semibold">{record.text}</span> by {record.by}
          {record.kind === "refusal" && ", stopped"}
          {record.kind === "top" && ", rod on top"}
          {record.note && `: ${record.note}`}
        </p>
      ))}
      {post.words && !waits && <p className="text-secondary px-1 text-[14px]">{post.words}</p>}
      {waits && (
        <p className="state-look px-1 text-[14px]">
          <span className="figure">{waits.record.typed}</span> on this device, not yet sent
        </p>
      )}
      {!readOnly && (
        <>
          <div className="mt-1 grid grid-cols-3 gap-2" role="group" aria-label="What was measured">
            {KINDS.map(([of, words]) => (
              <button
                key={of}
                type="button"
                className={`btn h-12! px-1 ${kind === of ? "btn-primary" : ""}`}
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
          <div className="mt-2 flex gap-2" role="group" aria-label="Length">
            {cells.map(([of, unit]) => (
              <button
                key={of}
                type="button"
                className={`figure border-base-content/40 min-h-14 flex-1 border-2 text-[26px] font-semibold ${cell === of ? "border-primary" : ""}`}
                aria-pressed={cell === of}
                onClick={() => setCell(of)}
              >
                {tapped[of] || "–"} <span className="text-secondary text-[15px] font-normal">{unit}</span>
              </button>
            ))}
            {kind === "top" && (
              <button
                type="button"
                className={`btn h-14! ${tapped.above ? "btn-primary" : ""}`}
                aria-pressed={tapped.above}
                onClick={() => setTapped({ ...tapped, above: !tapped.above })}
              >
                over the line
              </button>
            )}
          </div>
          <p
            role="status"
            className={`my-2 min-h-20 border-l-8 px-3 py-1 text-[19px] leading-snug ${said ? (said.carries ? "border-success" : "border-error") : "border-base-300"}`}
            data-testid="verdict"
          >
            {said ? (
              <>
                <State level={said.carries ? "sound" : "stop"} /> <span className="font-semibold">{said.words}</span>
                <span className="figure block">{cutWords(post.planned_m - length, said.carries, units)}</span>
                {kind === "refusal" && !said.carries && (
                  <span className="block text-[16px]">
                    Drill, shift it inside what the span allows, or bore and set it in concrete: the engineer decides.
                  </span>
                )}
              </>
            ) : rod !== null ? (
              <span className="figure font-semibold">{cutWords(rod, post.verdict === "sound", units)}</span>
            ) : (
              <span className="text-secondary">{ASKS[kind]}</span>
            )}
          </p>
          <div className="grid grid-cols-4 gap-2" role="group" aria-label="Pad">
            {DIGITS.map((digit) => (
              <button key={digit} type="button" className={KEY} onClick={() => setTapped(tap(tapped, cell, digit))}>
                {digit}
              </button>
            ))}
            <button
              type="button"
              className={KEY}
              aria-label="Take the last digit back"
              onClick={() => setTapped(back(tapped, cell))}
            >
              ⌫
            </button>
            <button
              type="button"
              className={KEY}
              onClick={() => {
                const next = cells[(cells.findIndex(([of]) => of === cell) + 1) % cells.length];
                if (next) setCell(next[0]);
              }}
              aria-label="Next part of the length"
            >
              ⇥
            </button>
          </div>
          <label className="mt-2 flex flex-col gap-1">
            <span className="text-[14px]">Note</span>
            <input
              className="input h-12! w-full"
              maxLength={500}
              value={note}
              placeholder="rock, plumb, water"
              onChange={(event) => setNote(event.target.value)}
            />
          </label>
          <button
            type="button"
            className="btn btn-primary mt-2 h-14! w-full text-[18px]"
            disabled={said === null && rod === null}
            onClick={save}
          >
            Keep it
          </button>
        </>
      )}
    </section>
  );
}
