import { useRef, useState, type ReactNode } from "react";
import type { Units } from "../api/client";
import { backNumber, tapNumber, type Number } from "./numbers";
import { takeOnce } from "./once";
import { back, CELLS, tap, type Cell, type Tapped } from "./pad";

const DIGITS = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "0"];
const KEY = "btn figure h-14! min-w-12 text-[22px]";
const BOX = "figure border-base-content/40 min-h-14 flex-1 border-2 text-[26px] font-semibold";

function Keys({ digit, remove, last }: { digit: (key: string) => void; remove: () => void; last: ReactNode }) {
  return (
    <div className="grid grid-cols-4 gap-2" role="group" aria-label="Pad">
      {DIGITS.map((key) => (
        <button key={key} type="button" className={KEY} onClick={() => digit(key)}>
          {key}
        </button>
      ))}
      <button type="button" className={KEY} aria-label="Take the last digit back" onClick={remove}>
        ⌫
      </button>
      {last}
    </div>
  );
}

interface LengthProps {
  units: Units;
  tapped: Tapped;
  setTapped: (tapped: Tapped) => void;
  /** What stands beside the cells. */
  beside?: ReactNode;
  /** What stands between the cells and the pad: what is read at once. */
  children: ReactNode;
}

/** A length by thumb: feet, inches and sixteenths, or millimetres. */
export function LengthPad({ units, tapped, setTapped, beside, children }: LengthProps) {
  const cells = CELLS[units];
  const [cell, setCell] = useState<Cell>(cells[0]?.[0] ?? "mm");
  const next = cells[(cells.findIndex(([of]) => of === cell) + 1) % cells.length];
  return (
    <>
      <div className="mt-2 flex gap-2" role="group" aria-label="Length">
        {cells.map(([of, unit]) => (
          <button
            key={of}
            type="button"
            className={`${BOX} ${cell === of ? "border-primary" : ""}`}
            aria-pressed={cell === of}
            onClick={() => setCell(of)}
          >
            {tapped[of] || "–"} <span className="text-secondary text-[15px] font-normal">{unit}</span>
          </button>
        ))}
        {beside}
      </div>
      {children}
      <Keys
        digit={(digit) => setTapped(tap(tapped, cell, digit))}
        remove={() => setTapped(back(tapped, cell))}
        last={
          <button
            type="button"
            className={KEY}
            onClick={() => next && setCell(next[0])}
            aria-label="Next part of the length"
          >
            ⇥
          </button>
        }
      />
    </>
  );
}

/** A quantity that is tapped: what it is called, its unit, what has been tapped of it. */
export interface Tapping {
  key: string;
  label: string;
  unit: string;
  signed?: boolean;
}

interface NumberProps {
  fields: Tapping[];
  numbers: Record<string, Number>;
  setNumber: (key: string, number: Number) => void;
  children: ReactNode;
}

/** Numbers by thumb, one after the other, each with its unit. */
export function NumberPad({ fields, numbers, setNumber, children }: NumberProps) {
  const [at, setAt] = useState(fields[0]?.key ?? "");
  const field = fields.find(({ key }) => key === at) ?? fields[0];
  if (!field) return null;
  const number = numbers[field.key] ?? { text: "", negative: false };
  return (
    <>
      <div className="mt-2 flex gap-2" role="group" aria-label="Numbers">
        {fields.map(({ key, label, unit }) => {
          const held = numbers[key];
          return (
            <button
              key={key}
              type="button"
              className={`${BOX} ${field.key === key ? "border-primary" : ""}`}
              aria-pressed={field.key === key}
              onClick={() => setAt(key)}
            >
              <span className="text-secondary block text-[13px] font-normal">{label}</span>
              {held?.negative ? "−" : ""}
              {held?.text || "–"} <span className="text-secondary text-[15px] font-normal">{unit}</span>
            </button>
          );
        })}
      </div>
      {children}
      <Keys
        digit={(key) => setNumber(field.key, tapNumber(number, key))}
        remove={() => setNumber(field.key, backNumber(number))}
        last={
          <button type="button" className={KEY} onClick={() => setNumber(field.key, tapNumber(number, "."))}>
            .
          </button>
        }
      />
      {field.signed && (
        <button
          type="button"
          className="btn mt-2 h-12! w-full"
          aria-pressed={number.negative}
          onClick={() => setNumber(field.key, { ...number, negative: !number.negative })}
        >
          {number.negative ? "the meter shows minus" : "minus on the meter"}
        </button>
      )}
    </>
  );
}

/** What is read at once of what was tapped, large, with its state by the side. */
export function Verdict({ sound, children }: { sound: boolean | null; children: ReactNode }) {
  const edge = sound === null ? "border-base-300" : sound ? "border-success" : "border-error";
  return (
    <p
      role="status"
      className={`my-2 min-h-20 border-l-8 px-3 py-1 text-[19px] leading-snug ${edge}`}
      data-testid="verdict"
    >
      {children}
    </p>
  );
}

/** A note, and what goes with it. */
export function Note({ note, setNote, hint }: { note: string; setNote: (note: string) => void; hint: string }) {
  return (
    <label className="mt-2 flex flex-col gap-1">
      <span className="text-[14px]">Note</span>
      <input
        className="input h-12! w-full"
        maxLength={500}
        value={note}
        placeholder={hint}
        onChange={(event) => setNote(event.target.value)}
      />
    </label>
  );
}

/** What a press does, once for the same: a thumb that comes down twice writes one. */
export function useOnce<A extends unknown[]>(save: (...of: A) => Promise<void>) {
  const kept = useRef(new Set<string>());
  return (...of: A) => takeOnce(kept.current, of, () => save(...of));
}

export function KeepIt({ disabled, save }: { disabled: boolean; save: () => Promise<void> }) {
  const once = useOnce(save);
  return (
    <button
      type="button"
      className="btn btn-primary mt-2 h-14! w-full text-[18px]"
      disabled={disabled}
      onClick={() => once()}
    >
      Keep it
    </button>
  );
}

/** One thing in hand: its name, the one before and after, and the way back to all. */
export function Between({
  name,
  about,
  what,
  go,
  close,
}: {
  name: string;
  about: string;
  what: string;
  go: (by: -1 | 1) => void;
  close: () => void;
}) {
  return (
    <div className="flex items-center gap-2">
      <button type="button" className="btn h-12! min-w-12" onClick={() => go(-1)} aria-label={`${what} before`}>
        ‹
      </button>
      <h2 className="figure flex-1 text-center text-[26px] font-semibold">
        {name}
        {about && <span className="text-secondary block text-[14px] font-normal">{about}</span>}
      </h2>
      <button type="button" className="btn h-12! min-w-12" onClick={() => go(1)} aria-label={`${what} after`}>
        ›
      </button>
      <button type="button" className="btn h-12!" onClick={close}>
        All
      </button>
    </div>
  );
}
