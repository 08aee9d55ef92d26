import hatches from "./hatches.svg?raw";

const PATTERNS = hatches.replace(/<\/?svg[^>]*>/g, "");

/** Hatches for what is cut through; they are shared with paper. */
export function Hatches() {
  return <defs dangerouslySetInnerHTML={{ __html: PATTERNS }} />;
}
