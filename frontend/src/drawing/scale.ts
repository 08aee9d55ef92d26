import type { Drawing } from "../api/client";

/** East and north in metres. */
export type Point = [number, number];

/** From metres to pixels of one sheet. */
export interface Scale {
  x: (metres: number) => number;
  y: (metres: number) => number;
  /** Back from pixels to metres. */
  east: (pixels: number) => number;
  north: (pixels: number) => number;
  pixelsPerMetre: number;
  width: number;
}

/** Fit a drawing into a sheet; drawings that are to scale keep one scale on both axes. */
export function fit(
  drawing: Pick<Drawing, "low" | "high" | "to_scale">,
  width: number,
  height: number,
  pad: number,
): Scale {
  const [x0, y0] = drawing.low;
  const [x1, y1] = drawing.high;
  const wide = Math.max(x1 - x0, 1e-6);
  const tall = Math.max(y1 - y0, 1e-6);
  let across = (width - 2 * pad) / wide;
  let up = (height - 2 * pad) / tall;
  if (drawing.to_scale) across = up = Math.min(across, up);
  const left = (width - wide * across) / 2;
  const top = (height - tall * up) / 2;
  return {
    x: (metres) => left + (metres - x0) * across,
    y: (metres) => top + (y1 - metres) * up,
    east: (pixels) => x0 + (pixels - left) / across,
    north: (pixels) => y1 - (pixels - top) / up,
    pixelsPerMetre: across,
    width,
  };
}

/** Condensed figures are about this wide at the size drawings use. */
const LETTER = 6.4;
const EDGE = 6;

export const wordWidth = (words: string) => words.length * LETTER;

/** Where words of this length may be anchored so that they stay on the sheet. */
export function onSheet(x: number, words: string, anchor: "start" | "middle" | "end", width: number): number {
  const long = wordWidth(words);
  const before = anchor === "start" ? 0 : anchor === "middle" ? long / 2 : long;
  return Math.max(EDGE + before, Math.min(x, width - EDGE - (long - before)));
}
