import { expect, test } from "vitest";
import { standingHere } from "./here";

const texts = (latitude: number, longitude: number) =>
  standingHere({ latitude, longitude, accuracy: 5 }, "Africa/Johannesburg").map(({ text }) => text);

test("each quarter of the globe is told by its letters", () => {
  expect(texts(-33.51234567, 18.9)).toEqual(["33.512346 S", "18.900000 E", "Africa/Johannesburg"]);
  expect(texts(41.2, -96.05).slice(0, 2)).toEqual(["41.200000 N", "96.050000 W"]);
  expect(texts(0, -0.5).slice(0, 2)).toEqual(["0.000000 N", "0.500000 W"]);
});
