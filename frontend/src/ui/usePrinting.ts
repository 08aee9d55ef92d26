import { useSyncExternalStore } from "react";

const onPaper = window.matchMedia("print");

function heard(changed: () => void): () => void {
  onPaper.addEventListener("change", changed);
  return () => onPaper.removeEventListener("change", changed);
}

/** Whether it is laid out for paper, where there is nothing to press: what is seen by choice is all shown. */
export const usePrinting = (): boolean => useSyncExternalStore(heard, () => onPaper.matches);
