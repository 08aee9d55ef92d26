import { describe, expect, it } from "vitest";
import { shared } from "./shared";

const view = () => ({
  stage: {
    answers: [
      { key: "depth", text: "9' 4\"" },
      { key: "posts", text: "9" },
    ],
    drawings: [{ low: [0, 0], marks: [1, 2] }],
  },
  moved: [] as string[],
});

describe("an answer that comes anew", () => {
  it("is the old one where nothing changed", () => {
    const old = view();
    expect(shared(old, view())).toBe(old);
  });

  it("keeps every part that did not change, and only those", () => {
    const old = view();
    const next = view();
    next.stage.answers[0] = { key: "depth", text: "9' 0\"" };
    const both = shared(old, next);
    expect(both).toEqual(next);
    expect(both).not.toBe(old);
    expect(both.stage.answers[0]).not.toBe(old.stage.answers[0]);
    expect(both.stage.answers[1]).toBe(old.stage.answers[1]);
    expect(both.stage.drawings).toBe(old.stage.drawings);
    expect(old).toEqual(view());
  });

  it.each([
    [
      [1, 2, 3],
      [1, 2],
    ],
    [
      [1, 2],
      [1, 2, 3],
    ],
    [{ a: 1 }, { a: 1, b: undefined }],
    [{ a: 1, b: 2 }, { a: 1 }],
    [{ a: null }, { a: {} }],
    [[], {}],
    [null, [0]],
    ["x", { x: 1 }],
  ])("is the new one where %j became %j", (old, next) => {
    const found = shared<unknown>(old, next);
    expect(found).toStrictEqual(next);
    expect(found).not.toBe(old);
  });
});
