/** Take the hand to a part of the page: what folds it away is opened, and it is brought into sight. */
export function focusOn(selector: string): void {
  const part = document.querySelector<HTMLElement>(selector);
  part?.closest("details")?.setAttribute("open", "");
  part?.focus();
  part?.scrollIntoView({ block: "center" });
}

/** The same once what is to be shown has been drawn. */
export function focusSoon(selector: string): void {
  requestAnimationFrame(() => requestAnimationFrame(() => document.querySelector<HTMLElement>(selector)?.focus()));
}
