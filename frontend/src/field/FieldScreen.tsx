import { useState, type ComponentType } from "react";
import { Link, useParams } from "react-router";
import type { FieldRecord, FieldView, Units } from "../api/client";
import { Covers } from "./Covers";
import { Inspections } from "./Inspections";
import { Loads } from "./Loads";
import type { Waiting } from "./outbox";
import { Posts } from "./Posts";
import { Serials } from "./Serials";
import { Strings } from "./Strings";
import { Today } from "./Today";
import { useFieldBook } from "./useFieldBook";

interface PartProps {
  view: FieldView;
  waiting: Waiting[];
  add: (record: FieldRecord) => Promise<void>;
}

const PARTS: [name: string, part: ComponentType<PartProps>][] = [
  ["Today", Today],
  ["Truck", Loads],
  ["Posts", Posts],
  ["Trench", Covers],
  ["Strings", Strings],
  ["Modules", Serials],
  ["Asked", Inspections],
];
const LAST = "furrow.field";

/** The field book: what is done today, and what is measured, tapped and read at once. */
export function FieldScreen({ account }: { account: string }) {
  const { id = "" } = useParams();
  const [units] = useState(() => localStorage.getItem(`furrow.units.${id}`) as Units | null);
  const book = useFieldBook(account, id, units);
  const [name, setName] = useState(() => sessionStorage.getItem(`${LAST}.${id}`) ?? "Today");
  const { view } = book;
  if (!view) {
    return (
      <p className="p-6">
        {book.refused || "Opening the field book…"}{" "}
        <Link to={`/jobs/${id}/fieldbook`} className="link">
          Back to the plan
        </Link>
      </p>
    );
  }
  const open = (next: string) => {
    sessionStorage.setItem(`${LAST}.${id}`, next);
    setName(next);
  };
  const Part = PARTS.find(([of]) => of === name)?.[1] ?? Today;
  return (
    <div className="field mx-auto flex min-h-full max-w-2xl flex-col">
      <title>{`${view.name}: field book · Open Furrow`}</title>
      <Head view={view} waiting={book.waiting.length} reached={book.reached} />
      <nav aria-label="Field book" className="border-b border-base-300 overflow-x-auto">
        <ul className="flex min-w-max">
          {PARTS.map(([of]) => (
            <li key={of} className="flex-1">
              <button
                type="button"
                className={`min-h-12 w-full px-3 ${of === name ? "border-primary bg-base-200 border-b-3 font-semibold" : ""}`}
                aria-current={of === name ? "page" : undefined}
                onClick={() => open(of)}
              >
                {of}
              </button>
            </li>
          ))}
        </ul>
      </nav>
      {book.refused && (
        <p role="alert" className="border-error mx-3 my-1 border-l-4 pl-3">
          {book.refused}
        </p>
      )}
      <main className="flex-1 px-2 pb-4">
        <Part view={view} waiting={book.waiting} add={book.add} />
      </main>
    </div>
  );
}

function Head({ view, waiting, reached }: { view: FieldView; waiting: number; reached: boolean }) {
  return (
    <header className="px-3 py-1">
      <p className="flex items-baseline gap-2">
        <Link to={`/jobs/${view.id}/fieldbook`} className="link min-h-12 content-center">
          Plan
        </Link>
        <h1 className="min-w-0 truncate text-[18px] font-semibold">{view.name}</h1>
      </p>
      <p className="flex flex-wrap gap-x-4 text-[14px]">
        <span>
          <span className="figure text-[20px] font-semibold">{view.measured}</span> of {view.posts.length} posts
          measured
        </span>
        <span className="text-secondary">
          revision {view.revision}
          {view.issued ? ", issued" : ", not issued"}
        </span>
        <span
          className={waiting > 0 ? "state-look font-semibold" : "text-secondary"}
          role="status"
          data-testid="waiting"
        >
          {waiting > 0 ? `${waiting} not yet sent` : reached ? "all sent" : "no network"}
          {waiting > 0 && !reached && ", no network"}
        </span>
      </p>
    </header>
  );
}
