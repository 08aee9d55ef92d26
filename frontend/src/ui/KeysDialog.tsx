import { Dialog } from "./Dialog";

const KEYS: [string, string][] = [
  ["← →", "along the cut, stage by stage"],
  ["[ ]", "from array to array, where a job has several"],
  ["w", "open or close the working of the first answer, or of the one with the focus"],
  ["u", "feet and inches, or metres"],
  ["z", "undo; shift and z to redo (also Ctrl+Z, Ctrl+Shift+Z)"],
  ["Ctrl+S", "save a revision"],
  ["h", "steps and revisions"],
  ["c", "fold the cut to a strip, or open it"],
  ["p", "print this stage"],
  ["Escape", "give back what stood in the field, end pointing, close a dialog"],
  ["+ − 0", "on the plan of the site: nearer, further, all of it; arrow keys move it"],
  ["arrows", "on a corner or a bend: move it; in the view in space: turn and move"],
  ["Insert, Delete", "on a corner or a bend: one more after it; take it out"],
  ["?", "this list"],
];

/** The keys of the job's screens. */
export function KeysDialog({ close }: { close: () => void }) {
  return (
    <Dialog title="Keys" close={close}>
      <dl className="grid grid-cols-[6rem_1fr] gap-y-1.5">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="figure text-[16px] font-semibold">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
