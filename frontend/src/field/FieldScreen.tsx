import { useState } from "react";
import { Link, useParams } from "react-router";
import type { FieldPost, FieldView, Units } from "../api/client";
import { State } from "../ui/State";
import { Entry, type Kind } from "./Entry";
import { saidAt } from "./ladder";
import { metres, NOTHING, type Tapped } from "./pad";
import type { Waiting } from "./outbox";
import { useFieldBook } from "./useFieldBook";

/** A post with what this device holds of it and has not sent. */
export interface Shown {
  post: FieldPost;
  /** The newest that waits here; it speaks before what the server knows. */
  waits: Waiting | null;
}

const LEVEL = { sound: "sound", "not sound": "stop", asked: "look", "not yet": "nothing" } as const;

/** The field book: pick a post on the string, tap what was measured, read at once whether it may stay so. */
export function FieldScreen({ account }: { account: string }) {
  const { id = "" } = useParams();
  const [units] = useState(() => localStorage.getItem(`furrow.units.${id}`) as Units | null);
  const book = useFieldBook(account, id, units);
  const [chosen, setChosen] = useState<string | null>(null);
  const [kind, setKind] = useState<Kind>("depth");
  const { view } = book;
  if (!view) {
    return (
      <p className="p-6">
        {book.refused || "Opening the field book…"}{" "}
        <Link to={`/jobs/${id}/footings`} className="link">
          Back to the plan
        </Link>
      </p>
    );
  }
  const shown = view.posts.map((post) => ({
    post,
    // What is waiting of its depth speaks before what waits of its top.
    waits:
      book.waiting.findLast(({ record }) => record.of === post.of && record.kind !== "top") ??
      book.waiting.findLast(({ record }) => record.of === post.of) ??
      null,
  }));
  const at = shown.findIndex(({ post }) => post.of === chosen);
  const current = shown[at];
  return (
    <div className="field mx-auto flex min-h-full max-w-2xl flex-col">
      <title>{`${view.name}: field book · Open Furrow`}</title>
      <Head view={view} waiting={book.waiting.length} reached={book.reached} />
      {book.refused && (
        <p role="alert" className="border-error mx-3 my-1 border-l-4 pl-3">
          {book.refused}
        </p>
      )}
      <main className="flex-1 px-2 pb-4">
        {(current ? [] : view.checks)
          .filter(({ level }) => level !== "sound")
          .map((check) => (
            <p key={check.key} className="px-1 py-1 text-[14px]">
              <State level={check.level} /> {check.title}: <span className="figure">{check.measured}</span>.{" "}
              <span className="text-secondary">{check.remedy}</span>
            </p>
          ))}
        {current ? (
          <Entry
            key={current.post.of}
            view={view}
            shown={current}
            kind={kind}
            setKind={setKind}
            add={book.add}
            go={(by) => setChosen(shown[at + by]?.post.of ?? null)}
            close={() => setChosen(null)}
          />
        ) : (
          <ul aria-label="Posts on the string">
            {shown.map((one) => (
              <PostRow key={one.post.of} view={view} shown={one} choose={setChosen} />
            ))}
          </ul>
        )}
      </main>
    </div>
  );
}

function Head({ view, waiting, reached }: { view: FieldView; waiting: number; reached: boolean }) {
  return (
    <header className="border-b border-base-300 px-3 py-2">
      <p className="flex items-baseline gap-2">
        <Link to={`/jobs/${view.id}/footings`} className="link min-h-12 content-center">
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

const tappedDepth = (waits: Waiting | null): number => {
  if (!waits || (waits.record.kind !== "depth" && waits.record.kind !== "refusal")) return NaN;
  const [, mm = ""] = /^(\d+) mm$/.exec(waits.record.typed) ?? [];
  const [, feet = "", inches = "", part = ""] = /^(\d+)' (\d+)(?: (\d+)\/16)?"$/.exec(waits.record.typed) ?? [];
  const tapped: Tapped = { ...NOTHING, mm, feet, inches, sixteenths: part };
  return metres(tapped, mm ? "metric" : "us");
};

function PostRow({ view, shown, choose }: { view: FieldView; shown: Shown; choose: (of: string) => void }) {
  const { post, waits } = shown;
  const here = saidAt(view, post, tappedDepth(waits));
  const level = here ? (here.carries ? "sound" : "stop") : LEVEL[post.verdict];
  return (
    <li className="border-b border-base-300">
      <button
        type="button"
        className="flex min-h-14 w-full flex-wrap items-baseline gap-x-3 px-2 py-2 text-left hover:bg-base-200"
        data-post={post.of}
        onClick={() => choose(post.of)}
      >
        <span className="figure w-16 text-[20px] font-semibold">{post.name}</span>
        {post.array && <span className="text-secondary text-[13px]">{post.array}</span>}
        <span className="figure text-secondary text-[15px]">at {post.tape}</span>
        <span className="figure ml-auto text-[20px]">
          {waits && waits.record.kind !== "top" ? waits.record.typed : post.depth || post.planned}
          {(!waits || waits.record.kind === "top") && !post.depth && (
            <span className="text-secondary text-[13px]"> planned</span>
          )}
        </span>
        <State level={level} />
        {(here || post.words) && <span className="text-secondary w-full text-[13px]">{here?.words ?? post.words}</span>}
        {waits && <span className="state-look text-[13px]">not yet sent</span>}
      </button>
    </li>
  );
}
