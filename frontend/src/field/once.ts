/** So long after what was kept a second tap is the same thumb. */
const SAME_TAP_MS = 400;

/**
 * Keeps a thing once that is pressed twice: until it is kept, and a moment longer, the same is not taken again.
 * `kept` are those that were taken, by what they are `of`.
 */
export function takeOnce(kept: Set<string>, of: unknown[], save: () => Promise<void>) {
  const what = JSON.stringify(of);
  if (kept.has(what)) return;
  kept.add(what);
  void save().finally(() => setTimeout(() => kept.delete(what), SAME_TAP_MS));
}
