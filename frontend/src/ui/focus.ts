/** Take the hand to a part of the page: what folds it away is opened, and it is brought into sight. */
export function focusOn(selector: string): void {
  const part = document.querySelector<HTMLElement>(selector);
  part?.closest("details")?.setAttribute("open", "");
  part?.focus();
  part?.scrollIntoView({ block: "center" });
}
