import { describe, expect, it } from "vitest";
import type { Mark } from "../api/client";
import { placeLabels, type Placed } from "./labels";
import { fit, wordWidth } from "./scale";

const label = (text: string, at: [number, number], free = true, layer = "kind-note"): Mark => ({
  kind: "label",
  layer,
  text,
  points: [at],
  offset: 0,
  anchor: "middle",
  counts: [],
  free,
  of: "",
});
const SHEET = { low: [0, 0], high: [100, 60], to_scale: true } as const;
const scale = fit({ low: [...SHEET.low], high: [...SHEET.high], to_scale: true }, 1000, 600, 0);

const box = ({ mark, x, y }: Placed) => ({
  left: x - wordWidth(mark.text) / 2,
  right: x + wordWidth(mark.text) / 2,
  top: y - 15,
  bottom: y + 2,
});
const hides = (a: Placed, b: Placed) => {
  const [one, other] = [box(a), box(b)];
  return one.left < other.right && other.left < one.right && one.top < other.bottom && other.top < one.bottom;
};

/** A row of numbers that looks random and is always the same. */
function numbers(count: number, seed: number): number[] {
  let state = seed;
  return Array.from({ length: count }, () => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648);
}

describe("labels of a drawing", () => {
  it.each([1, 2, 3, 4, 5])("hide none of each other however crowded the sheet, set %i", (seed) => {
    const at = numbers(160, seed);
    const marks = Array.from({ length: 80 }, (_, k) =>
      label(`thing ${k}`, [(at[2 * k] ?? 0) * 100, (at[2 * k + 1] ?? 0) * 60]),
    );
    const placed = placeLabels(marks, scale, 600);
    expect(placed.length).toBeGreaterThan(30);
    placed.forEach((one, index) => {
      for (const other of placed.slice(index + 1))
        expect(hides(one, other), `${one.mark.text} over ${other.mark.text}`).toBe(false);
      expect(box(one).left).toBeGreaterThanOrEqual(0);
      expect(box(one).right).toBeLessThanOrEqual(1000);
    });
  });

  it("that must be said stay where they are; free ones make room or are left out", () => {
    const fixed = label("post 4", [50, 30], false);
    const placed = placeLabels([label("a long name that wants the same place", [50, 30]), fixed], scale, 600);
    const [first, second] = placed;
    expect(first?.mark).toBe(fixed);
    expect([first?.x, first?.y]).toEqual([500, 304]);
    expect(second && hides(second, first as Placed)).toBe(false);
    const crowd = Array.from({ length: 30 }, () => label("the very same place", [50, 30]));
    const left = placeLabels(crowd, scale, 600);
    expect(left.length).toBeGreaterThan(1);
    expect(left.length).toBeLessThan(12);
  });

  it("stand beside a post rather than on it, and on it rather than nowhere", () => {
    const post = (at: [number, number]): Mark => ({ ...label("", at), kind: "dot", layer: "post" });
    const [beside] = placeLabels([label("west hole", [50, 30]), post([50, 30.2])], scale, 600);
    expect(beside?.y).not.toBe(304);
    expect(Math.abs((beside?.y ?? 0) - 304)).toBeLessThan(33);
    const wall = Array.from({ length: 400 }, (_, k) => post([45 + (k % 20) / 2, 25 + Math.floor(k / 20) / 2]));
    const [on] = placeLabels([label("west hole", [50, 30]), ...wall], scale, 600);
    expect(on && [on.x, on.y]).toEqual([500, 304]);
  });

  it("of the array come before those of what is there, and those beyond the sheet are not drawn", () => {
    const placed = placeLabels(
      [label("pump house", [50, 30]), label("36 modules", [50, 30], true, "array-note"), label("far away", [300, 30])],
      scale,
      600,
    );
    expect(placed.map(({ mark }) => mark.text)).toEqual(["36 modules", "pump house"]);
    expect(placed[0]?.y).toBe(304);
  });
});
