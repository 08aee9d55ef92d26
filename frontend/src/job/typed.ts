/** Text that is typed but not yet taken: kept in the browser, so that a closed tab loses nothing. */
export type Typed = Record<string, string>;

const key = (job: string) => `furrow.typed.${job}`;

export function keptTyped(job: string): Typed {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key(job)) ?? "{}");
    return kept && typeof kept === "object" ? (kept as Typed) : {};
  } catch {
    return {};
  }
}

export function keepTyped(job: string, typed: Typed): void {
  try {
    if (Object.keys(typed).length === 0) localStorage.removeItem(key(job));
    else localStorage.setItem(key(job), JSON.stringify(typed));
  } catch {
    // Private windows may refuse storage; the draft on the server still has what was valid.
  }
}
