import { useState } from "react";
import type { Check, Missing, Practice, Stage } from "../api/client";
import { Mends } from "./Mends";
import { PracticeList } from "./Practice";
import { called } from "../cut/called";
import { State } from "./State";
import { ToSay, type Go } from "./ToSay";

interface Props {
  missing: Missing[];
  practice: Practice[];
  stops: Check[];
  sound: number;
  go: Go;
  /** What each array is called, by its id; empty where there is one alone. */
  arrays: Record<string, string>;
  /** Null for one who may only read. */
  change: ((edits: { path: string; text: string }[]) => void) | null;
}

/** What would stop the job, worst first: one strip, always there; zero is worth seeing too. */
export function Stops({ missing, practice, stops, sound, go, arrays, change }: Props) {
  const [open, setOpen] = useState(false);
  const stopping = stops.filter((check) => check.level === "stop").length;
  const looking = stops.length - stopping;
  const worst = stops[0];
  const next = missing[0];
  const unseen = practice.reduce((sum, { labels }) => sum + labels.length, 0);
  const anything = stops.length + missing.length + unseen > 0;
  const leave: Go = (...to) => {
    setOpen(false);
    go(...to);
  };
  return (
    <section aria-label="Stops" className="border-base-content/30 bg-base-200 relative border-t">
      {open && (
        <ul className="border-base-content/30 bg-base-200 absolute inset-x-0 bottom-full max-h-[45vh] overflow-y-auto border-t shadow-[0_-6px_16px_rgb(0_0_0/0.14)]">
          <li>
            <ToSay missing={missing} arrays={arrays} go={leave} />
          </li>
          {stops.map((check) => (
            <li key={`${check.array} ${check.stage}.${check.key}`} className="border-b border-base-300">
              <button
                type="button"
                className="hover:bg-base-300/50 flex min-h-11 w-full flex-wrap items-baseline gap-x-3 px-3 py-1.5 text-left"
                // What mends it may lie under this list.
                onClick={() => leave(check.given_stage as Stage, check.given, check.given_array || check.array)}
              >
                <State level={check.level} words />
                <span className="text-secondary">
                  {called(check.stage)}
                  {arrays[check.array] ? `, ${arrays[check.array]}` : ""}
                </span>
                <span className="font-semibold">{check.title}</span>
                <span className="figure text-[15px]">
                  {check.measured}, {check.relation} {check.limit}
                </span>
                <span className="text-secondary">{check.remedy}</span>
              </button>
              <div className="px-3">
                <Mends check={check} change={change} />
              </div>
            </li>
          ))}
          <li>
            <PracticeList practice={practice} arrays={arrays} go={leave} />
          </li>
        </ul>
      )}
      <button
        type="button"
        className="flex min-h-10 w-full items-center gap-4 px-3 text-left"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        disabled={!anything}
        data-testid="stops"
      >
        {missing.length > 0 && (
          <span className="font-semibold">
            <span className="figure text-[17px]">{missing.length}</span> to say
          </span>
        )}
        <span className={stopping ? "state-stop font-semibold" : ""}>
          <span className="figure text-[17px]">{stopping}</span> stop{stopping === 1 ? "" : "s"}
        </span>
        <span className={looking ? "state-look" : ""}>
          <span className="figure text-[17px]">{looking}</span> look here
        </span>
        <span className="state-sound hidden sm:inline">
          <span className="figure text-[17px]">{sound}</span> sound
        </span>
        {unseen > 0 && (
          <span className="practice">
            <span className="figure text-[17px]">{unseen}</span> not looked at
          </span>
        )}
        {next && !open && (
          <span className="min-w-0 flex-1 truncate">
            Next: {next.label}
            {arrays[next.array] ? `, ${arrays[next.array]}` : ""}
          </span>
        )}
        {!next && worst && !open && (
          <span className="min-w-0 flex-1 truncate">
            <State level={worst.level} /> {arrays[worst.array] ? `${arrays[worst.array]}: ` : ""}
            {worst.title}: {worst.measured}, {worst.relation} {worst.limit}
          </span>
        )}
        {anything && <span className="text-secondary ml-auto whitespace-nowrap">{open ? "fold away" : "show"}</span>}
      </button>
    </section>
  );
}
