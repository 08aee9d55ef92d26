import { expect, test } from "vitest";
import type { FieldString, FieldView } from "../api/client";
import { backNumber, NO_NUMBER, tapNumber, valueOf, writtenNumber } from "./numbers";
import { ampsSaid, voltsSaid } from "./volts";

const string = { warmth: 0, modules: 10 } as FieldString;
/** Ten volts less for each degree, so that what lies between two of them is seen. */
const view = {
  warmths: [
    [20, 21, 22].map((warm) => {
      const expected = 500 - 10 * (warm - 20);
      return { warm, expected_v: expected, low_v: expected * 0.95, high_v: expected * 1.05 };
    }),
  ],
} as unknown as FieldView;
const said = (volts: number, warm: number) => voltsSaid(view, string, volts, warm);

test("a voltage is sound between the bounds of its degree, both of them among it", () => {
  for (const volts of [475, 500, 525]) expect(said(volts, 20)?.sound).toBe(true);
  for (const volts of [474.9, 525.1]) expect(said(volts, 20)?.sound).toBe(false);
});

test("between two degrees both must hold it", () => {
  // 475 to 525 at 20, 465.5 to 514.5 at 21.
  expect(said(475, 20.5)?.sound).toBe(true);
  expect(said(514.5, 20.5)?.sound).toBe(true);
  expect(said(470, 20.5)?.sound).toBe(false);
  expect(said(520, 20.5)?.sound).toBe(false);
});

test("a reversed plug is told before anything else is known, a missing module by its number", () => {
  expect(said(-500, NaN)).toEqual({ sound: false, words: "plus is on minus: a plug is reversed" });
  expect(said(450, 20)?.words).toContain("as if 1 module fewer");
  expect(said(600, 20)?.words).toContain("as if 2 modules more");
  // Of four modules one is a quarter: so little less is none of them.
  expect(voltsSaid(view, { ...string, modules: 4 }, 473, 20)?.words).toContain("look for shade");
});

test("nothing is sound at a warmth that is not known, nor without one", () => {
  expect(said(500, NaN)).toBeNull();
  expect(said(NaN, 20)).toBeNull();
  expect(said(500, 22.5)).toEqual({ sound: false, words: "no module is so cold or so warm" });
  expect(said(500, 400)?.sound).toBe(false);
});

test("a number is tapped digit by digit, with one point, and written with its unit", () => {
  const tapped = [..."410.5.2"].reduce(tapNumber, NO_NUMBER);
  expect(tapped.text).toBe("410.52");
  expect(writtenNumber(tapped, "V")).toBe("410.52 V");
  expect(valueOf({ ...tapped, negative: true })).toBe(-410.52);
  expect(writtenNumber({ text: "12.", negative: true }, "V")).toBe("-12 V");
  expect([..."0075"].reduce(tapNumber, NO_NUMBER).text).toBe("75");
  expect(tapNumber(NO_NUMBER, ".").text).toBe("");
  expect(backNumber(backNumber(tapped)).text).toBe("410.");
  expect(writtenNumber(NO_NUMBER, "V")).toBe("");
  expect(Number.isNaN(valueOf(NO_NUMBER))).toBe(true);
  // More digits than any meter shows are not taken.
  expect([..."123456789"].reduce(tapNumber, NO_NUMBER).text).toBe("1234567");
});

test("a current is told by its light, and not at all in too little of it", () => {
  const view = { least_light_w_m2: 400 } as FieldView;
  const string = { low_a: 9, high_a: 13 } as FieldString;
  expect(ampsSaid(view, string, NaN, 800)).toBeNull();
  expect(ampsSaid(view, string, 8, NaN)).toBeNull();
  expect(ampsSaid(view, string, 3.9, 390)?.words).toContain("wait for 400 W/m²");
  // 800 W/m²: 8 A, a tenth less, or a tenth and what the back gives more.
  const said = (amps: number) => ampsSaid(view, string, amps, 800)?.sound;
  expect([7.19, 7.21, 8, 10.39, 10.41].map(said)).toEqual([false, true, true, true, false]);
});
