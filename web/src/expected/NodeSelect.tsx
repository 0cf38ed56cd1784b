interface NodeSelectProps {
  readonly label: string;
  readonly value: string;
  readonly names: readonly string[];
  readonly onChange: (name: string) => void;
}

/** One node out of all. */
export function NodeSelect({ label, value, names, onChange }: NodeSelectProps) {
  return (
    <label className="flex flex-col gap-1">
      {label}
      <select
        value={value}
        onChange={(e) => onChange(e.target.value)}
        className="rounded-lg border border-rule bg-sheet px-3 py-2 text-lg"
      >
        {names.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </label>
  );
}
