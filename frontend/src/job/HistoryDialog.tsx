import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Compare, type JobView, type Revision, type Stage, type Units } from "../api/client";
import { queries, wordsOf } from "../api/queries";
import { Dialog } from "../ui/Dialog";
import { countOf, Pin, SideBySide, type Pinned } from "./SideBySide";

const moment = (iso: string) => new Date(iso).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });

interface Props {
  view: JobView;
  stage: Stage;
  run: (work: (units: Units) => Promise<JobView>) => Promise<void>;
  close: () => void;
}

/** Every step of the draft and every revision: go back to any, compare any with the draft. */
export function HistoryDialog({ view, stage, run, close }: Props) {
  const [compared, setCompared] = useState<{ before: number; after?: number } | null>(null);
  const { data: revisions = [], error } = useQuery(queries.revisions(view.id, view.draft.base));
  const { before = 0, after } = compared ?? {};
  const comparison = useQuery({
    ...queries.compare(view.id, view.draft.position, view.units, before, after),
    enabled: compared !== null,
  });
  const [pinned, pin] = useState<Pinned>({ revisions: [], steps: [] });
  const [asked, setAsked] = useState<number | null>(null);
  const wrong = wordsOf(error ?? comparison.error);
  const compare = (number: number, next?: number) => setCompared({ before: number, after: next });
  return (
    <Dialog title="Steps and revisions" close={close} wide>
      <div className="grid gap-6 sm:grid-cols-2">
        <section aria-label="Steps of your draft">
          <h3 className="mb-1 font-semibold">Your draft, step by step</h3>
          <ol className="max-h-64 overflow-y-auto border border-base-300">
            {view.draft.steps.toReversed().map((step) => (
              <li key={step.number} className="flex items-center gap-2 pr-2">
                <button
                  type="button"
                  className={`flex min-h-9 w-full justify-between gap-2 px-2 py-1 text-left hover:bg-base-200 ${step.number === view.draft.position ? "bg-base-200 font-semibold" : step.number > view.draft.position ? "text-secondary line-through" : ""}`}
                  aria-current={step.number === view.draft.position ? "step" : undefined}
                  onClick={() =>
                    void run((units) => api.step(view.id, { stage, array: view.array }, units, step.number))
                  }
                >
                  <span>{step.label}</span>
                </button>
                {step.number !== view.draft.position && (
                  <Pin of="steps" number={step.number} pinned={pinned} pin={pin} />
                )}
              </li>
            ))}
          </ol>
        </section>
        <section aria-label="Revisions">
          <h3 className="mb-1 font-semibold">Revisions</h3>
          <ol className="max-h-64 overflow-y-auto border border-base-300">
            {revisions.map((revision, index) => (
              <li key={revision.number} className="border-b border-base-300 px-2 py-1.5">
                <p>
                  <span className="figure text-[16px] font-semibold">{revision.number}</span>{" "}
                  {revision.note || "no note"}
                </p>
                <p className="text-secondary text-[13px]">
                  {revision.author}, {moment(revision.saved_at)}
                </p>
                {revision.issued && <Issued practice={revision.issued} />}
                <div className="flex flex-wrap items-center gap-3 text-[13px]">
                  <Pin of="revisions" number={revision.number} pinned={pinned} pin={pin} />
                  <button type="button" className="link min-h-7" onClick={() => compare(revision.number)}>
                    Compare with draft
                  </button>
                  {revisions[index + 1] && (
                    <button
                      type="button"
                      className="link min-h-7"
                      onClick={() => compare(revision.number - 1, revision.number)}
                    >
                      What it changed
                    </button>
                  )}
                  {view.role !== "viewer" && asked !== revision.number && (
                    <button type="button" className="link min-h-7" onClick={() => setAsked(revision.number)}>
                      Go back to it…
                    </button>
                  )}
                  {asked === revision.number && (
                    <span className="flex flex-wrap items-center gap-2" role="group" aria-label="Go back">
                      Your draft becomes revision {revision.number}, as a step that can be undone.
                      <button
                        type="button"
                        className="btn btn-primary btn-sm"
                        autoFocus
                        onClick={() => {
                          setAsked(null);
                          void run((units) => api.restore(view.id, revision.number, stage, units));
                        }}
                      >
                        Go back
                      </button>
                      <button type="button" className="btn btn-sm" onClick={() => setAsked(null)}>
                        Stay
                      </button>
                    </span>
                  )}
                </div>
              </li>
            ))}
          </ol>
        </section>
      </div>
      {countOf(pinned) > 0 && <SideBySide view={view} pinned={pinned} />}
      {wrong && <p role="alert">{wrong}</p>}
      {comparison.data && (
        <Comparison
          title={after === undefined ? `Revision ${before} against your draft` : `Revision ${before} against ${after}`}
          found={comparison.data}
        />
      )}
    </Dialog>
  );
}

/** That a revision is built from, and what nobody had looked at when it was issued. */
function Issued({ practice }: { practice: NonNullable<Revision["issued"]> }) {
  if (practice.length === 0) return <p className="text-[13px]">Issued; everything in it had been looked at.</p>;
  return (
    <details className="text-[13px]">
      <summary className="min-h-7 cursor-pointer">
        Issued; <span className="figure">{practice.length}</span> values nobody had looked at
      </summary>
      <dl className="practice grid grid-cols-[1fr_auto] gap-x-3">
        {practice.map(({ path, array, label, value }) => (
          <div key={path} className="contents">
            <dt>{array ? `${array}: ${label}` : label}</dt>
            <dd className="figure text-right">{value}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}

function Comparison({ title, found }: { title: string; found: Compare }) {
  const parts: [string, { key: string; label: string; before: string; after: string }[]][] = [
    ["What was decided", found.fields.map((f) => ({ ...f, key: f.path }))],
    [
      "What follows",
      found.answers.map((a) => ({ ...a, key: `${a.array} ${a.stage}.${a.key}`, label: `${a.stage}: ${a.label}` })),
    ],
  ];
  return (
    <section aria-label="Comparison" className="mt-4 border-t border-base-300 pt-2">
      <h3 className="font-semibold">{title}</h3>
      {found.fields.length === 0 && <p>No difference.</p>}
      {parts.map(([name, lines]) =>
        lines.length > 0 ? (
          <table key={name} className="mt-2 w-full text-left">
            <caption className="text-secondary text-left text-[13px]">{name}</caption>
            <tbody>
              {lines.map((line) => (
                <tr key={line.key} className="border-t border-base-300">
                  <th scope="row" className="pr-2 font-normal">
                    {line.label}
                  </th>
                  <td className="figure pr-2 text-right text-[15px] whitespace-pre-line">{line.before}</td>
                  <td className="figure text-right text-[15px] font-semibold whitespace-pre-line">{line.after}</td>
                </tr>
              ))}
            </tbody>
          </table>
        ) : null,
      )}
    </section>
  );
}
