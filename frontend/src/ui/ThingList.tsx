import { useState } from "react";
import type { Given, Things } from "../api/client";
import type { JobState, JobStore } from "../job/jobStore";
import { newId } from "../job/newId";
import { focusSoon } from "./focus";
import { GivenField } from "./GivenField";

interface Props {
  list: Things;
  state: JobState;
  job: JobStore;
  readOnly: boolean;
  /** The thing that is open, by its path. */
  open: string | null;
  setOpen: (path: string | null) => void;
  /** More that can be done with an open thing. */
  tools?: (path: string, values: Record<string, string>) => React.ReactNode;
}

/** A list of things with fields of their own: each folds open; one more is added at the end. */
export function ThingList({ list, state, job, readOnly, open, setOpen, tools }: Props) {
  const [choice, setChoice] = useState(list.choices[0] ?? "");
  const add = () => {
    const id = newId();
    void job.change([{ path: `${list.path}.+${id}`, text: choice }]).then(() => setOpen(`${list.path}.${id}`));
  };
  // What is gone cannot hold the focus: the next one has it, or the way to add another.
  const remove = (path: string, index: number) =>
    void job.change([{ path, text: "" }]).then(() => {
      setOpen(null);
      const next = list.items[index + 1] ?? list.items[index - 1];
      focusSoon(next ? `[data-thing="${next.path}"]` : `[data-add="${list.path}"]`);
    });
  return (
    <div className="px-2 py-1.5" data-list={list.path} data-given={list.path} tabIndex={-1}>
      <p className="font-semibold">{list.label}</p>
      <p className="text-secondary text-[12.5px] leading-snug">{list.meaning}</p>
      <ul className="border-base-300 mt-1 border-t">
        {list.items.map((item, index) => (
          <li key={item.path} className="border-base-300 border-b">
            <button
              type="button"
              className="hover:bg-base-200 flex min-h-9 w-full flex-wrap items-baseline gap-x-2 px-1 py-1 text-left pointer-coarse:min-h-11"
              aria-expanded={open === item.path}
              data-thing={item.path}
              onClick={() => setOpen(open === item.path ? null : item.path)}
            >
              <span className="font-semibold">{item.title}</span>
              <span className="text-secondary ml-auto text-[12.5px]">{item.about}</span>
            </button>
            {open === item.path && (
              <div className="border-primary mb-2 border-l-2">
                {list.fields
                  .filter((field) => field.path in item.values)
                  .map((field) => {
                    const path = `${item.path}.${field.path}`;
                    const given: Given = {
                      ...field,
                      path,
                      text: item.values[field.path] ?? "",
                      placeholder: item.placeholders[field.path] ?? "",
                      practice: item.practice.includes(field.path),
                    };
                    return (
                      <GivenField
                        key={path}
                        given={given}
                        typed={state.typed[path]}
                        failure={state.failures[path]}
                        readOnly={readOnly}
                        type={job.type}
                      />
                    );
                  })}
                {!readOnly && (
                  <div className="flex flex-wrap gap-2 px-2 py-1">
                    {tools?.(item.path, item.values)}
                    <button type="button" className="btn btn-sm ml-auto" onClick={() => remove(item.path, index)}>
                      Remove
                    </button>
                  </div>
                )}
              </div>
            )}
          </li>
        ))}
      </ul>
      {list.items.length === 0 && <p className="text-secondary py-1 text-[12.5px]">None yet. From: {list.where}</p>}
      {!readOnly && !list.brought && (
        <div className="mt-1 flex gap-1 print:hidden">
          {list.choices.length > 0 && (
            <select
              className="select select-sm min-w-0 flex-1"
              aria-label={`What to add to ${list.label.toLowerCase()}`}
              value={choice}
              onChange={(event) => setChoice(event.target.value)}
            >
              {list.choices.map((kind) => (
                <option key={kind}>{kind}</option>
              ))}
            </select>
          )}
          <button type="button" className="btn btn-sm" onClick={add} data-add={list.path}>
            Add
          </button>
        </div>
      )}
    </div>
  );
}
