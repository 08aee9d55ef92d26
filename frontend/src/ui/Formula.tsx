import { Fragment, type ReactNode } from "react";

const GREEK: Record<string, string> = {
  alpha: "α",
  beta: "β",
  gamma: "γ",
  delta: "δ",
  mu: "μ",
  rho: "ρ",
  phi: "φ",
  theta: "θ",
  dT: "ΔT",
  dx: "Δx",
};
const FUNCTIONS = new Set([
  "sin",
  "cos",
  "tan",
  "arcsin",
  "arctan",
  "ln",
  "exp",
  "max",
  "min",
  "abs",
  "sqrt",
  "ceil",
  "floor",
  "bearing",
]);

/** A symbol as it is written by hand: Greek letters, subscripts. */
export function Symbol({ name }: { name: string }) {
  const [head = "", ...rest] = name.split("_");
  return (
    <span>
      <i>{GREEK[head] ?? head}</i>
      {rest.length > 0 && <sub>{rest.map((part) => GREEK[part] ?? part).join(" ")}</sub>}
    </span>
  );
}

/** A formula of the core's plain arithmetic, set like a formula. */
export function Formula({ text }: { text: string }) {
  const parts: ReactNode[] = [];
  const token = /\*\*(\d+)|([A-Za-z][A-Za-z_0-9]*)|(\*)|(\/)|(-)|([^A-Za-z*/-]+)/g;
  for (const [whole, power, word, times, over, minus] of text.matchAll(token)) {
    const key = parts.length;
    if (power) parts.push(<sup key={key}>{power}</sup>);
    else if (word && FUNCTIONS.has(word)) parts.push(<Fragment key={key}>{word === "sqrt" ? "√" : word}</Fragment>);
    else if (word) parts.push(<Symbol key={key} name={word} />);
    else if (times) parts.push(<Fragment key={key}>·</Fragment>);
    else if (over) parts.push(<Fragment key={key}>∕</Fragment>);
    else if (minus) parts.push(<Fragment key={key}>−</Fragment>);
    else parts.push(<Fragment key={key}>{whole}</Fragment>);
  }
  return <span className="figure text-[16px]">{parts}</span>;
}
