import type { NamedPlace } from "../../api/client";
import type { Point, Scale } from "../../drawing/scale";

/** A hand places a stake to a tenth of a metre, or to a few inches. */
const GRID_M = 0.1;
const REACH_PX = 11;

/** The named place that a hand most likely means, else the next tenth of a metre. */
export function snapTo(at: Point, places: NamedPlace[], scale: Scale | null): Point {
  const reach = scale ? REACH_PX / scale.pixelsPerMetre : 0.3;
  const away = (place: NamedPlace) => Math.hypot(place.east_m - at[0], place.north_m - at[1]);
  const near = places.reduce<NamedPlace | null>(
    (best, place) => (away(place) < (best ? away(best) : reach) ? place : best),
    null,
  );
  if (near) return [near.east_m, near.north_m];
  return [Math.round(at[0] / GRID_M) * GRID_M, Math.round(at[1] / GRID_M) * GRID_M];
}

/** Places in metres to a tenth of a millimetre, so that those that were not moved stay what they were. */
export const inMetres = (points: Point[]) =>
  points.map(([east, north]) => `${east.toFixed(4)} m, ${north.toFixed(4)} m`).join("\n");

const FOOT_M = 0.3048;

/** A place as it would be typed, to a few millimetres in either system. */
export const written = (at: Point, units: "us" | "metric") =>
  at.map((metres) => (units === "us" ? `${(metres / FOOT_M).toFixed(2)} ft` : `${metres.toFixed(3)} m`)).join(", ");
