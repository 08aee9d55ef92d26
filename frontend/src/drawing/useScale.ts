import { useMemo } from "react";
import type { Drawing } from "../api/client";
import { fit, type Scale } from "./scale";

/** The scale of a sheet; the same object as long as its bounds and size are the same. */
export function useScale(
  { low, high, to_scale }: Pick<Drawing, "low" | "high" | "to_scale">,
  width: number,
  height: number,
  pad: number,
): Scale {
  const [x0, y0, x1, y1] = [...low, ...high];
  return useMemo(
    () => fit({ low: [x0, y0], high: [x1, y1], to_scale }, width, height, pad),
    [x0, y0, x1, y1, to_scale, width, height, pad],
  );
}
