import type { Missing, Stage } from "../api/client";

/** Where a list leads: a stage, the path of a field, the array that is meant. */
export type Go = (stage: Stage, given: string, array: string) => void;

/** A stage, a group of its form and an array in one name. */
export const stageNamed = (stage: string, group: string, array?: string) =>
  [stage, group.toLowerCase(), array].filter(Boolean).join(", ");

interface Props {
  missing: Missing[];
  /** What each array is called, by its id; empty where there is one alone. */
  arrays: Record<string, string>;
  go: Go;
}

/** What only people can say and nobody has yet, in the order they learn it; each leads to its field. */
export function ToSay({ missing, arrays, go }: Props) {
  if (missing.length === 0) return null;
  return (
    <section aria-label="Still to say" className="border-primary m-2 border-l-4 pl-2" data-testid="to-say">
      <h2 className="font-semibold">
        <span className="figure text-[20px]">{missing.length}</span> still to say
      </h2>
      <p className="text-secondary text-[13px] leading-snug">
        Numbers come as soon as what they stand on is known. Nothing is taken from another place.
      </p>
      <ol className="mt-1">
        {missing.map(({ path, label, stage, array }, number) => (
          <li key={path}>
            <button
              type="button"
              className="flex min-h-7 w-full items-baseline gap-2 text-left hover:bg-base-200 pointer-coarse:min-h-11"
              onClick={() => go(stage as Stage, path, array)}
            >
              <span className={number === 0 ? "link font-semibold" : "link"}>
                {label}
                {arrays[array] ? `, ${arrays[array]}` : ""}
              </span>
              <span className="text-secondary ml-auto text-[12.5px]">{stage}</span>
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
