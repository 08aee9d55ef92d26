import type { Check } from "../api/client";

type Mend = Check["mends"][number];

/** Changes that would clear a check, each made by one press and undone like any other. */
export function Mends({ check, change }: { check: Check; change: ((edits: Mend["edits"]) => void) | null }) {
  if (!change || check.mends.length === 0) return null;
  return (
    <span className="flex flex-wrap gap-1 py-1">
      {check.mends.map((mend) => (
        <button
          key={mend.words}
          type="button"
          className="btn btn-sm bg-base-100 border-base-content/50 pointer-coarse:min-h-11"
          data-mend={`${check.stage}.${check.key}`}
          onClick={() => change(mend.edits)}
        >
          {mend.words}
        </button>
      ))}
    </span>
  );
}
