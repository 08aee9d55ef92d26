import { useGesture } from "@use-gesture/react";
import type { RefObject } from "react";
import type { Point, Scale } from "./scale";

/** What of the ground is shown. */
export interface View {
  low: Point;
  high: Point;
}

export const STEP = 1.4;
export const SMALLEST_M = 2;
/** A press that strays no further than this moves nothing. */
const STILL_PX = 4;

export const zoomed = (view: View, by: number, about: Point): View => ({
  low: [about[0] + (view.low[0] - about[0]) / by, about[1] + (view.low[1] - about[1]) / by],
  high: [about[0] + (view.high[0] - about[0]) / by, about[1] + (view.high[1] - about[1]) / by],
});

export const moved = (view: View, dx: number, dy: number): View => ({
  low: [view.low[0] + dx, view.low[1] + dy],
  high: [view.high[0] + dx, view.high[1] + dy],
});

interface Plan {
  svg: RefObject<SVGSVGElement | null>;
  view: View;
  scale: Scale;
  /** The place under a point of the screen. */
  at: (event: { clientX: number; clientY: number }) => Point;
  show: (view: View) => void;
  zoom: (by: number, about: Point) => void;
  tap: (at: Point) => void;
}

/** A plan under the hand: dragged, pinched, wheeled, pressed. What is taken hold of stays under the hand. */
export function usePlanGestures({ svg, view, scale, at, show, zoom, tap }: Plan) {
  useGesture(
    {
      onDrag: ({ event, first, memo, initial, tap: pressed, pinching, cancel, xy }) => {
        const from = first || !memo ? { view, perMetre: scale.pixelsPerMetre } : (memo as Held);
        const [clientX, clientY] = xy;
        const [dx, dy] = [clientX - initial[0], clientY - initial[1]];
        if (pinching || (event.target as Element).closest("[data-handle]")) cancel();
        else if (pressed) tap(at({ clientX, clientY }));
        else if (dx || dy) show(moved(from.view, -dx / from.perMetre, dy / from.perMetre));
        return from;
      },
      onPinch: ({ first, memo, origin: [clientX, clientY], movement: [by] }) => {
        const from =
          first || !memo
            ? { view, perMetre: scale.pixelsPerMetre, about: at({ clientX, clientY }), origin: [clientX, clientY] }
            : (memo as Pinched);
        const nearer = Math.min(by, Math.max(1, (from.view.high[0] - from.view.low[0]) / SMALLEST_M));
        const perMetre = from.perMetre * nearer;
        const [dx, dy] = [clientX - (from.origin[0] ?? 0), clientY - (from.origin[1] ?? 0)];
        show(moved(zoomed(from.view, nearer, from.about), -dx / perMetre, dy / perMetre));
        return from;
      },
      onWheel: ({ event, last }) => {
        if (last) return;
        event.preventDefault();
        zoom(event.deltaY < 0 ? STEP : 1 / STEP, at(event));
      },
    },
    {
      target: svg,
      // The browser would scroll the page under a wheel that is listened to passively.
      eventOptions: { passive: false },
      drag: { filterTaps: true, threshold: STILL_PX, pointer: { keys: false } },
      pinch: { scaleBounds: { min: 0.02, max: 200 } },
    },
  );
}

interface Held {
  view: View;
  perMetre: number;
}

interface Pinched extends Held {
  about: Point;
  origin: number[];
}
