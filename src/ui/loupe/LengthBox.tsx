// A length that is known, typed.
type Props = { value: string; onChange: (typed: string) => void };

export function LengthBox({ value, onChange }: Props) {
  return (
    <label className="flex items-center gap-2">
      Known length
      <input
        className="input w-24"
        inputMode="decimal"
        value={value}
        onChange={({ target }) => onChange(target.value)}
      />
      mm
    </label>
  );
}
