import { expect, test, vi } from "vitest";
import { takeOnce } from "./once";

test("a thumb that comes down twice writes one, however slowly it is kept", async () => {
  vi.useFakeTimers();
  const kept = new Set<string>();
  let done = () => {};
  const save = vi.fn(() => new Promise<void>((resolve) => (done = resolve)));
  takeOnce(kept, [], save);
  vi.advanceTimersByTime(5000);
  takeOnce(kept, [], save);
  expect(save).toHaveBeenCalledTimes(1);
  done();
  await vi.advanceTimersByTimeAsync(100);
  takeOnce(kept, [], save);
  expect(save).toHaveBeenCalledTimes(1);
  await vi.advanceTimersByTimeAsync(500);
  takeOnce(kept, [], save);
  expect(save).toHaveBeenCalledTimes(2);
  vi.useRealTimers();
});

test("what differs is not the same tap", () => {
  const kept = new Set<string>();
  const save = vi.fn(() => Promise.resolve());
  takeOnce(kept, ["asked", "trench"], save);
  takeOnce(kept, ["passed", "trench"], save);
  takeOnce(kept, ["asked", "trench"], save);
  expect(save).toHaveBeenCalledTimes(2);
});
