import type { JobView } from "../api/client";
import type { JobStore } from "../job/jobStore";
import { newId } from "../job/newId";
import { focusSoon } from "../ui/focus";
import { Dialog } from "../ui/Dialog";

interface Props {
  view: JobView;
  job: JobStore;
  close: () => void;
}

/** The arrays of the job: named, put in order, copied, taken out. Each press is a step that can be undone. */
export function ArraysDialog({ view, job, close }: Props) {
  const { arrays } = view;
  const change = (path: string, text: string) => job.change([{ path, text }]);
  const add = (like: string) => {
    const id = newId();
    void change(`arrays.+${id}`, like).then(() => {
      void job.openArray(id);
      focusSoon(`[data-array-name="${id}"]`);
    });
  };
  return (
    <Dialog title="Arrays of the job" close={close} wide>
      <p className="text-secondary mb-2 text-[13px] leading-snug">
        Each has its own place, tilt, rows, structure, footings and modules. The first one&rsquo;s first post is the
        benchmark of all stakes. A new one stands behind the one it is like: say on its rows where it really stands.
      </p>
      <ol className="border-base-300 border-t">
        {arrays.map(({ id, name, modules }, index) => (
          <li key={id} className="border-base-300 flex flex-wrap items-center gap-x-2 gap-y-1 border-b py-1.5">
            <input
              key={name}
              className="input input-sm min-w-40 flex-1"
              aria-label={`What array ${index + 1} is called`}
              data-array-name={id}
              data-first={index === 0 ? "" : undefined}
              defaultValue={name}
              maxLength={40}
              onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
              onBlur={({ currentTarget }) => {
                const said = currentTarget.value.trim();
                if (said && said !== name) void change(`arrays.${id}.name`, said);
                else currentTarget.value = name;
              }}
            />
            <span className="figure text-secondary w-28 text-right text-[14px]">
              {modules === null ? "not laid out yet" : `${modules} module${modules === 1 ? "" : "s"}`}
            </span>
            <span className="flex flex-wrap gap-1">
              <button
                type="button"
                className="btn btn-sm"
                aria-label={`${name} one up`}
                disabled={index === 0}
                onClick={() => void change(`arrays.${id}.order`, String(index))}
              >
                ↑
              </button>
              <button
                type="button"
                className="btn btn-sm"
                aria-label={`${name} one down`}
                disabled={index === arrays.length - 1}
                onClick={() => void change(`arrays.${id}.order`, String(index + 2))}
              >
                ↓
              </button>
              <button type="button" className="btn btn-sm" aria-label={`Copy ${name}`} onClick={() => add(id)}>
                Copy
              </button>
              <button
                type="button"
                className="btn btn-sm"
                aria-label={`Remove ${name}`}
                disabled={arrays.length === 1}
                onClick={() => void change(`arrays.${id}`, "")}
              >
                Remove
              </button>
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-3">
        <button type="button" className="btn btn-sm" onClick={() => add("")}>
          Add a plain one
        </button>
      </p>
    </Dialog>
  );
}
