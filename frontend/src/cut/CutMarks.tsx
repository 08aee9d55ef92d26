import type { Drawing } from "../api/client";
import { Hatches } from "../drawing/Hatches";
import { MarkShape } from "../drawing/Marks";
import type { Scale } from "../drawing/scale";

interface Props {
  drawing: Drawing;
  scale: Scale;
  width: number;
  height: number;
}

/** The cut's marks; soil, grass and frost run on past the drawing to both edges of the sheet. */
export function CutMarks({ drawing, scale, width, height }: Props) {
  const ends = (layer: string) => {
    const points = drawing.marks.find((mark) => mark.layer === layer)?.points ?? [];
    const [first, last] = [points[0], points[points.length - 1]];
    return first && last ? ([first, last] as const) : null;
  };
  const [ground, frost] = [ends("ground"), ends("frost")];
  const sides = [0, 1] as const;
  const reach = (point: [number, number], side: 0 | 1) =>
    `M${scale.x(point[0])} ${scale.y(point[1])}H${side === 0 ? 0 : width}`;
  return (
    <>
      <Hatches />
      {ground &&
        sides.map((side) => {
          const [x, y] = [scale.x(ground[side][0]), scale.y(ground[side][1])];
          return (
            <rect
              key={side}
              className="area layer-soil"
              x={side === 0 ? 0 : x}
              y={y}
              width={Math.max(0, side === 0 ? x : width - x)}
              height={Math.max(0, height - y)}
            />
          );
        })}
      <rect
        className="area layer-soil"
        x={0}
        y={scale.y(drawing.low[1]) - 0.5}
        width={width}
        height={Math.max(0, height - scale.y(drawing.low[1]) + 0.5)}
      />
      {drawing.marks.map((mark, index) => (
        <MarkShape key={index} mark={mark} scale={scale} />
      ))}
      {sides.map((side) => (
        <g key={side}>
          {frost && <path className="line layer-frost" d={reach(frost[side], side)} />}
          {ground && <path className="line layer-ground" d={reach(ground[side], side)} />}
        </g>
      ))}
    </>
  );
}
