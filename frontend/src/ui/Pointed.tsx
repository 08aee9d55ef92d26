import type { Point, Scale } from "../drawing/scale";

/** The whole sheet takes a hand's pointing; who has none types the place. */
export function Pointed({ scale, point }: { scale: Scale; point: (at: Point) => void }) {
  return (
    <rect
      width="100%"
      height="100%"
      fill="transparent"
      className="cursor-crosshair"
      aria-hidden
      data-pointed
      onClick={(event) => {
        const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
        point([scale.east(event.clientX - (box?.left ?? 0)), scale.north(event.clientY - (box?.top ?? 0))]);
      }}
    />
  );
}
