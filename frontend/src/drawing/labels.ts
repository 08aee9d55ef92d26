import type { Mark } from "../api/client";
import { onSheet, wordWidth, type Scale } from "./scale";

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

const HEIGHT = 15;
/** Where a label that may move is tried, in pixels from where it would stand. */
const ASIDE: [number, number][] = [
  [0, 0],
  [0, -16],
  [0, 16],
  [26, -9],
  [-26, -9],
  [26, 9],
  [-26, 9],
  [0, -32],
  [0, 32],
];

const meets = (a: Box, b: Box) => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

function boxAt(x: number, y: number, mark: Mark): Box {
  const wide = wordWidth(mark.text);
  const left = mark.anchor === "start" ? x : mark.anchor === "end" ? x - wide : x - wide / 2;
  return { left: left - 2, right: left + wide + 2, top: y - HEIGHT, bottom: y + 2 };
}

/** Dots that a crew looks for: words stand beside them where there is room. */
const LOOKED_FOR = [
  ...["post", "post-hit", "hole", "load-test", "way-crossing", "shot-off"],
  ...["post-sound", "post-asked", "post-waits", "post-failed"],
];
const DOT = 5;

function dotsOf(marks: Mark[], scale: Scale): Box[] {
  return marks
    .filter((mark) => mark.kind === "dot" && LOOKED_FOR.includes(mark.layer))
    .map(({ points: [at] }) => {
      const [x, y] = [scale.x(at?.[0] ?? 0), scale.y(at?.[1] ?? 0)];
      return { left: x - DOT, right: x + DOT, top: y - DOT, bottom: y + DOT };
    });
}

/** Who gives way last, by layer. */
const FIRST = ["array-note", "way-note", "kind-note", "hole-note"];
const rank = (mark: Mark) => (FIRST.includes(mark.layer) ? FIRST.indexOf(mark.layer) : FIRST.length);

export interface Placed {
  mark: Mark;
  x: number;
  y: number;
}

/** Labels so that none hides another, nor a post where there is room: first those that stay, then those that may move or be left out. */
export function placeLabels(marks: Mark[], scale: Scale, height: number): Placed[] {
  const labels = marks.filter((mark) => mark.kind === "label" && mark.points[0]);
  const dots = dotsOf(marks, scale);
  const taken: Box[] = [];
  const placed: Placed[] = [];
  const free = labels.filter((m) => m.free).toSorted((a, b) => rank(a) - rank(b));
  for (const mark of [...labels.filter((m) => !m.free), ...free]) {
    const [east, north] = mark.points[0] as [number, number];
    const [px, py] = [scale.x(east), scale.y(north) + 4];
    // Beyond the sheet there is nothing to name; words that must be said are kept at its edge.
    if (mark.free && (px < -40 || px > scale.width + 40 || py < -10 || py > height + 10)) continue;
    const tried = (mark.free ? ASIDE : ASIDE.slice(0, 1)).map(([dx, dy]) => {
      const x = onSheet(px + dx, mark.text, mark.anchor, scale.width);
      const y = mark.free ? Math.max(HEIGHT, Math.min(py + dy, height - 4)) : py + dy;
      return { x, y, box: boxAt(x, y, mark) };
    });
    const open = mark.free ? tried.filter(({ box }) => !taken.some((other) => meets(box, other))) : tried;
    const best = open.find(({ box }) => !mark.free || !dots.some((dot) => meets(box, dot))) ?? open[0];
    if (!best) continue;
    taken.push(best.box);
    placed.push({ mark, x: best.x, y: best.y });
  }
  return placed;
}
