import { useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Scale } from "../../drawing/scale";

type Point = [number, number];

/** A hand places a stake to a tenth of a metre, or to a few inches. */
const SNAP_M = 0.1;
const REACH: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

const snapped = (metres: number) => Math.round(metres / SNAP_M) * SNAP_M;
const written = (points: Point[]) => points.map(([east, north]) => `${east.toFixed(2)} m, ${north.toFixed(2)} m`).join("\n");

interface Props {
  points: Point[];
  scale: Scale;
  move: (text: string) => void;
}

/** Handles on the bends of the trench: dragged by hand, or moved by the arrow keys. */
export function RouteHandles({ points, scale, move }: Props) {
  const [held, setHeld] = useState<{ index: number; at: Point } | null>(null);
  const shown = points.map((point, index) => (held?.index === index ? held.at : point));

  const follow = (event: PointerEvent<SVGCircleElement>) => {
    if (!held) return;
    const sheet = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!sheet) return;
    const at: Point = [snapped(scale.east(event.clientX - sheet.left)), snapped(scale.north(event.clientY - sheet.top))];
    setHeld({ ...held, at });
  };
  const drop = () => {
    if (held) move(written(shown));
    setHeld(null);
  };
  const nudge = (event: KeyboardEvent, index: number) => {
    const way = REACH[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    move(written(points.map(([east, north], i) => (i === index ? [east + way[0] * SNAP_M, north + way[1] * SNAP_M] : [east, north]))));
  };

  return (
    <g>
      {held && <path className="line layer-pipe-moving" d={`M${shown.map(([x, y]) => `${scale.x(x)} ${scale.y(y)}`).join("L")}`} />}
      {shown.map(([east, north], index) => (
        <circle
          key={index}
          className="route-handle"
          data-handle
          cx={scale.x(east)}
          cy={scale.y(north)}
          r={9}
          tabIndex={0}
          role="button"
          aria-label={index === shown.length - 1 ? "Wall of the building: drag, or arrow keys" : `Bend ${index + 1}: drag, or arrow keys`}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setHeld({ index, at: [east, north] });
          }}
          onPointerMove={follow}
          onPointerUp={drop}
          onPointerCancel={() => setHeld(null)}
          onKeyDown={(event) => nudge(event, index)}
          data-bend={index + 1}
        />
      ))}
    </g>
  );
}
