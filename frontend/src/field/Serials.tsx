import { useRef, useState } from "react";
import type { FieldRecord, FieldView } from "../api/client";
import type { Waiting } from "./outbox";
import { useOnce } from "./Pads";
import { nowhere, recordOf } from "./record";

interface Props {
  view: FieldView;
  waiting: Waiting[];
  add: (record: FieldRecord) => Promise<void>;
}

/** Which serial sits where: a grid for each table, walked up each column; a scanner ends each line with Enter. */
export function Serials({ view, waiting, add }: Props) {
  const [table, setTable] = useState(view.grids[0]?.of ?? "");
  const [cell, setCell] = useState<[number, number]>([1, 1]);
  const [typed, setTyped] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const keepOnce = useOnce((of: string, serial: string, then: () => void) =>
    add(recordOf("serial", nowhere(of), serial)).then(then),
  );
  const grid = view.grids.find(({ of }) => of === table) ?? view.grids[0];
  if (!grid) return <p className="p-3">No modules are to be set.</p>;
  const [column, up] = cell;
  const nameOf = (c: number, u: number) => `${grid.of}/c${c}.${u}`;
  const textOf = (of: string) =>
    waiting.findLast(({ record }) => record.of === of)?.record.typed ??
    view.serials.find((one) => one.of === of)?.text ??
    "";
  const here = textOf(nameOf(column, up));
  const next = () => setCell(up < grid.high ? [column, up + 1] : column < grid.columns ? [column + 1, 1] : cell);
  const elsewhere = [
    ...view.serials.map(({ of, text }) => ({ of, text })),
    ...waiting
      .filter(({ record }) => record.kind === "serial")
      .map(({ record }) => ({ of: record.of, text: record.typed })),
  ].find(({ of, text }) => of !== nameOf(column, up) && plain(text) === plain(typed) && plain(typed) !== "");
  const keep = () => {
    if (typed.trim() === "") return;
    keepOnce(nameOf(column, up), typed.trim(), () => {
      setTyped("");
      next();
      field.current?.focus();
    });
  };
  const rows = Array.from({ length: grid.high }, (_, index) => grid.high - index);
  return (
    <section aria-label="Serials" className="pt-1">
      <select
        className="select h-12! w-full text-[16px]"
        aria-label="Table"
        value={grid.of}
        onChange={(event) => {
          setTable(event.target.value);
          setCell([1, 1]);
        }}
      >
        {view.grids.map(({ of, array, name }) => (
          <option key={of} value={of}>
            {array ? `${array}, table ${name}` : `table ${name}`}
          </option>
        ))}
      </select>
      <p className="text-secondary py-1 text-[14px]">The lower edge is below; columns run from the first post on.</p>
      <div className="overflow-x-auto">
        <div className="grid w-max gap-1" style={{ gridTemplateColumns: `repeat(${grid.columns}, 3rem)` }}>
          {rows.flatMap((u) =>
            Array.from({ length: grid.columns }, (_, index) => index + 1).map((c) => {
              const text = textOf(nameOf(c, u));
              const chosen = c === column && u === up;
              return (
                <button
                  key={`${c}.${u}`}
                  type="button"
                  className={`figure h-14 w-12 border-2 text-[12px] leading-none ${chosen ? "border-accent" : "border-base-content/40"} ${text ? "bg-primary text-primary-content" : ""}`}
                  aria-pressed={chosen}
                  aria-label={text ? `${text.slice(-4)} at ${c}.${u}: ${text}` : `${c}.${u}: not written down`}
                  data-module={nameOf(c, u)}
                  onClick={() => {
                    setCell([c, u]);
                    field.current?.focus();
                  }}
                >
                  {text ? text.slice(-4) : `${c}.${u}`}
                </button>
              );
            }),
          )}
        </div>
      </div>
      {view.role !== "viewer" && (
        <form
          className="mt-2"
          onSubmit={(event) => {
            event.preventDefault();
            keep();
          }}
        >
          <label className="flex flex-col gap-1">
            <span>
              Serial at column {column}, {up} up{here && `: ${here}`}
            </span>
            <input
              ref={field}
              className="input figure h-14! w-full text-[20px]"
              autoComplete="off"
              autoCapitalize="characters"
              maxLength={60}
              value={typed}
              placeholder="scan or type"
              onChange={(event) => setTyped(event.target.value)}
            />
          </label>
          {elsewhere && (
            <p role="alert" className="border-error my-1 border-l-4 pl-2">
              This serial is written down at {elsewhere.of.split("/c").pop()} already: read the label again.
            </p>
          )}
          <button type="submit" className="btn btn-primary mt-2 h-14! w-full text-[18px]" disabled={!typed.trim()}>
            Keep it, next module
          </button>
        </form>
      )}
    </section>
  );
}

/** Labels are read with and without their gaps. */
const plain = (serial: string) => serial.replace(/\s+/g, "").toUpperCase();
