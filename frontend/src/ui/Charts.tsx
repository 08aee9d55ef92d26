import type { Drawing } from "../api/client";
import { Sheet } from "../drawing/Sheet";

/** Charts beside each other, as many as there is room for. */
export function Charts({ drawings, units, of }: { drawings: Drawing[]; units: "us" | "metric"; of: string }) {
  return (
    <div
      className="grid shrink-0 gap-2"
      style={{ gridTemplateColumns: "repeat(auto-fit, minmax(280px, 1fr))" }}
      data-charts={of}
    >
      {drawings.map((drawing) => (
        <div key={drawing.key} className="h-[270px]">
          <Sheet drawing={drawing} units={units} />
        </div>
      ))}
    </div>
  );
}
