import type { FieldPost, FieldView, Rung } from "../api/client";

/** What is said of a post at a depth: looked up, never computed, and on the safe side. */
export interface Said {
  carries: boolean;
  words: string;
}

// A hair less than a tape can show: what lies on a rung is that rung's.
const HAIR = 1e-6;

/** Between two rungs both must carry: in layers a deeper one may hold less. */
export function saidAt(view: FieldView, post: FieldPost, depthM: number): Said | null {
  const rungs = view.ladders[post.ladder] ?? [];
  if (rungs.length === 0 || !(depthM >= 0)) return null;
  const last = rungs.length - 1;
  if (depthM > last * view.step_m + HAIR)
    return { carries: false, words: "deeper than is looked at: ask who planned it" };
  const above = rungs[Math.min(last, Math.floor(depthM / view.step_m + HAIR))] as Rung;
  const below = rungs[Math.min(last, Math.ceil(depthM / view.step_m - HAIR))] as Rung;
  const worse = above.carries ? below : above;
  return { carries: worse.carries, words: worse.words };
}
