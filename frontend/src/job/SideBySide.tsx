import { useQuery } from "@tanstack/react-query";
import type { JobView } from "../api/client";
import { queries, wordsOf } from "../api/queries";
import { TableView } from "../ui/TableView";

/** What stands beside the draft: revisions and steps by their numbers. */
export interface Pinned {
  revisions: number[];
  steps: number[];
}
export const MOST_PINNED = 3;
export const countOf = ({ revisions, steps }: Pinned) => revisions.length + steps.length;

/** A box that puts one beside the draft, or takes it off. */
export function Pin({
  of,
  number,
  pinned,
  pin,
}: {
  of: keyof Pinned;
  number: number;
  pinned: Pinned;
  pin: (next: Pinned) => void;
}) {
  const held = pinned[of].includes(number);
  const what = of === "steps" ? "step" : "revision";
  return (
    <label className="flex min-h-7 items-center gap-1 text-[13px] pointer-coarse:min-h-11">
      <input
        type="checkbox"
        className="checkbox checkbox-sm"
        checked={held}
        disabled={!held && countOf(pinned) >= MOST_PINNED}
        aria-label={`Put ${what} ${number} beside the draft`}
        onChange={() =>
          pin({ ...pinned, [of]: held ? pinned[of].filter((one) => one !== number) : [...pinned[of], number] })
        }
      />
      <span aria-hidden="true">beside</span>
    </label>
  );
}

/** The draft and up to three others, number by number. */
export function SideBySide({ view, pinned }: { view: JobView; pinned: Pinned }) {
  const { data, error } = useQuery(
    queries.variants(view.id, view.draft.position, view.units, pinned.revisions, pinned.steps),
  );
  if (error) return <p role="alert">{wordsOf(error)}</p>;
  if (!data) return <p role="status">Planned side by side…</p>;
  return (
    <section className="mt-4" aria-label={data.title}>
      <h3 className="mb-1 font-semibold">{data.title}</h3>
      <TableView table={data} />
    </section>
  );
}
