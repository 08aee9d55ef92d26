import { memo, useEffect, useRef } from "react";
import type { JobSheet, Stage } from "../api/client";
import { useScale } from "../drawing/useScale";
import { useSize } from "../drawing/useSize";
import { State } from "../ui/State";
import "../drawing/drawing.css";
import { called } from "./called";
import { CutMarks } from "./CutMarks";

interface Props {
  sheet: JobSheet;
  here: Stage;
  go: (stage: Stage) => void;
  movedIn: Record<string, number>;
  /** Folded to the strip of the stages, where a drawing wants the room. */
  folded: boolean;
  fold: () => void;
}

/** The cut: the job from the side, to scale. Its parts, and the list below it, lead to the stages. */
export const CutView = memo(function CutView({ sheet, here, go, movedIn, folded, fold }: Props) {
  const [ref, { width, height }] = useSize<HTMLDivElement>();
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    list.current?.querySelector("[aria-current]")?.scrollIntoView({ inline: "center", block: "nearest" });
  }, [here]);
  const { drawing, parts } = sheet.cut;
  const scale = useScale(drawing, width, height, 0);
  return (
    <div className="relative print:hidden" data-cut={folded ? "folded" : "open"}>
      <button
        type="button"
        className="bg-base-100 text-secondary absolute right-0 bottom-full z-10 hidden px-2 text-[12.5px] lg:block"
        style={{ bottom: "auto", top: 0 }}
        aria-expanded={!folded}
        onClick={fold}
      >
        {folded ? "Open the cut" : "Fold the cut"}
      </button>
      <div ref={ref} className={folded ? "bg-base-200 h-[20px]" : "h-[92px] md:h-[186px]"}>
        {width > 0 && !folded && (
          <svg className="drawing" viewBox={`0 0 ${width} ${height}`} aria-hidden="true" data-drawing="cut">
            <CutMarks drawing={drawing} scale={scale} width={width} height={height} />
            {parts.map((part) => (
              <path
                key={part.stage}
                className={`cut-part ${part.stage === here ? "here" : ""}`}
                d={`M${part.outline.map(([x, y]) => `${scale.x(x)} ${scale.y(y)}`).join("L")}Z`}
                onClick={() => go(part.stage as Stage)}
                data-part={part.stage}
              >
                <title>{called(part.stage)}</title>
              </path>
            ))}
          </svg>
        )}
      </div>
      <nav aria-label="Stages of the job" className="relative border-y border-base-300 overflow-x-auto">
        <ul ref={list} className="flex min-w-max justify-between">
          {sheet.stages.map(({ stage, state, short, headline, practice }) => (
            <li key={stage} className="flex-1">
              <a
                href={stage}
                aria-current={stage === here ? "page" : undefined}
                className={`flex min-h-11 flex-col justify-center border-b-3 px-1.5 py-0.5 leading-tight ${stage === here ? "border-primary bg-base-200 font-semibold" : "border-transparent hover:bg-base-200"}`}
                onClick={(event) => {
                  event.preventDefault();
                  go(stage as Stage);
                }}
                data-stage={stage}
              >
                <span className="flex items-baseline gap-1.5">
                  <State level={state} />
                  <span className="whitespace-nowrap">{called(stage)}</span>
                  {movedIn[stage] && stage !== here ? (
                    <span
                      className="figure bg-[var(--mark)] px-1 text-[12px]"
                      title={`${movedIn[stage]} answers moved`}
                    >
                      {movedIn[stage]}
                    </span>
                  ) : null}
                  {practice > 0 && (
                    <span
                      className="practice figure text-secondary ml-auto text-[12px]"
                      title={`${practice} not looked at`}
                    >
                      {practice}
                      <span className="sr-only"> not looked at</span>
                    </span>
                  )}
                </span>
                <span className="figure text-secondary text-[12.5px] font-normal whitespace-nowrap">
                  {state === "nothing" ? "not yet" : `${short} ${headline}`}
                </span>
              </a>
            </li>
          ))}
        </ul>
      </nav>
    </div>
  );
});
