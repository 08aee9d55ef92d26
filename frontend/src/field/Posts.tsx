import { useState } from "react";
import type { FieldRecord, FieldView } from "../api/client";
import { Entry, type Kind, type Shown } from "./Entry";
import { saidAt } from "./ladder";
import type { Waiting } from "./outbox";
import { lengthOf } from "./pad";
import { Row } from "./Row";

const LEVEL = { sound: "sound", "not sound": "stop", asked: "look", "not yet": "nothing" } as const;
const OF_DEPTH: FieldRecord["kind"][] = ["depth", "refusal"];
/** So many are walked through on one page: a large field is taken block by block. */
const PAGE = 120;

interface Props {
  view: FieldView;
  waiting: Waiting[];
  add: (record: FieldRecord) => Promise<void>;
}

/** The posts along the string, block by block; one of them in hand. */
export function Posts({ view, waiting, add }: Props) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [kind, setKind] = useState<Kind>("depth");
  const [block, setBlock] = useState("");
  const [page, setPage] = useState(0);
  const blocks = [...new Set(view.posts.map(({ array }) => array))];
  const own = blocks.includes(block) ? block : blocks[0];
  const posts = view.posts.filter(({ array }) => array === own);
  const pages = Math.max(1, Math.ceil(posts.length / PAGE));
  const from = Math.min(page, pages - 1) * PAGE;
  const shown = posts.map((post) => ({
    post,
    // What is waiting of its depth speaks before what waits of its top.
    waits:
      waiting.findLast(({ record }) => record.of === post.of && OF_DEPTH.includes(record.kind)) ??
      waiting.findLast(({ record }) => record.of === post.of) ??
      null,
  }));
  const at = shown.findIndex(({ post }) => post.of === chosen);
  const current = shown[at];
  if (current)
    return (
      <Entry
        key={current.post.of}
        view={view}
        shown={current}
        kind={kind}
        setKind={setKind}
        add={add}
        go={(by) => setChosen(shown[at + by]?.post.of ?? null)}
        close={() => setChosen(null)}
      />
    );
  const open = (next: string) => {
    setBlock(next);
    setPage(0);
  };
  if (!posts.length)
    return (
      <p className="text-secondary p-3 text-[16px]">
        Nothing here goes into the ground: legs stand in weights. Measure how high each box is filled and keep the list;
        this book has no place for it yet.
      </p>
    );
  return (
    <>
      {blocks.length > 1 && (
        <select
          className="select my-1 h-12! w-full text-[16px]"
          aria-label="Array"
          value={own}
          onChange={(event) => open(event.target.value)}
        >
          {blocks.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      )}
      {pages > 1 && (
        <div className="flex items-center gap-2 py-1">
          <button type="button" className="btn h-12!" disabled={from === 0} onClick={() => setPage(page - 1)}>
            Before
          </button>
          <span className="figure flex-1 text-center">
            {from + 1} to {Math.min(from + PAGE, posts.length)} of {posts.length}
          </span>
          <button
            type="button"
            className="btn h-12!"
            disabled={from + PAGE >= posts.length}
            onClick={() => setPage(page + 1)}
          >
            After
          </button>
        </div>
      )}
      <ul aria-label="Posts on the string">
        {shown.slice(from, from + PAGE).map((one) => (
          <PostRow key={one.post.of} view={view} shown={one} choose={setChosen} />
        ))}
      </ul>
    </>
  );
}

function PostRow({ view, shown, choose }: { view: FieldView; shown: Shown; choose: (of: string) => void }) {
  const { post, waits } = shown;
  const depth = waits && OF_DEPTH.includes(waits.record.kind) ? waits.record.typed : "";
  const here = saidAt(view, post, lengthOf(depth));
  const level = here ? (here.carries ? "sound" : "stop") : LEVEL[post.verdict];
  return (
    <Row
      of={post.of}
      name={post.name}
      about={`at ${post.tape}`}
      value={depth || post.depth || post.planned}
      planned={!depth && !post.depth}
      level={level}
      words={here?.words ?? post.words}
      waits={waits !== null}
      choose={choose}
    />
  );
}
