import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { papersAddress, type LookView, type Units } from "../api/client";
import { queries, wordsOf } from "../api/queries";
import { Sheet } from "../drawing/Sheet";
import { State } from "../ui/State";
import { TableView } from "../ui/TableView";

/** A job for who only looks: the papers, sheet by sheet, without an account. */
export function LookScreen() {
  const { token = "" } = useParams();
  const [units, setUnits] = useState<Units | null>(null);
  const { data: view, error } = useQuery(queries.look(token, units));
  if (!view) return <main className="p-6">{wordsOf(error) || "Opening the papers…"}</main>;
  const other = view.units === "us" ? "metric" : "us";
  return (
    <div className="mx-auto max-w-5xl p-3">
      <title>{`${view.name} · Open Furrow`}</title>
      <header className="flex flex-wrap items-baseline gap-x-4 border-b-2 pb-2">
        <h1 className="text-[28px] font-semibold">{view.name}</h1>
        <span className="text-secondary">{view.issue}</span>
        <span className="ml-auto flex flex-wrap gap-3 print:hidden">
          <a className="link min-h-11 content-center" href={papersAddress(token, "letter", view.units)} download>
            PDF, Letter
          </a>
          <a className="link min-h-11 content-center" href={papersAddress(token, "a4", view.units)} download>
            PDF, A4
          </a>
          <button type="button" className="btn btn-sm pointer-coarse:h-11!" onClick={() => setUnits(other)}>
            {view.units === "us" ? "in metres" : "in feet"}
          </button>
        </span>
      </header>
      <main>
        <p className="text-secondary py-2">
          For reading. Local code and licensed people decide: what stands here is for their review.
          {view.missing > 0 && ` ${view.missing} values have still to be said.`}
        </p>
        <nav aria-label="Sheets" className="flex flex-wrap gap-x-3 print:hidden">
          {view.pages.map(({ title }, index) => (
            <a key={title} className="link min-h-11 content-center" href={`#sheet-${index}`}>
              {title}
            </a>
          ))}
        </nav>
        {view.pages.map((page, index) => (
          <Page key={page.title} page={page} at={index} units={view.units} />
        ))}
      </main>
    </div>
  );
}

function Page({ page, at, units }: { page: LookView["pages"][number]; at: number; units: Units }) {
  return (
    <section id={`sheet-${at}`} aria-label={page.title} className="border-t border-base-300 py-4">
      <h2 className="pb-1 text-[20px] font-semibold">{page.title}</h2>
      {page.caution && <p className="border-warning mb-2 border-l-4 pl-2 text-[14px]">{page.caution}</p>}
      {page.drawings.map((drawing) => (
        <div key={drawing.key} className="mb-2 h-[380px]">
          <Sheet drawing={drawing} units={units} />
        </div>
      ))}
      <dl className="grid grid-cols-1 gap-x-8 sm:grid-cols-2 lg:grid-cols-3">
        {page.answers.map((answer) => (
          <div
            key={`${answer.array} ${answer.stage} ${answer.key}`}
            className="flex items-baseline gap-2 border-b border-base-300"
          >
            <dt className="text-[14px]">{answer.label}</dt>
            <dd className={`figure ml-auto whitespace-nowrap ${answer.headline ? "text-[20px] font-semibold" : ""}`}>
              {answer.text}
            </dd>
          </div>
        ))}
      </dl>
      <ul className="py-2">
        {page.checks.map((check) => (
          <li key={`${check.stage} ${check.array} ${check.key}`} className="py-0.5 text-[14px]">
            <State level={check.level} /> {check.title}:{" "}
            <span className="figure">
              {check.measured}, {check.relation} {check.limit}.
            </span>{" "}
            {check.level !== "sound" && check.remedy}
          </li>
        ))}
      </ul>
      {page.lines.map((line) => (
        <p key={line} className="text-secondary text-[13px]">
          {line}
        </p>
      ))}
      {page.tables.map((table) => (
        <div key={table.key} className="pb-3">
          <h3 className="font-semibold">{table.title}</h3>
          <TableView table={table} />
        </div>
      ))}
    </section>
  );
}
