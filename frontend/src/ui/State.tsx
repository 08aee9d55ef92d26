export type Level = "nothing" | "sound" | "look" | "stop";

const SHAPES: Record<Level, { glyph: string; word: string }> = {
  nothing: { glyph: "○", word: "nothing yet" },
  sound: { glyph: "●", word: "sound" },
  look: { glyph: "▲", word: "look here" },
  stop: { glyph: "■", word: "stops the job" },
};

/** A state by shape, colour and word; never by colour alone. */
export function State({ level, words = false }: { level: Level; words?: boolean }) {
  const { glyph, word } = SHAPES[level];
  return (
    <span className={`state-${level} whitespace-nowrap`}>
      <span aria-hidden="true" className="text-[10px]">
        {glyph}
      </span>
      <span className={words ? "ml-1" : "sr-only"}>{word}</span>
    </span>
  );
}
