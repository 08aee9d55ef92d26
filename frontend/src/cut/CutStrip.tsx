import type { Drawing } from "../api/client";
import { fit } from "../drawing/scale";
import { useSize } from "../drawing/useSize";
import { CutMarks } from "./CutMarks";
import "../drawing/drawing.css";

/** A job's cut as a picture to know it by. */
export function CutStrip({ drawing }: { drawing: Drawing }) {
  const [ref, { width, height }] = useSize<HTMLDivElement>();
  return (
    <div ref={ref} className="h-28 border border-base-300" aria-hidden="true">
      {width > 0 && (
        <svg className="drawing" viewBox={`0 0 ${width} ${height}`}>
          <CutMarks drawing={drawing} scale={fit(drawing, width, height, 0)} width={width} height={height} />
        </svg>
      )}
    </div>
  );
}
