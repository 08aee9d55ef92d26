import type { Given, Practice, Stage, Things } from "../api/client";
import { stageNamed, type Go } from "./ToSay";

/** Paths of a group's values that are practice, or taken from elsewhere, and that nobody has looked at. */
export const practiceIn = (givens: Given[], lists: Things[]): string[] => [
  ...givens.filter(({ practice }) => practice).map(({ path }) => path),
  ...lists.flatMap(({ items }) => items.flatMap((item) => item.practice.map((name) => `${item.path}.${name}`))),
];

/** How many of a group nobody has looked at, in thin letters as those values are. */
export function NotLooked({ count }: { count: number }) {
  if (count === 0) return null;
  return <span className="practice text-secondary ml-2 text-[12.5px]">{count} not looked at</span>;
}

interface MineProps {
  paths: string[];
  group: string;
  change: (edits: { path: string; text: string }[]) => Promise<void>;
}

/** At a group's foot, when it has been read: what stands there is one's own from now on. */
export function Mine({ paths, group, change }: MineProps) {
  if (paths.length === 0) return null;
  const what = paths.length === 1 ? "This one is" : `These ${paths.length} are`;
  return (
    <p className="px-2 pt-1 pb-2 print:hidden">
      <button
        type="button"
        className="btn btn-sm w-full pointer-coarse:min-h-11"
        data-mine={group}
        onClick={() => void change([{ path: "looked", text: paths.join("\n") }])}
      >
        <span className="practice">{what}</span> mine
      </button>
    </p>
  );
}

interface ListProps {
  practice: Practice[];
  /** What each array is called, by its id; empty where there is one alone. */
  arrays: Record<string, string>;
  go: Go;
}

/** What nobody has looked at yet, group by group as the forms have it; each leads to its first field. */
export function PracticeList({ practice, arrays, go }: ListProps) {
  const count = practice.reduce((sum, { labels }) => sum + labels.length, 0);
  if (count === 0) return null;
  return (
    <section aria-label="Not looked at" className="border-base-content/30 m-2 border-l-2 pl-2" data-testid="practice">
      <h2>
        <span className="figure text-[20px]">{count}</span> values are practice, and nobody has looked at them
      </h2>
      <p className="text-secondary text-[13px] leading-snug">
        They are written thin where they stand. At the foot of each group one press makes them yours.
      </p>
      <ul className="mt-1">
        {practice.map(({ stage, array, group, path, labels }) => (
          <li key={path}>
            <button
              type="button"
              className="hover:bg-base-300/50 flex min-h-7 w-full items-baseline gap-2 text-left pointer-coarse:min-h-11"
              onClick={() => go(stage as Stage, path, array)}
            >
              <span className="figure w-6 shrink-0 text-right text-[15px]">{labels.length}</span>
              <span className="link shrink-0">{stageNamed(stage, group, arrays[array])}</span>
              <span className="practice text-secondary min-w-0 truncate text-[12.5px]">{labels.join(", ")}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
