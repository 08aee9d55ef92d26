import { useEffect, useRef } from "react";

export type Keys = Record<string, () => void>;

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName));

/** Single keys for the whole screen; quiet while someone types or a dialog is open. */
export function useKeys(keys: Keys): void {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const control = event.ctrlKey || event.metaKey;
      const name = `${control ? "ctrl+" : ""}${event.shiftKey && control ? "shift+" : ""}${event.key.length === 1 ? event.key.toLowerCase() : event.key}`;
      const action = latest.current[name];
      if (!action || event.altKey || document.querySelector("dialog[open]")) return;
      if (typing(event.target) && name !== "ctrl+s") return;
      event.preventDefault();
      action();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}
