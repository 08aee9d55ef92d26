import type { Units } from "../api/client";

const INCH_M = 0.0254;

/** What is tapped in: whole millimetres, or feet, inches and sixteenths. */
export interface Tapped {
  feet: string;
  inches: string;
  sixteenths: string;
  mm: string;
  /** A rod that is held downward: the top stands above the line of sight. */
  above: boolean;
}

export const NOTHING: Tapped = { feet: "", inches: "", sixteenths: "", mm: "", above: false };
export type Cell = Exclude<keyof Tapped, "above">;
export const CELLS: Record<Units, [Cell, string][]> = {
  us: [
    ["feet", "ft"],
    ["inches", "in"],
    ["sixteenths", "/16"],
  ],
  metric: [["mm", "mm"]],
};
const LONGEST: Record<Cell, number> = { feet: 2, inches: 2, sixteenths: 2, mm: 5 };
const MOST: Record<Cell, number> = { feet: 49, inches: 11, sixteenths: 15, mm: 15000 };

/** A digit more in a cell; one that would be no length of a tape is not taken. */
export function tap(tapped: Tapped, cell: Cell, digit: string): Tapped {
  const text = (tapped[cell] === "0" ? "" : tapped[cell]) + digit;
  return text.length > LONGEST[cell] || Number(text) > MOST[cell] ? tapped : { ...tapped, [cell]: text };
}

export const back = (tapped: Tapped, cell: Cell): Tapped => ({ ...tapped, [cell]: tapped[cell].slice(0, -1) });

/** As it is written for the server to read; empty where nothing was tapped. */
export function written(tapped: Tapped, units: Units): string {
  const sign = tapped.above ? "-" : "";
  if (units === "metric") return tapped.mm === "" ? "" : `${sign}${tapped.mm} mm`;
  const { feet, inches, sixteenths } = tapped;
  if (feet + inches + sixteenths === "") return "";
  const part = Number(sixteenths || "0");
  return `${sign}${feet || "0"}' ${inches || "0"}${part ? ` ${part}/16` : ""}"`;
}

/** The same in metres, to look it up before the server has read it; NaN where nothing was tapped. */
export function metres(tapped: Tapped, units: Units): number {
  if (written(tapped, units) === "") return NaN;
  const sign = tapped.above ? -1 : 1;
  if (units === "metric") return (sign * Number(tapped.mm)) / 1000;
  return sign * (Number(tapped.feet) * 12 + Number(tapped.inches) + Number(tapped.sixteenths) / 16) * INCH_M;
}

/** A length that was tapped before, back in metres; NaN for anything else. */
export function lengthOf(typed: string): number {
  const [, mm = ""] = /^(\d+) mm$/.exec(typed) ?? [];
  const [, feet = "", inches = "", part = ""] = /^(\d+)' (\d+)(?: (\d+)\/16)?"$/.exec(typed) ?? [];
  return metres({ ...NOTHING, mm, feet, inches, sixteenths: part }, mm ? "metric" : "us");
}

const common = (top: number, bottom: number): number =>
  top % 2 || bottom === 1 ? bottom : common(top / 2, bottom / 2);

/** A length as a tape shows it: whole millimetres, or feet, inches and a reduced fraction of sixteenths. */
function tape(m: number, units: Units): string {
  if (units === "metric") return `${Math.round(m * 1000)} mm`;
  const parts = Math.round((m / INCH_M) * 16);
  const [feet, inches, over] = [Math.floor(parts / 192), Math.floor(parts / 16) % 12, parts % 16];
  const bottom = over ? common(over, 16) : 1;
  const fraction = over ? `${over / (16 / bottom)}/${bottom}` : "";
  if (feet) return `${feet}' ${[inches, fraction].filter((one) => one !== "").join(" ")}"`;
  return `${[inches || (fraction ? "" : 0), fraction].filter((one) => one !== "").join(" ")}"`;
}

// What lies within the mark of a tape is as planned.
const MARK_M: Record<Units, number> = { us: INCH_M / 32, metric: 0.0005 };

/** What to do with the top of a post that stands so much higher than planned; one that does not carry is not cut. */
export function cutWords(highM: number, carries: boolean, units: Units): string {
  if (Number.isNaN(highM)) return "";
  if (Math.abs(highM) < MARK_M[units]) return "top as planned";
  const much = tape(Math.abs(highM), units);
  if (highM < 0) return `top ${much} too low`;
  return carries ? `cut ${much} off the top` : `stands ${much} high: not cut before it carries`;
}
