import { memo, type ReactNode } from "react";
import type { Drawing } from "../api/client";
import { Hatches } from "./Hatches";
import { Labels, MarkShape } from "./Marks";
import { ScaleBar } from "./ScaleBar";
import { wordWidth, type Scale } from "./scale";
import { useScale } from "./useScale";
import { useSize } from "./useSize";
import "./drawing.css";

const TITLE = 26;
/** Room the scale bar wants beside the title; on a narrower sheet it stands below. */
const BAR = 160;
const PAD = 14;

/** The marks are drawn again only when the drawing or the sheet changes, not while someone types. */
const Marks = memo(function Marks({ drawing, width, height }: { drawing: Drawing; width: number; height: number }) {
  const scale = useScale(drawing, width, height, PAD);
  return (
    <>
      {drawing.marks.map((mark, index) => mark.kind !== "label" && <MarkShape key={index} mark={mark} scale={scale} />)}
      <Labels marks={drawing.marks} scale={scale} height={height} />
    </>
  );
});

/** Words that belong to a drawing but have no place in it; they stand below it, whatever its width. */
export function Legend({ lines }: { lines: string[] }) {
  if (lines.length === 0) return null;
  return (
    <figcaption className="figure flex flex-wrap gap-x-4 pt-1 text-[14.5px]">
      {lines.map((line, index) => (
        <span key={line} className={index === 0 ? "font-semibold" : ""}>
          {line}
        </span>
      ))}
    </figcaption>
  );
}

interface Props {
  drawing: Drawing;
  units: "us" | "metric";
  /** What can be taken hold of on the drawing. */
  children?: (scale: Scale) => ReactNode;
}

/** A drawing on its sheet, with its title and, where it is to scale, a scale bar. */
export function Sheet({ drawing, units, children }: Props) {
  const [ref, { width, height }] = useSize<HTMLDivElement>();
  const foot = drawing.to_scale && wordWidth(drawing.title) + BAR > width ? 2 * TITLE - 6 : TITLE;
  const scale = useScale(drawing, width, Math.max(0, height - foot), PAD);
  return (
    <figure className="flex h-full min-h-0 flex-col" aria-label={drawing.title}>
      <div ref={ref} className="min-h-0 flex-1 border border-base-300">
        {width > 0 && height > foot && (
          <svg
            className="drawing"
            viewBox={`0 0 ${width} ${height}`}
            role="img"
            aria-label={drawing.title}
            data-drawing={drawing.key}
          >
            <Hatches />
            <Marks drawing={drawing} width={width} height={height - foot} />
            <rect x="0" y={height - foot} width={width} height={foot} fill="var(--paper)" />
            <text x="10" y={height - foot + 17} className="layer-strong">
              {drawing.title}
            </text>
            {children?.(scale)}
            {drawing.to_scale && <ScaleBar scale={scale} units={units} x={width - 12} y={height - 9} />}
          </svg>
        )}
      </div>
      <Legend lines={drawing.legend} />
    </figure>
  );
}
