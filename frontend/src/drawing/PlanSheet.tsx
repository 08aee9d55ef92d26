import { memo, useCallback, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from "react";
import type { Drawing, Mark } from "../api/client";
import { Hatches } from "./Hatches";
import { thingAt } from "./hit";
import { Labels, MarkShape } from "./Marks";
import { ScaleBar } from "./ScaleBar";
import { Legend } from "./Sheet";
import type { Point, Scale } from "./scale";
import { moved, SMALLEST_M, STEP, usePlanGestures, zoomed, type View } from "./usePlanGestures";
import { useScale } from "./useScale";
import { useSize } from "./useSize";
import "./drawing.css";

const PAD = 10;
/** How near a hand must point to a line or a dot. */
const REACH_PX = 9;

const inGroup = (layer: string, layers: readonly string[]) =>
  layers.some((start) => layer === start || layer.startsWith(`${start}-`));

const Marks = memo(function Marks({ marks, scale, height }: { marks: Mark[]; scale: Scale; height: number }) {
  return (
    <>
      {marks.map((mark, index) => mark.kind !== "label" && <MarkShape key={index} mark={mark} scale={scale} />)}
      <Labels marks={marks} scale={scale} height={height} />
    </>
  );
});

function withoutHidden({ groups, marks }: Drawing, hidden: string[]): Mark[] {
  const off = groups.filter((group) => hidden.includes(group.name)).flatMap((group) => group.layers);
  return marks.filter((mark) => !inGroup(mark.layer.replace(/-note$/, ""), off));
}

interface Props {
  drawing: Drawing;
  units: "us" | "metric";
  /** Set while a place is being pointed at; it is called with local metres. */
  point?: ((at: Point, scale: Scale) => void) | null;
  /** Called with the path of a thing that was pointed at, while no place is. */
  pick?: (path: string) => void;
  /** Tools beside the layers. */
  tools?: ReactNode;
  children?: (scale: Scale) => ReactNode;
}

/** A plan that can be moved and brought nearer, with its layers on and off; north stays up. */
export function PlanSheet({ drawing, units, point, pick, tools, children }: Props) {
  const [ref, { width, height }] = useSize<HTMLDivElement>();
  const [own, setOwn] = useState<View | null>(null);
  const [hidden, setHidden] = useState<string[]>(
    () => JSON.parse(localStorage.getItem("furrow.layers") ?? "[]") as string[],
  );
  const svg = useRef<SVGSVGElement>(null);
  const view = useMemo<View>(() => own ?? { low: drawing.low as Point, high: drawing.high as Point }, [own, drawing]);
  const scale = useScale({ ...view, to_scale: true }, width, height, PAD);
  const shown = useMemo(() => withoutHidden(drawing, hidden), [drawing, hidden]);

  const at = useCallback(
    (event: { clientX: number; clientY: number }): Point => {
      const box = svg.current?.getBoundingClientRect();
      return [scale.east(event.clientX - (box?.left ?? 0)), scale.north(event.clientY - (box?.top ?? 0))];
    },
    [scale],
  );
  const zoom = useCallback(
    (by: number, about?: Point) => {
      const middle: Point = [(view.low[0] + view.high[0]) / 2, (view.low[1] + view.high[1]) / 2];
      if (by > 1 && view.high[0] - view.low[0] < SMALLEST_M) return;
      setOwn(zoomed(view, by, about ?? middle));
    },
    [view],
  );
  const tap = (place: Point) => {
    if (point) return point(place, scale);
    const path = thingAt(shown, place, REACH_PX / scale.pixelsPerMetre);
    if (path) pick?.(path);
  };
  usePlanGestures({ svg, view, scale, at, show: setOwn, zoom, tap });
  const key = (event: KeyboardEvent) => {
    const by = (view.high[0] - view.low[0]) / 8;
    const ways: Record<string, () => void> = {
      "+": () => zoom(STEP),
      "=": () => zoom(STEP),
      "-": () => zoom(1 / STEP),
      "0": () => setOwn(null),
      ArrowLeft: () => setOwn(moved(view, -by, 0)),
      ArrowRight: () => setOwn(moved(view, by, 0)),
      ArrowUp: () => setOwn(moved(view, 0, by)),
      ArrowDown: () => setOwn(moved(view, 0, -by)),
    };
    const way = ways[event.key];
    if (!way || event.target !== event.currentTarget) return;
    event.preventDefault();
    event.stopPropagation();
    way();
  };
  const toggle = (name: string) => {
    const next = hidden.includes(name) ? hidden.filter((other) => other !== name) : [...hidden, name];
    setHidden(next);
    localStorage.setItem("furrow.layers", JSON.stringify(next));
  };
  return (
    <figure className="flex h-full min-h-0 flex-col" aria-label={drawing.title}>
      <div ref={ref} className="relative min-h-0 flex-1 border border-base-300">
        {width > 0 && (
          <svg
            ref={svg}
            className={`drawing plan ${point ? "pointing" : ""}`}
            viewBox={`0 0 ${width} ${height}`}
            role="application"
            aria-label={`${drawing.title}. Plus and minus bring it nearer, arrow keys move it, 0 shows all.`}
            tabIndex={0}
            data-drawing={drawing.key}
            onKeyDown={key}
          >
            <Hatches />
            <Marks marks={shown} scale={scale} height={height} />
            {children?.(scale)}
            <g className="north" transform={`translate(${width - 22} 30)`}>
              <path d="M0 16V-14M-5 -4L0 -16L5 -4" />
              <text y="30" textAnchor="middle" className="layer-strong">
                N
              </text>
            </g>
            <g transform={`translate(0 ${height - 12})`}>
              <ScaleBar scale={scale} units={units} x={width - 12} y={0} />
            </g>
          </svg>
        )}
        <div className="absolute top-1 left-1 flex border border-base-300 bg-base-100 print:hidden">
          {(
            [
              ["+", "Nearer", () => zoom(STEP)],
              ["−", "Further", () => zoom(1 / STEP)],
              ["all", "Show all", () => setOwn(null)],
            ] as const
          ).map(([sign, words, act]) => (
            <button
              key={sign}
              type="button"
              className="min-h-8 min-w-8 px-1.5 hover:bg-base-200 pointer-coarse:min-h-11 pointer-coarse:min-w-11"
              aria-label={words}
              onClick={act}
            >
              {sign}
            </button>
          ))}
        </div>
      </div>
      <Legend lines={drawing.legend} />
      <div
        className="flex flex-wrap items-center gap-x-1 gap-y-0.5 pt-1 text-[12.5px]"
        role="group"
        aria-label="Layers and tools"
      >
        {drawing.groups
          .filter((group) => drawing.marks.some((mark) => inGroup(mark.layer, group.layers)))
          .map((group) => (
            <button
              key={group.name}
              type="button"
              className={`layer-toggle ${hidden.includes(group.name) ? "" : "on"}`}
              aria-pressed={!hidden.includes(group.name)}
              onClick={() => toggle(group.name)}
            >
              {group.name}
            </button>
          ))}
        <span className="ml-auto flex flex-wrap gap-1">{tools}</span>
      </div>
    </figure>
  );
}
