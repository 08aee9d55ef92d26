import { memo } from "react";
import type { Answer, Moved } from "../api/client";
import { Working } from "./Working";

interface Props {
  answer: Answer;
  moved?: Moved;
  edits: number;
  open: boolean;
  toggle: (key: string) => void;
}

/** A number a crew would write on timber; it opens its working. */
export const AnswerLine = memo(function AnswerLine({ answer, moved, edits, open, toggle }: Props) {
  const big = answer.headline;
  // A new key restarts the mark each time the number moves.
  const key = moved ? `${edits}` : "still";
  return (
    <li className="border-b border-base-300">
      <button
        type="button"
        className={`flex w-full flex-wrap items-baseline justify-between gap-x-3 px-2 py-1.5 text-left hover:bg-base-200 ${big ? "min-h-12" : "min-h-9"}`}
        aria-expanded={open}
        onClick={() => toggle(`${answer.stage}.${answer.key}`)}
        data-answer={`${answer.stage}.${answer.key}`}
      >
        <span className={big ? "" : "text-[13px]"}>{answer.label}</span>
        <span className="ml-auto text-right">
          <span
            key={key}
            className={`figure ${moved ? "moved" : ""} ${big ? "text-[27px] leading-8 font-semibold" : "text-[17px]"}`}
            data-testid={`answer-${answer.stage}-${answer.key}`}
          >
            {answer.text}
          </span>
          {moved && <span className="figure text-secondary block text-[13px]">was {moved.before}</span>}
        </span>
      </button>
      {open && <Working answer={answer} />}
    </li>
  );
});
