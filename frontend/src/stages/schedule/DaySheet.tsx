import { useState } from "react";
import type { Table } from "../../api/client";
import { TableView } from "../../ui/TableView";

/** One day of the schedule: who does what from when, and what to see to first. */
export function DaySheet({ days }: { days: Table }) {
  const all = [...new Set(days.rows.map(([day]) => day ?? ""))];
  const [chosen, setChosen] = useState("");
  const at = Math.max(0, all.indexOf(chosen));
  const day = all[at] ?? "";
  const rows = days.rows.filter(([of]) => of === day).map((row) => row.slice(1));
  const step = (by: number) => setChosen(all[at + by] ?? day);
  const sheet: Table = { ...days, key: "day", title: `Day sheet, ${day}`, columns: days.columns.slice(1), rows };
  return (
    <section aria-label="Day sheet" className="flex shrink-0 flex-col">
      <div className="flex items-center gap-1 pb-1">
        <button
          type="button"
          className="btn btn-sm pointer-coarse:size-12! print:hidden"
          aria-label="Day before"
          disabled={at === 0}
          onClick={() => step(-1)}
        >
          ‹
        </button>
        <select
          className="select select-sm figure w-44 text-[16px] pointer-coarse:h-12!"
          aria-label="Day"
          value={day}
          onChange={(event) => setChosen(event.target.value)}
        >
          {all.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
        <button
          type="button"
          className="btn btn-sm pointer-coarse:size-12! print:hidden"
          aria-label="Day after"
          disabled={at === all.length - 1}
          onClick={() => step(1)}
        >
          ›
        </button>
        <span className="text-secondary ml-2 text-[13px]">
          day {at + 1} of {all.length}
        </span>
      </div>
      <TableView table={sheet} />
    </section>
  );
}
