import { useEffect, useRef } from "react";

export type Keys = Record<string, () => void>;

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName));

/** A letter so soon after a field lost the hand was still meant for the field. */
const AFTER_TYPING_MS = 600;

/** Single keys for the whole screen; quiet while someone types, just after, or while a dialog is open. */
export function useKeys(keys: Keys): void {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    let typed = -Infinity;
    const left = (event: Event) => {
      if (typing(event.target)) typed = performance.now();
    };
    const press = (event: KeyboardEvent) => {
      const control = event.ctrlKey || event.metaKey;
      const name = `${control ? "ctrl+" : ""}${event.shiftKey && control ? "shift+" : ""}${event.key.length === 1 ? event.key.toLowerCase() : event.key}`;
      const action = latest.current[name];
      if (!action || event.altKey || document.querySelector("dialog[open]")) return;
      if (typing(event.target) && name !== "ctrl+s") return;
      if (name.length === 1 && performance.now() - typed < AFTER_TYPING_MS) return;
      event.preventDefault();
      action();
    };
    window.addEventListener("keydown", press);
    window.addEventListener("input", left);
    window.addEventListener("focusout", left);
    return () => {
      window.removeEventListener("keydown", press);
      window.removeEventListener("input", left);
      window.removeEventListener("focusout", left);
    };
  }, []);
}
