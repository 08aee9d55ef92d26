import { expect, test } from "vitest";
import type { FieldPost, FieldView, Rung } from "../api/client";
import { saidAt } from "./ladder";
import { cutWords, metres, NOTHING, tap, written, type Cell } from "./pad";

const rung = (at: number, carries: boolean): Rung => ({
  depth_m: at * 0.025,
  depth: `${at * 25} mm`,
  carries,
  words: carries ? "sound at this depth" : `not sound at ${at * 25}`,
});
const post = { ladder: 0 } as FieldPost;
const view = (...carries: boolean[]) =>
  ({ step_m: 0.025, ladders: [carries.map((one, at) => rung(at, one))] }) as unknown as FieldView;

test("a depth on a rung is that rung's, one between two is as the worse of them", () => {
  const even = view(false, false, false, true, true);
  expect(saidAt(even, post, 0.075)?.carries).toBe(true);
  expect(saidAt(even, post, 0.0749)).toEqual({ carries: false, words: "not sound at 50" });
  const layered = view(false, true, false, true);
  expect(saidAt(layered, post, 0.025)?.carries).toBe(true);
  expect(saidAt(layered, post, 0.03)?.carries).toBe(false);
});

test("nothing is sound below the last rung, and nothing is said of no depth", () => {
  expect(saidAt(view(false, true), post, 0.025)?.carries).toBe(true);
  expect(saidAt(view(false, true), post, 0.0251)).toEqual({
    carries: false,
    words: "deeper than is looked at: ask who planned it",
  });
  expect(saidAt(view(false, true), post, NaN)).toBeNull();
  expect(saidAt({ step_m: 0.025, ladders: [] } as unknown as FieldView, post, 1)).toBeNull();
});

const typed = (cells: [Cell, string][]) =>
  cells.reduce((held, [cell, digits]) => [...digits].reduce((one, digit) => tap(one, cell, digit), held), NOTHING);

test("feet, inches and sixteenths are tapped and written as a tape is read", () => {
  const length = typed([
    ["feet", "5"],
    ["inches", "10"],
    ["sixteenths", "9"],
  ]);
  expect(written(length, "us")).toBe("5' 10 9/16\"");
  expect(metres(length, "us")).toBeCloseTo((5 * 12 + 10 + 9 / 16) * 0.0254, 10);
  expect(written(typed([["feet", "6"]]), "us")).toBe("6' 0\"");
  expect(written(typed([["mm", "1425"]]), "metric")).toBe("1425 mm");
  expect(written({ ...length, above: true }, "us")).toBe("-5' 10 9/16\"");
  expect(metres({ ...length, above: true }, "us")).toBeCloseTo(-(5 * 12 + 10 + 9 / 16) * 0.0254, 10);
  expect(metres({ ...NOTHING, mm: "40", above: true }, "metric")).toBe(-0.04);
  expect(written(NOTHING, "us")).toBe("");
  expect(metres(NOTHING, "metric")).toBeNaN();
});

test("no digit is taken that would be no mark of a tape", () => {
  expect(typed([["inches", "12"]]).inches).toBe("1");
  expect(typed([["sixteenths", "16"]]).sixteenths).toBe("1");
  expect(typed([["mm", "99999"]]).mm).toBe("9999");
  expect(typed([["feet", "07"]]).feet).toBe("7");
});

test("what is cut off is the difference to the mark, however far apart the rungs are", () => {
  expect(cutWords(0.051, true, "metric")).toBe("cut 51 mm off the top");
  expect(cutWords(0.051, false, "metric")).toBe("stands 51 mm high: not cut before it carries");
  expect(cutWords(-0.004, true, "metric")).toBe("top 4 mm too low");
  expect(cutWords(0.0004, true, "metric")).toBe("top as planned");
  expect(cutWords((1 + 9 / 16) * 0.0254, true, "us")).toBe('cut 1 9/16" off the top');
  expect(cutWords((12 + 8 / 16) * 0.0254, true, "us")).toBe("cut 1' 0 1/2\" off the top");
  expect(cutWords(-(3 / 16) * 0.0254, false, "us")).toBe('top 3/16" too low');
  expect(cutWords(NaN, true, "us")).toBe("");
});
