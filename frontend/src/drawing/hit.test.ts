import { describe, expect, it } from "vitest";
import type { Mark } from "../api/client";
import { thingAt } from "./hit";

const mark = (kind: Mark["kind"], of: string, points: [number, number][], counts: number[] = []): Mark => ({
  kind,
  of,
  points,
  counts,
  layer: "x",
  text: "",
  offset: 0,
  anchor: "middle",
  free: false,
});
const square = (of: string, x: number, y: number, side: number) =>
  mark("area", of, [
    [x, y],
    [x + side, y],
    [x + side, y + side],
    [x, y + side],
  ]);

describe("what a hand means on the plan", () => {
  it("is the nearest line within reach, between its points too", () => {
    const lines = [
      mark("line", "pipe", [
        [0, 0],
        [10, 0],
      ]),
      mark("line", "drain", [
        [0, 1],
        [10, 1],
      ]),
    ];
    expect(thingAt(lines, [5, 0.3], 0.6)).toBe("pipe");
    expect(thingAt(lines, [5, 0.8], 0.6)).toBe("drain");
    expect(thingAt(lines, [5, 3], 0.6)).toBeNull();
    // Beyond its end a line reaches no further than a dot.
    expect(thingAt(lines, [10.5, 0], 0.6)).toBe("pipe");
    expect(thingAt(lines, [11, 0], 0.6)).toBeNull();
  });

  it("is a line or a dot before the area it lies in, and the smallest of areas", () => {
    const marks = [
      square("land", -50, -50, 100),
      square("house", 0, 0, 8),
      mark("line", "pipe", [
        [0, 4],
        [8, 4],
      ]),
      mark("dot", "gate", [[2, 2]]),
    ];
    expect(thingAt(marks, [4, 4.2], 0.5)).toBe("pipe");
    expect(thingAt(marks, [2.1, 2.1], 0.5)).toBe("gate");
    expect(thingAt(marks, [6, 6.5], 0.5)).toBe("house");
    expect(thingAt(marks, [30, 30], 0.5)).toBe("land");
    expect(thingAt(marks, [80, 0], 0.5)).toBeNull();
  });

  it("is not the hole of an area", () => {
    const ring: [number, number][] = [
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10],
      [4, 4],
      [6, 4],
      [6, 6],
      [4, 6],
    ];
    const pond = mark("rings", "pond", ring, [4, 4]);
    expect(thingAt([pond], [1, 1], 0.1)).toBe("pond");
    expect(thingAt([pond], [5, 5], 0.1)).toBeNull();
  });

  it("is never a label, nor a mark that draws no thing", () => {
    expect(
      thingAt([mark("label", "name", [[0, 0]]), mark("dot", "", [[0, 0]]), mark("line", "empty", [])], [0, 0], 1),
    ).toBeNull();
  });
});
