import { useState, type KeyboardEvent, type PointerEvent } from "react";
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
  const [held, setHeld] = useState<{ index: number; at: Point; from: Point; moved: boolean } | null>(null);
  const shown = points.map((point, index) => (held?.index === index ? held.at : point));

  const follow = (event: PointerEvent<SVGCircleElement>) => {
    const sheet = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!held || !sheet) return;
    if (!held.moved && Math.hypot(event.clientX - held.from[0], event.clientY - held.from[1]) <= STILL_PX) return;
    setHeld({
      ...held,
      moved: true,
      at: snap([scale.east(event.clientX - sheet.left), scale.north(event.clientY - sheet.top)]),
    });
  };
  const drop = () => {
    if (held?.moved) move(shown);
    setHeld(null);
  };
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
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setHeld({ index, at: points[index] as Point, from: [event.clientX, event.clientY], moved: false });
          }}
          onPointerMove={follow}
          onPointerUp={drop}
          onPointerCancel={() => setHeld(null)}
          onKeyDown={(event) => key(event, index)}
        />
      ))}
    </g>
  );
}
