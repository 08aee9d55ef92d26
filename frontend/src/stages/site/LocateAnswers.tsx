import { useState } from "react";
import type { Things } from "../../api/client";

interface Props {
  tickets: Things;
  change: (edits: { path: string; text: string }[]) => void;
}

const REPLIES = ["nothing here", "marked"];

/** The one-call centre's page says it for many owners at once: all that have not answered yet, in one step. */
export function LocateAnswers({ tickets, change }: Props) {
  const [day, setDay] = useState(() => new Date().toISOString().slice(0, 10));
  const [reply, setReply] = useState(REPLIES[0] ?? "");
  const open = tickets.items.filter((ticket) => ticket.values.reply === "none yet");
  if (open.length < 2) return null;
  const answer = () =>
    change(
      open.flatMap(({ path }) => [
        { path: `${path}.responded`, text: day },
        { path: `${path}.reply`, text: reply },
      ]),
    );
  return (
    <form
      className="border-primary mx-2 my-1 print:hidden flex flex-wrap items-end gap-2 border-l-2 pl-2"
      aria-label="One answer for all owners"
      onSubmit={(event) => {
        event.preventDefault();
        answer();
      }}
    >
      <p className="w-full text-[13px]">One page answers for all {open.length} that have not:</p>
      <label className="flex flex-col text-[13px]">
        Answered on
        <input
          type="date"
          required
          className="input input-sm figure w-36"
          value={day}
          onChange={(event) => setDay(event.target.value)}
        />
      </label>
      <label className="flex flex-col text-[13px]">
        Answer
        <select className="select select-sm w-32" value={reply} onChange={(event) => setReply(event.target.value)}>
          {REPLIES.map((word) => (
            <option key={word}>{word}</option>
          ))}
        </select>
      </label>
      <button type="submit" className="btn btn-sm">
        Answer for all {open.length}
      </button>
    </form>
  );
}
