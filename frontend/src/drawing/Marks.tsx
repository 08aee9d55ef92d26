import { memo } from "react";
import type { Mark } from "../api/client";
import { placeLabels } from "./labels";
import { onSheet, type Scale } from "./scale";

/** Millimetres of paper to pixels. */
const PAPER = 2.6;
/** Height of the words of a dimension. */
const WORD_PX = 10;

function path(mark: Mark, scale: Scale, closed: boolean): string {
  const points = mark.points.map(([x, y]) => `${scale.x(x).toFixed(1)} ${scale.y(y).toFixed(1)}`);
  return `M${points.join("L")}${closed ? "Z" : ""}`;
}

/** Outlines laid one after another, as one path; one inside another is a hole. */
function rings(mark: Mark, scale: Scale): string {
  let at = 0;
  return mark.counts
    .map((count) => {
      const ring = mark.points
        .slice(at, at + count)
        .map(([x, y]) => `${scale.x(x).toFixed(1)} ${scale.y(y).toFixed(1)}`);
      at += count;
      return `M${ring.join("L")}Z`;
    })
    .join("");
}

const dotRadius = (scale: Scale) => (scale.pixelsPerMetre < 4 ? 1.6 : 3.6);

/** Thousands of alike dots as one path: a circle is two halves. */
function circles(mark: Mark, scale: Scale): string {
  const r = dotRadius(scale);
  const around = `a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
  return mark.points.map(([x, y]) => `M${(scale.x(x) - r).toFixed(1)} ${scale.y(y).toFixed(1)}${around}`).join("");
}

function Dimension({ mark, scale }: { mark: Mark; scale: Scale }) {
  const [start, end] = mark.points;
  if (!start || !end) return null;
  let [ax, ay, bx, by] = [scale.x(start[0]), scale.y(start[1]), scale.x(end[0]), scale.y(end[1])];
  const length = Math.hypot(bx - ax, by - ay);
  if (length < 1) return null;
  const [ux, uy] = [(bx - ax) / length, (by - ay) / length];
  // Left of start to end, on a sheet whose y runs down.
  const [nx, ny] = [uy, -ux];
  const away = mark.offset * PAPER;
  const feet = away === 0 ? null : [ax, ay, bx, by];
  [ax, ay, bx, by] = [ax + nx * away, ay + ny * away, bx + nx * away, by + ny * away];
  let angle = (Math.atan2(by - ay, bx - ax) * 180) / Math.PI;
  let side = 1;
  if (angle > 89.5 || angle < -90.5) {
    angle += 180;
    side = -1;
  }
  // Words stand on the far side of the line from what it measures, which may be below their own feet.
  const far = Math.sign(away) || side;
  const clear = far * side > 0 ? 6 : 6 + WORD_PX;
  const [mx, my] = [(ax + bx) / 2 + nx * clear * far, (ay + by) / 2 + ny * clear * far];
  const room = length > mark.text.length * 6.4;
  const beside = nx < -0.5 ? "end" : nx > 0.5 ? "start" : "middle";
  const tick = 4;
  return (
    <g className="dimension">
      {feet && (
        <>
          <line x1={feet[0]} y1={feet[1]} x2={ax + nx * 3 * Math.sign(away)} y2={ay + ny * 3 * Math.sign(away)} />
          <line x1={feet[2]} y1={feet[3]} x2={bx + nx * 3 * Math.sign(away)} y2={by + ny * 3 * Math.sign(away)} />
        </>
      )}
      <line x1={ax} y1={ay} x2={bx} y2={by} />
      <line className="tick" x1={ax - tick} y1={ay + tick} x2={ax + tick} y2={ay - tick} />
      <line className="tick" x1={bx - tick} y1={by + tick} x2={bx + tick} y2={by - tick} />
      {room ? (
        <text x={mx} y={my} textAnchor="middle" transform={`rotate(${angle} ${mx} ${my})`}>
          {mark.text}
        </text>
      ) : (
        <text
          x={onSheet((ax + bx) / 2 + nx * 8, mark.text, beside, scale.width)}
          y={(ay + by) / 2 + ny * 8 + 4}
          textAnchor={beside}
        >
          {mark.text}
        </text>
      )}
    </g>
  );
}

/** The words of a drawing, each where it hides no other. */
export function Labels({ marks, scale, height }: { marks: Mark[]; scale: Scale; height: number }) {
  return placeLabels(marks, scale, height).map(({ mark, x, y }, index) => (
    <text key={index} className={`layer-${mark.layer}`} x={x} y={y} textAnchor={mark.anchor}>
      {mark.text}
    </text>
  ));
}

/** One mark of a drawing; its words are placed together, by Labels. */
export const MarkShape = memo(function MarkShape({ mark, scale }: { mark: Mark; scale: Scale }) {
  const first = mark.points[0];
  const layer = `layer-${mark.layer}`;
  switch (mark.kind) {
    case "line":
      return <path className={`line ${layer}`} d={path(mark, scale, false)} />;
    case "area":
      return <path className={`area ${layer}`} d={path(mark, scale, true)} />;
    case "rings":
      return <path className={`area ${layer}`} fillRule="evenodd" d={rings(mark, scale)} />;
    case "dot":
      return first ? (
        <circle
          className={`dot ${layer}`}
          cx={scale.x(first[0])}
          cy={scale.y(first[1])}
          r={mark.layer === "sun-disc" ? 11 : dotRadius(scale)}
        />
      ) : null;
    case "dots":
      return <path className={`dot ${layer}`} d={circles(mark, scale)} />;
    case "label":
      return null;
    case "dimension":
      return <Dimension mark={mark} scale={scale} />;
  }
});
