const SIDES = ["above", "below"];

/** Which side of a line or string: said in a word, so that no sign is read from a hyphen. */
export function SideSelect({ label, value, change }: { label: string; value: string; change: (side: string) => void }) {
  return (
    <select
      aria-label={label}
      className="select select-sm w-28 pointer-coarse:min-h-11"
      value={value}
      onChange={(event) => change(event.target.value)}
    >
      {SIDES.map((side) => (
        <option key={side}>{side}</option>
      ))}
    </select>
  );
}
