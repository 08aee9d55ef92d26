import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type AskedSheet, type JobView, type Stopped as Seen } from "../../api/client";
import { queries, wordsOf } from "../../api/queries";
import { recordOf } from "../../field/record";
import type { JobStore } from "../../job/jobStore";
import { Asked } from "../../ui/Asked";
import { Takes } from "../../ui/Takes";
import { SupportNumber } from "../../ui/SupportNumber";
import { Tables } from "../../ui/Tables";

/** A support that stopped short: its number and the depth it reached in, every way on with its number out. */
export function Stopped({ view, job }: { view: JobView; job: JobStore }) {
  const [support, setSupport] = useState("1");
  const [reached, setReached] = useState("");
  const [leans, setLeans] = useState("");
  const [water, setWater] = useState("");
  const [asked, setAsked] = useState<Seen | null>(null);
  return (
    <div className="scroll-cue flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto pr-1" data-stopped>
      <form
        className="flex shrink-0 flex-wrap items-center gap-2 text-[14px] print:hidden"
        onSubmit={(event) => {
          event.preventDefault();
          setAsked({ support, reached, leans, water });
        }}
      >
        <SupportNumber value={support} change={setSupport} />
        <Typed
          words="stopped at"
          width="w-32"
          shows={view.units === "us" ? "3 ft 6 in" : "1.20 m"}
          value={reached}
          change={setReached}
        />
        <Typed words="leans by" width="w-24" shows="0°" value={leans} change={setLeans} />
        <Typed words="water at" width="w-24" shows="none" value={water} change={setWater} />
        <button type="submit" className="btn btn-sm pointer-coarse:min-h-11" disabled={!support || !reached.trim()}>
          What now?
        </button>
      </form>
      {asked ? (
        <Ways view={view} job={job} seen={asked} />
      ) : (
        <p className="text-secondary text-[14px]">
          The number of the post as the stakes have it, and how deep it went; how far it leans, and where water stands
          in its hole: whether it carries so, and what else may be done.
        </p>
      )}
    </div>
  );
}

/** One thing that was found there, as it is typed; `shows` is what such a thing looks like. */
function Typed(props: { words: string; width: string; shows: string; value: string; change: (text: string) => void }) {
  return (
    <label className="flex items-center gap-2">
      {props.words}
      <input
        className={`input input-sm figure ${props.width} pointer-coarse:min-h-11`}
        placeholder={props.shows}
        value={props.value}
        onChange={(event) => props.change(event.target.value)}
      />
    </label>
  );
}

/** Writes it into the field book as it was read; there it is judged by what is issued. */
function WriteDown({ view, job, record }: { view: JobView; job: JobStore; record: NonNullable<AskedSheet["record"]> }) {
  const [done, setDone] = useState("");
  const write = async () => {
    try {
      await api.addRecords(view.id, view.units, [recordOf(record.kind, record, record.typed)]);
      await job.reload();
      setDone(`Written down: stopped at ${record.typed}.`);
    } catch (error) {
      setDone(wordsOf(error));
    }
  };
  return done ? (
    <p role="status" className="text-[14px]">
      {done}
    </p>
  ) : (
    <p>
      <button type="button" className="btn btn-sm pointer-coarse:min-h-11" onClick={() => void write()}>
        Write into the field book: stopped at {record.typed}
      </button>
    </p>
  );
}

/** The ways, and those that are taken at one press. */
function Ways({ view, job, seen }: { view: JobView; job: JobStore; seen: Seen }) {
  const found = useQuery(queries.stopped(view.id, view.draft.position, view.units, view.array, seen));
  // Of what is asked no more nothing is taken.
  const takes = view.role !== "viewer" && !found.isPlaceholderData;
  return (
    <Asked of={found} waiting="Every way is planned…">
      {(data) => (
        <>
          <Tables tables={data.tables} />
          {takes && data.takes.length > 0 && <Takes takes={data.takes} job={job} />}
          {takes && data.record && (
            <WriteDown key={`${data.record.of} ${data.record.typed}`} view={view} job={job} record={data.record} />
          )}
          <p className="text-secondary text-[13px]">{data.note}</p>
        </>
      )}
    </Asked>
  );
}
