import { useState } from "react";
import type { Table } from "../../api/client";
import { newId } from "../../job/newId";

interface Props {
  tasks: Table;
  change: (edits: { path: string; text: string }[]) => Promise<void>;
}

const BEGINS = 5;

/** A task that begins on the day it was promised for: chosen from those there are, the day it has by now offered. */
export function HoldToDay({ tasks, change }: Props) {
  const [name, setName] = useState("");
  const [day, setDay] = useState("");
  const row = tasks.rows.find(([task]) => task === name) ?? tasks.rows[0];
  const task = row?.[0] ?? "";
  const on = day || (row?.[BEGINS] ?? "");
  const hold = () => {
    const id = newId();
    setDay("");
    void change([
      { path: `schedule.locks.+${id}`, text: "" },
      { path: `schedule.locks.${id}.task`, text: task },
      { path: `schedule.locks.${id}.day`, text: on },
    ]);
  };
  return (
    <form
      className="flex flex-wrap items-end gap-2 px-2 pb-2 print:hidden"
      aria-label="Hold a task to a day"
      onSubmit={(event) => {
        event.preventDefault();
        hold();
      }}
    >
      <select
        className="select select-sm w-full pointer-coarse:h-11"
        aria-label="Task"
        value={task}
        onChange={(event) => {
          setName(event.target.value);
          setDay("");
        }}
      >
        {tasks.rows.map(([one]) => (
          <option key={one}>{one}</option>
        ))}
      </select>
      <input
        type="date"
        className="input input-sm figure w-36 pointer-coarse:h-11"
        aria-label="Begins on"
        required
        value={on}
        onChange={(event) => setDay(event.target.value)}
      />
      <button type="submit" className="btn btn-sm pointer-coarse:min-h-11">
        Hold it to that day
      </button>
    </form>
  );
}
