import { memo, useId, useRef, useState, type KeyboardEvent } from "react";
import type { Given } from "../api/client";
import type { Failure } from "../job/jobStore";

interface Props {
  given: Given;
  typed?: string;
  failure?: Failure;
  readOnly: boolean;
  type: (path: string, text: string) => void;
}

const WORDS: Record<string, string> = { us: "US: ASCE, IBC, NEC", metric: "metric: EN, IEC" };
const UNIT_WORDS: Record<string, string> = { us: "feet and inches", metric: "metres and millimetres" };

// What is wrong with the lowest field on the screen would stand below its edge.
const intoSight = (message: HTMLElement | null) => message?.scrollIntoView({ block: "nearest" });

function choiceText(given: Given, choice: string): string {
  const words = given.path === "site.display_units" ? UNIT_WORDS : WORDS;
  return words[choice] ?? choice;
}

interface Common {
  id: string;
  disabled: boolean;
  "aria-describedby": string;
  "data-given": string;
}

/** Some of several that have names: each pressed or not, one a line in the text. */
function Several({ given, held, type, ...common }: Common & { given: Given; held: string; type: Props["type"] }) {
  const chosen = held.split("\n").filter(Boolean);
  const without = (name: string) => chosen.filter((one) => one !== name);
  return (
    <div {...common} className="flex flex-wrap gap-1" role="group" aria-label={given.label} tabIndex={-1}>
      {given.choices.map((name) => (
        <button
          key={name}
          type="button"
          disabled={common.disabled}
          className={`btn btn-sm pointer-coarse:min-h-11 ${chosen.includes(name) ? "btn-primary" : ""}`}
          aria-pressed={chosen.includes(name)}
          onClick={() => type(given.path, (chosen.includes(name) ? without(name) : [...chosen, name]).join("\n"))}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

/** One thing that only people can say: its unit, usual range, meaning and where to find it. */
export const GivenField = memo(function GivenField({ given, typed, failure, readOnly, type }: Props) {
  const id = useId();
  // While a field has the focus it shows what was typed, not what the server made of it.
  const [held, setHeld] = useState<string | null>(null);
  const shown = held ?? typed ?? given.text;
  const offered = given.input === "yes_no" ? ["yes", "no"] : given.choices;
  const choices = given.needed ? ["", ...offered] : offered;
  // What is being typed is somebody's own before the server has it.
  const practice = given.practice && typed === undefined && held === null;
  const toSay = given.needed && shown.trim() === "";
  // What stood there when the hand came: Escape gives it back.
  const before = useRef(shown);
  const describedBy = `${id}-about${failure ? ` ${id}-wrong` : ""}`;
  const change = (text: string) => {
    setHeld(text);
    type(given.path, text);
  };
  const common = {
    id,
    disabled: readOnly,
    "aria-describedby": describedBy,
    "aria-invalid": failure ? true : undefined,
    "data-given": given.path,
    onBlur: () => setHeld(null),
    onFocus: () => {
      before.current = shown;
    },
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key === "Enter" && practice && !readOnly) type(given.path, shown);
      if (event.key !== "Escape" || shown === before.current) return;
      event.stopPropagation();
      change(before.current);
    },
  };
  const written = practice ? "practice" : "";
  const frame = `${written} w-full rounded-none bg-base-100 h-9 px-2 text-[15px] pointer-coarse:h-11 ${failure ? "border-error border-2" : toSay ? "border-primary border-l-4" : "border-base-content/40"}`;
  return (
    <div
      className="px-2 py-1.5"
      data-testid={`given-${given.path}`}
      data-help={given.where}
      data-help-of={given.label}
      data-practice={practice || undefined}
    >
      <label
        htmlFor={id}
        className={`flex items-baseline justify-between gap-2 ${practice ? "practice" : "font-semibold"}`}
      >
        <span>
          {given.label}
          {practice && <span className="sr-only">, practice: nobody has looked at it</span>}
        </span>
        {given.input === "quantity" && given.unit && (
          <span className="text-secondary text-[12px] font-normal">{given.unit}</span>
        )}
      </label>
      {given.input === "choice" || given.input === "yes_no" ? (
        <select
          {...common}
          className={`select figure ${frame}`}
          value={typed ?? given.text}
          onChange={(event) => type(given.path, event.target.value)}
        >
          {choices.map((choice) => (
            <option key={choice} value={choice}>
              {choice === "" && given.needed ? given.placeholder : choiceText(given, choice)}
            </option>
          ))}
        </select>
      ) : given.input === "arrays" ? (
        <Several {...common} given={given} held={shown} type={type} />
      ) : given.input === "route" ? (
        <textarea
          {...common}
          className={`textarea figure h-auto! ${frame}`}
          rows={Math.min(8, shown.split("\n").length + 1)}
          placeholder={given.placeholder}
          value={shown}
          onChange={(event) => change(event.target.value)}
          spellCheck={false}
        />
      ) : (
        <input
          {...common}
          className={`input figure ${frame}`}
          type={given.input === "date" ? "date" : "text"}
          inputMode={given.input === "quantity" ? "text" : undefined}
          autoComplete="off"
          placeholder={given.placeholder}
          value={shown}
          onChange={(event) => change(event.target.value)}
          onFocus={(event) => {
            common.onFocus();
            event.target.select();
          }}
        />
      )}
      {failure && (
        <p ref={intoSight} id={`${id}-wrong`} role="alert" className="text-error mt-0.5 text-[13px]">
          {failure.message}
          {failure.allowed && `. Allowed: ${failure.allowed}`}
        </p>
      )}
      <div id={`${id}-about`} className="help text-secondary relative text-[12.5px] leading-snug">
        <p>{given.meaning}</p>
        {given.usual && <p className="figure text-[13.5px]">usual {given.usual}</p>}
        {/* On a desk the column's foot shows it for the field in hand, so that nothing is covered or moved. */}
        <p className="lg:sr-only print:hidden">Where from: {given.where}</p>
        {given.caution && <p className="text-base-content border-warning mt-0.5 border-l-2 pl-2">{given.caution}</p>}
      </div>
    </div>
  );
});
