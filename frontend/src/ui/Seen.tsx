/** What of a stage is seen: one of a few, by its words. */
export function Seen<Key extends string>({
  ways,
  seen,
  see,
}: {
  ways: readonly (readonly [Key, string])[];
  seen: Key;
  see: (key: Key) => void;
}) {
  return (
    <div className="flex flex-wrap gap-1 text-[12.5px] print:hidden" role="group" aria-label="Seen">
      {ways.map(([key, words]) => (
        <button
          key={key}
          type="button"
          className={`min-h-8 border-b-2 px-2 pointer-coarse:min-h-11 ${
            seen === key ? "border-primary font-semibold" : "text-secondary border-transparent"
          }`}
          aria-pressed={seen === key}
          onClick={() => see(key)}
        >
          {words}
        </button>
      ))}
    </div>
  );
}
