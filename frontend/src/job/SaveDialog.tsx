import { useState } from "react";
import { api, Problem, type Clash, type JobSheet, type ProblemDetails } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { stageNamed } from "../ui/ToSay";

interface Props {
  id: string;
  base: number;
  sheet: JobSheet;
  arrays: Record<string, string>;
  /** Resolves when what was typed has reached the server: it is part of what is saved. */
  arrived: () => Promise<void>;
  close: () => void;
  saved: (number: number) => void;
}

/** A named save. If someone saved in between, both sides are shown and chosen field by field. */
export function SaveDialog({ id, base, sheet, arrays, arrived, close, saved }: Props) {
  const [note, setNote] = useState("");
  const [issue, setIssue] = useState(false);
  const [conflict, setConflict] = useState<ProblemDetails | null>(null);
  const [theirs, setTheirs] = useState<Set<string>>(new Set());
  const [wrong, setWrong] = useState("");
  const save = async () => {
    try {
      await arrived();
      const done = await api.save(id, note, issue, conflict?.head ?? undefined, [...theirs]);
      saved(done.number);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (error.details.status === 409) {
        setConflict(error.details);
        setTheirs(new Set((error.details.clashes ?? []).filter((c) => !c.mine).map((c) => c.path)));
      } else setWrong(error.message);
    }
  };
  return (
    <Dialog
      title={conflict ? `Revision ${conflict.head} was saved by ${conflict.author}` : "Save a revision"}
      close={close}
      wide={conflict !== null}
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        {conflict ? (
          <Clashes
            clashes={conflict.clashes ?? []}
            base={base}
            theirs={theirs}
            setTheirs={setTheirs}
            note={conflict.note ?? ""}
          />
        ) : (
          <p>A revision is kept for good: who saved it, when and why. Your draft goes on from it.</p>
        )}
        <label className="flex flex-col gap-1">
          <span className="font-semibold">Why, in a few words</span>
          <input
            className="input w-full"
            maxLength={300}
            value={note}
            data-first
            onChange={(event) => setNote(event.target.value)}
            placeholder="second site visit, drain found"
          />
        </label>
        <label className="flex items-baseline gap-2">
          <input
            type="checkbox"
            checked={issue}
            onChange={(event) => setIssue(event.target.checked)}
            data-testid="issue"
          />
          <span>
            <span className="font-semibold">Issue it</span>: people order, drive and dig from this revision.
          </span>
        </label>
        {issue && <TakenForGranted sheet={sheet} arrays={arrays} />}
        {wrong && (
          <p role="alert" className="text-error">
            {wrong}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <button type="submit" className="btn btn-primary">
            {conflict ? "Save the two together" : issue ? "Save and issue" : "Save"}
          </button>
        </div>
      </form>
    </Dialog>
  );
}

/** What an issued revision takes for granted is written into it; what it lacks is told before. */
function TakenForGranted({ sheet, arrays }: Pick<Props, "sheet" | "arrays">) {
  const { missing, practice, stops } = sheet;
  const count = practice.reduce((sum, { labels }) => sum + labels.length, 0);
  const stopping = stops.filter(({ level }) => level === "stop").length;
  const open = [missing.length > 0 && `${missing.length} still to say`, stopping > 0 && `${stopping} stop the job`];
  const lacks = open.filter(Boolean).join(", ");
  const warning = lacks && (
    <p className="border-error border-l-4 pl-3">
      <span className="font-semibold">It is not ready to build from</span>: {lacks}.
    </p>
  );
  if (count === 0) return warning || <p>Everything in it has been looked at.</p>;
  return (
    <section aria-label="Taken for granted" className="border-warning border-l-4 pl-3">
      {warning}
      <p>
        <span className="figure text-[17px]">{count}</span> values are practice that nobody has looked at. They are
        listed with the revision:
      </p>
      <ul className="max-h-48 overflow-y-auto text-[13px]" tabIndex={0} aria-label="Values of practice">
        {practice.map(({ stage, array, group, path, labels }) => (
          <li key={path}>
            {stageNamed(stage, group, arrays[array])}: <span className="practice">{labels.join(", ")}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Clashes({
  clashes,
  base,
  theirs,
  setTheirs,
  note,
}: {
  clashes: Clash[];
  base: number;
  theirs: Set<string>;
  setTheirs: (paths: Set<string>) => void;
  note: string;
}) {
  const choose = (path: string, take: boolean) => {
    const next = new Set(theirs);
    if (take) next.add(path);
    else next.delete(path);
    setTheirs(next);
  };
  return (
    <>
      <p>
        Both of you began from revision {base}. {note && <>Their reason: “{note}”. </>}Nothing is lost: choose for each
        field, then save the two together. Of lists, what both of you did is kept where it can be.
      </p>
      <table className="w-full text-left">
        <thead>
          <tr>
            <th scope="col">Field</th>
            <th scope="col">Revision {base}</th>
            <th scope="col">Yours</th>
            <th scope="col">Theirs</th>
          </tr>
        </thead>
        <tbody>
          {clashes.map((clash) => (
            <tr key={clash.path} className="border-t border-base-300 align-baseline">
              <th scope="row" className="py-1.5 pr-2 font-normal">
                {clash.label}
              </th>
              <td className="figure pr-2 text-[15px]">{clash.base}</td>
              {(["mine", "theirs"] as const).map((side) => (
                <td key={side} className="pr-2">
                  {clash.together ? (
                    <span className="figure text-[15px] whitespace-pre-line">
                      {clash[side]} <span className="text-secondary">kept</span>
                    </span>
                  ) : clash[side] ? (
                    <label className="flex items-baseline gap-1.5">
                      <input
                        type="radio"
                        name={clash.path}
                        checked={theirs.has(clash.path) === (side === "theirs")}
                        onChange={() => choose(clash.path, side === "theirs")}
                      />
                      <span className="figure text-[15px] whitespace-pre-line">{clash[side]}</span>
                    </label>
                  ) : (
                    <span className="text-secondary">unchanged</span>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
