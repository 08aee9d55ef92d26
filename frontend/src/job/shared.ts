const plain = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/**
 * `next` with every part that equals its counterpart in `old` taken from `old`, so that what an
 * answer did not change is the same object and is not drawn again.
 */
export function shared<T>(old: unknown, next: T): T {
  if (Object.is(old, next)) return next;
  if (Array.isArray(old) && Array.isArray(next)) {
    const parts = next.map((part, index) => shared(old[index], part) as unknown);
    return old.length === parts.length && parts.every((part, index) => Object.is(part, old[index]))
      ? (old as T)
      : (parts as T);
  }
  if (plain(old) && plain(next)) {
    const parts = Object.entries(next).map(([key, part]) => [key, shared(old[key], part)] as const);
    const same =
      parts.length === Object.keys(old).length && parts.every(([key, part]) => key in old && Object.is(part, old[key]));
    return same ? (old as T) : (Object.fromEntries(parts) as T);
  }
  return next;
}
