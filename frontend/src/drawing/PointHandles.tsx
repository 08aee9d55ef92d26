import { useDrag } from "@use-gesture/react";
import { useState, type KeyboardEvent } from "react";
import type { Point, Scale } from "./scale";

/** A step of an arrow key, as a hand places a stake. */
const STEP_M = 0.1;
/** A press that strays no further than this moves nothing. */
const STILL_PX = 3;
const WAYS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

interface Props {
  /** What the points belong to, for finding them. */
  group: string;
  points: Point[];
  scale: Scale;
  /** What a point is called. */
  name: (index: number) => string;
  /** Where a hand most likely meant. */
  snap: (at: Point) => Point;
  move: (points: Point[]) => void;
  /** Whether points may be taken out and put between others. */
  bendable?: boolean;
  closed?: boolean;
  /** An outline that goes with the point that is held. */
  follows?: Point[];
}

/** Handles on points of the drawing: dragged by hand or moved by the arrow keys; Insert and Delete where bends may come and go. */
export function PointHandles({ group, points, scale, name, snap, move, bendable, closed, follows }: Props) {
  const [held, setHeld] = useState<{ index: number; at: Point } | null>(null);
  const shown = points.map((point, index) => (held?.index === index ? held.at : point));

  const hand = useDrag(
    ({ args, xy, tap, canceled, last, currentTarget }) => {
      const index = args[0] as number;
      const sheet = (currentTarget as SVGElement | null)?.ownerSVGElement?.getBoundingClientRect();
      if (tap || canceled || !sheet) return setHeld(null);
      const at = snap([scale.east(xy[0] - sheet.left), scale.north(xy[1] - sheet.top)]);
      setHeld(last ? null : { index, at });
      if (last) move(points.map((point, place) => (place === index ? at : point)));
    },
    { filterTaps: true, threshold: STILL_PX, pointer: { keys: false } },
  );
  const key = (event: KeyboardEvent, index: number) => {
    const way = WAYS[event.key];
    const here = points[index] as Point;
    const next = points[index + 1] ?? (closed ? points[0] : points[index - 1]);
    let moved: Point[] | null = null;
    if (way)
      moved = points.map((point, at) =>
        at === index ? [here[0] + way[0] * STEP_M, here[1] + way[1] * STEP_M] : point,
      );
    if (bendable && event.key === "Delete") moved = points.filter((_, at) => at !== index);
    if (bendable && event.key === "Insert" && next) {
      const between: Point = [(here[0] + next[0]) / 2, (here[1] + next[1]) / 2];
      moved = points.toSpliced(points[index + 1] || closed ? index + 1 : index, 0, between);
    }
    if (!moved) return;
    event.preventDefault();
    event.stopPropagation();
    move(moved);
  };
  const aside = held ? [held.at[0] - (points[held.index]?.[0] ?? 0), held.at[1] - (points[held.index]?.[1] ?? 0)] : [];
  const drawn = follows && held ? follows.map<Point>(([x, y]) => [x + (aside[0] ?? 0), y + (aside[1] ?? 0)]) : shown;
  const ways = `drag, or arrow keys${bendable ? "; Insert and Delete" : ""}`;
  return (
    <g>
      {held && (
        <path
          className="line layer-moving"
          d={`M${drawn.map(([x, y]) => `${scale.x(x)} ${scale.y(y)}`).join("L")}${closed || follows ? "Z" : ""}`}
        />
      )}
      {shown.map(([east, north], index) => (
        <circle
          key={index}
          className="point-handle"
          data-handle={`${group}-${index + 1}`}
          cx={scale.x(east)}
          cy={scale.y(north)}
          r={9}
          tabIndex={0}
          role="button"
          aria-label={`${name(index)}: ${ways}`}
          {...hand(index)}
          onKeyDown={(event) => key(event, index)}
        />
      ))}
    </g>
  );
}
