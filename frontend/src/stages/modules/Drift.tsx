import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { JobView, Sighted } from "../../api/client";
import { queries } from "../../api/queries";
import { Sheet } from "../../drawing/Sheet";
import { Asked } from "../../ui/Asked";
import { SideSelect } from "../../ui/SideSelect";
import { Tables } from "../../ui/Tables";

const NOTHING: Sighted = {
  table: "1",
  first: "0",
  first_off: "",
  first_side: "above",
  last: "4",
  off: "",
  side: "above",
};

interface PlaceProps {
  words: string;
  seen: Sighted;
  of: { module: "first" | "last"; off: "first_off" | "off"; side: "first_side" | "side" };
  least: number;
  hint: string;
  change: (seen: Sighted) => void;
}

/** One place along the row: after which module, how far off the string, on which side of it. */
function Place({ words, seen, of, least, hint, change }: PlaceProps) {
  const set = (name: keyof Sighted) => (event: { target: { value: string } }) =>
    change({ ...seen, [name]: event.target.value });
  return (
    <fieldset className="flex flex-wrap items-center gap-2">
      <legend className="sr-only">{words}</legend>
      <label className="flex items-center gap-2">
        {words}
        <input
          className="input input-sm figure w-20 pointer-coarse:min-h-11"
          type="number"
          min={least}
          value={seen[of.module]}
          onChange={set(of.module)}
        />
      </label>
      <label className="flex items-center gap-2">
        off by
        <input
          className="input input-sm figure w-24 pointer-coarse:min-h-11"
          placeholder={hint}
          value={seen[of.off]}
          onChange={set(of.off)}
        />
      </label>
      <SideSelect
        label={`${words}: which side`}
        value={seen[of.side]}
        change={(side) => change({ ...seen, [of.side]: side })}
      />
    </fieldset>
  );
}

/** A row sighted along its string: what was read in, the gap of each next clamp out. */
export function Drift({ view }: { view: JobView }) {
  const [seen, setSeen] = useState(NOTHING);
  const [asked, setAsked] = useState<Sighted | null>(null);
  const hint = view.units === "us" ? "1/4 in" : "6 mm";
  return (
    <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1" data-drift>
      <form
        className="flex shrink-0 flex-col gap-2 text-[14px] print:hidden"
        onSubmit={(event) => {
          event.preventDefault();
          setAsked(seen);
        }}
      >
        <label className="flex items-center gap-2">
          Table number
          <input
            className="input input-sm figure w-20 pointer-coarse:min-h-11"
            type="number"
            min={1}
            value={seen.table}
            onChange={(event) => setSeen({ ...seen, table: event.target.value })}
          />
        </label>
        <Place
          words="Read first after module"
          seen={seen}
          of={{ module: "first", off: "first_off", side: "first_side" }}
          least={0}
          hint="0"
          change={setSeen}
        />
        <Place
          words="The last that is set is module"
          seen={seen}
          of={{ module: "last", off: "off", side: "side" }}
          least={1}
          hint={hint}
          change={setSeen}
        />
        <button
          type="submit"
          className="btn btn-sm self-start pointer-coarse:min-h-11"
          disabled={!seen.off.trim() || !seen.last || !seen.first || !seen.table}
        >
          Which gaps?
        </button>
      </form>
      {asked ? (
        <Gaps view={view} seen={asked} />
      ) : (
        <p className="text-secondary text-[14px]">
          Sight along the string after every fourth module. Nought is where the row begins. How far is its lower edge
          off, where it was read before and at the last module: the next gaps bring it back, a little each.
        </p>
      )}
    </div>
  );
}

function Gaps({ view, seen }: { view: JobView; seen: Sighted }) {
  const found = useQuery(queries.drift(view.id, view.draft.position, view.units, view.array, seen));
  return (
    <Asked of={found} waiting="Gap after gap…">
      {(data) => (
        <>
          <p className="text-[15px] font-semibold" role="status">
            {data.note}
          </p>
          {data.drawings.map((drawing) => (
            <div key={drawing.key} className="h-[220px] shrink-0">
              <Sheet drawing={drawing} units={view.units} />
            </div>
          ))}
          <Tables tables={data.tables} />
        </>
      )}
    </Asked>
  );
}
