import { useEffect, useRef } from "react";
import type { JobView } from "../api/client";

interface Props {
  view: JobView;
  open: (array: string) => void;
  manage: () => void;
}

/** Which array of several the stage is about; [ and ] walk them. */
export function ArrayStrip({ view, open, manage }: Props) {
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    list.current?.querySelector("[aria-current]")?.scrollIntoView({ inline: "nearest", block: "nearest" });
  }, [view.array]);
  return (
    <nav aria-label="Arrays of the job" className="flex items-stretch border-b border-base-300 print:hidden">
      <ul ref={list} className="flex min-w-0 flex-1 overflow-x-auto">
        {view.arrays.map(({ id, name, modules, standing }) => (
          <li key={id}>
            <button
              type="button"
              aria-current={id === view.array ? "true" : undefined}
              className={`flex min-h-9 items-baseline gap-1.5 border-r border-base-300 px-3 py-1.5 whitespace-nowrap pointer-coarse:min-h-11 ${id === view.array ? "bg-base-200 shadow-[inset_0_-3px_0_var(--color-primary)] font-semibold" : "hover:bg-base-200"}`}
              data-array={id}
              onClick={() => open(id)}
            >
              {name}
              <span className="figure text-secondary text-[13px] font-normal">{modules ?? "not laid out"}</span>
              {standing && <span className="text-secondary text-[12.5px] font-normal">stands already</span>}
            </button>
          </li>
        ))}
      </ul>
      {view.role !== "viewer" && (
        <button type="button" className="btn btn-ghost btn-sm h-auto rounded-none" onClick={manage}>
          Arrays…
        </button>
      )}
    </nav>
  );
}
