import { describe, expect, it } from "vitest";
import { fit, onSheet, wordWidth } from "./scale";

const drawing = (low: [number, number], high: [number, number], to_scale: boolean) => ({ low, high, to_scale });

describe("the scale of a sheet", () => {
  it("is one for both axes where a drawing is to scale, and the drawing lies in the middle", () => {
    const scale = fit(drawing([0, 0], [20, 10], true), 400, 400, 0);
    expect(scale.pixelsPerMetre).toBe(20);
    expect([scale.x(0), scale.x(20)]).toEqual([0, 400]);
    expect([scale.y(10), scale.y(0)]).toEqual([100, 300]);
    const stretched = fit(drawing([0, 0], [20, 10], false), 400, 400, 0);
    expect([stretched.y(10), stretched.y(0)]).toEqual([0, 400]);
  });

  it.each([true, false])("leads back from pixels to metres (to scale: %s)", (to_scale) => {
    const scale = fit(drawing([-7, 3], [31, 19], to_scale), 640, 333, 14);
    for (const [east, north] of [
      [-7, 3],
      [0, 0],
      [12.34, 8.9],
      [31, 19],
    ] as const) {
      expect(scale.east(scale.x(east))).toBeCloseTo(east, 9);
      expect(scale.north(scale.y(north))).toBeCloseTo(north, 9);
    }
    expect(scale.y(4)).toBeLessThan(scale.y(3));
  });

  it("bears a drawing of no extent", () => {
    const scale = fit(drawing([2, 2], [2, 2], true), 100, 100, 10);
    expect(Number.isFinite(scale.x(2)) && Number.isFinite(scale.y(2))).toBe(true);
  });
});

describe("words at the edge of a sheet", () => {
  it.each(["start", "middle", "end"] as const)("stay on it, anchored at their %s", (anchor) => {
    const words = "dig by hand at 54' 11\"";
    const before = anchor === "start" ? 0 : anchor === "middle" ? wordWidth(words) / 2 : wordWidth(words);
    for (const x of [-80, 0, 3, 250, 499, 700]) {
      const left = onSheet(x, words, anchor, 500) - before;
      expect(left).toBeGreaterThanOrEqual(6);
      expect(left + wordWidth(words)).toBeLessThanOrEqual(494.001);
    }
    expect(onSheet(250, "short", anchor, 500)).toBe(250);
  });
});
