import type { Mark } from "../api/client";
import type { Point } from "./scale";

/** Distance of a place from a stretch between two points. */
function fromStretch([x, y]: Point, [ax, ay]: Point, [bx, by]: Point): number {
  const [dx, dy] = [bx - ax, by - ay];
  const long = dx * dx + dy * dy;
  const along = long === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / long));
  return Math.hypot(x - ax - along * dx, y - ay - along * dy);
}

function outlines(mark: Mark): Point[][] {
  if (mark.kind !== "rings") return [mark.points];
  let at = 0;
  return mark.counts.map((count) => mark.points.slice(at, (at += count)));
}

/** Whether a place lies inside outlines, of which one inside another is a hole. */
function inside([x, y]: Point, rings: Point[][]): boolean {
  let odd = false;
  for (const ring of rings) {
    ring.forEach(([ax, ay], index) => {
      const [bx, by] = ring[(index + 1) % ring.length] as Point;
      if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) odd = !odd;
    });
  }
  return odd;
}

function reachOf(points: Point[]): number {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return (Math.max(...xs) - Math.min(...xs)) * (Math.max(...ys) - Math.min(...ys));
}

/** The path of the thing a hand means: the nearest point or line within reach, else the smallest area round it. */
export function thingAt(marks: Mark[], at: Point, reach_m: number): string | null {
  let nearest: string | null = null;
  let away = reach_m;
  let around: string | null = null;
  let size = Infinity;
  for (const mark of marks) {
    if (!mark.of || mark.kind === "label" || mark.points.length === 0) continue;
    if (mark.kind === "area" || mark.kind === "rings") {
      const wide = reachOf(mark.points);
      if (wide < size && inside(at, outlines(mark))) [around, size] = [mark.of, wide];
      continue;
    }
    const first = mark.points[0] as Point;
    const distance = Math.min(
      ...mark.points.map((point, index) =>
        fromStretch(at, point, mark.points[index + 1] ?? (mark.kind === "dot" ? first : point)),
      ),
    );
    if (distance <= away) [nearest, away] = [mark.of, distance];
  }
  return nearest ?? around;
}
