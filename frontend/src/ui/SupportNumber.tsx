/** Which support, by its number in the stakes. */
export function SupportNumber({ value, change }: { value: string; change: (text: string) => void }) {
  return (
    <label className="flex items-center gap-2">
      Support
      <input
        className="input input-sm figure w-20 pointer-coarse:min-h-11"
        type="number"
        inputMode="numeric"
        min={1}
        value={value}
        onChange={(event) => change(event.target.value)}
      />
    </label>
  );
}
