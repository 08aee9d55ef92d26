import type { Scale } from "./scale";

const METRIC = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500].map((m) => ({ metres: m, text: `${m} m` }));
const FEET = [0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000].map((f) => ({
  metres: f * 0.3048,
  text: f < 1 ? '6"' : `${f} ft`,
}));

/** A bar of a round length, its right end at x. */
export function ScaleBar({ scale, units, x, y }: { scale: Scale; units: "us" | "metric"; x: number; y: number }) {
  const steps = units === "us" ? FEET : METRIC;
  const bar = steps.findLast((step) => step.metres * scale.pixelsPerMetre < 110) ?? steps[0];
  if (!bar) return null;
  const length = bar.metres * scale.pixelsPerMetre;
  return (
    <g>
      <rect x={x - length} y={y - 3} width={length / 2} height="4" fill="var(--ink)" />
      <rect
        x={x - length / 2}
        y={y - 3}
        width={length / 2}
        height="4"
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth="0.8"
      />
      <text x={x - length - 6} y={y + 2} textAnchor="end">
        {bar.text}
      </text>
    </g>
  );
}
