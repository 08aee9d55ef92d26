import { describe, expect, it } from "vitest";
import type { NamedPlace } from "../../api/client";
import { fit } from "../../drawing/scale";
import { inMetres, snapTo, written } from "./snap";

const place = (name: string, east_m: number, north_m: number): NamedPlace => ({
  name,
  of: "",
  east_m,
  north_m,
  text: "",
});
const PLACES = [place("pin", 10.037, 5.021), place("corner", 10.4, 5)];
const scale = fit({ low: [0, 0], high: [50, 50], to_scale: true }, 500, 500, 0);

describe("pointing", () => {
  it("takes the named place that is nearest within a finger's reach", () => {
    expect(snapTo([10.1, 5.1], PLACES, scale)).toEqual([10.037, 5.021]);
    expect(snapTo([10.35, 5], PLACES, scale)).toEqual([10.4, 5]);
    // Eleven pixels are a metre here; brought nearer they are less.
    expect(snapTo([11.4, 5], PLACES, scale)).toEqual([10.4, 5]);
    const near = fit({ low: [8, 3], high: [13, 8], to_scale: true }, 500, 500, 0);
    expect(snapTo([11.4, 5], PLACES, near)).toEqual([11.4, 5]);
  });

  it("else takes the next tenth of a metre", () => {
    const [east, north] = snapTo([30.26, -7.449], PLACES, scale);
    expect(east).toBeCloseTo(30.3, 9);
    expect(north).toBeCloseTo(-7.4, 9);
  });
});

describe("places in writing", () => {
  it("keep those that were not moved to a tenth of a millimetre", () => {
    expect(
      inMetres([
        [31.27, 25.35],
        [-0.00004, 1 / 3],
      ]),
    ).toBe("31.2700 m, 25.3500 m\n-0.0000 m, 0.3333 m");
  });

  it("are in the reader's units to a few millimetres", () => {
    expect(written([3.048, -1.524], "us")).toBe("10.00 ft, -5.00 ft");
    expect(written([3.048, -1.524], "metric")).toBe("3.048 m, -1.524 m");
  });
});
