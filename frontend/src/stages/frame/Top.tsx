import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { JobView, TopOff } from "../../api/client";
import { queries } from "../../api/queries";
import { Asked } from "../../ui/Asked";
import { SideSelect } from "../../ui/SideSelect";
import { SupportNumber } from "../../ui/SupportNumber";
import { Tables } from "../../ui/Tables";

/** A top that was read off its line: its number and how far in, every way to level it out. */
export function Top({ view }: { view: JobView }) {
  const [seen, setSeen] = useState<TopOff>({ support: "1", off: "", side: "above" });
  const [asked, setAsked] = useState<TopOff | null>(null);
  return (
    <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1" data-top>
      <form
        className="flex shrink-0 flex-wrap items-center gap-2 text-[14px] print:hidden"
        onSubmit={(event) => {
          event.preventDefault();
          setAsked(seen);
        }}
      >
        <SupportNumber value={seen.support} change={(support) => setSeen({ ...seen, support })} />
        <label className="flex items-center gap-2">
          its top is off by
          <input
            className="input input-sm figure w-28 pointer-coarse:min-h-11"
            placeholder={view.units === "us" ? "9/16 in" : "14 mm"}
            value={seen.off}
            onChange={(event) => setSeen({ ...seen, off: event.target.value })}
          />
        </label>
        <SideSelect label="Which side of the line" value={seen.side} change={(side) => setSeen({ ...seen, side })} />
        <button
          type="submit"
          className="btn btn-sm pointer-coarse:min-h-11"
          disabled={!seen.off.trim() || !seen.support}
        >
          What levels it?
        </button>
      </form>
      {asked ? (
        <Levelled view={view} seen={asked} />
      ) : (
        <p className="text-secondary text-[14px]">
          Sight through the holes along the line, or read a rod. Which hole, slot, shim or blow puts this top level, and
          what it does to the tilt.
        </p>
      )}
    </div>
  );
}

function Levelled({ view, seen }: { view: JobView; seen: TopOff }) {
  const found = useQuery(queries.top(view.id, view.draft.position, view.units, view.array, seen));
  return (
    <Asked of={found} waiting="Every way is tried…">
      {(data) => (
        <>
          <Tables tables={data.tables} />
          <p className="text-secondary text-[13px]">{data.note}</p>
        </>
      )}
    </Asked>
  );
}
