import { HELP, type Help } from "@hound/core/practice";

/** How much help a hunt gives. */
export function HelpChoice({ value, onPick }: { value: Help; onPick: (help: Help) => void }) {
  return (
    <label className="flex min-w-0 flex-col gap-1">
      Help
      <select
        value={value}
        className="w-full rounded-lg border border-rule bg-paper px-3 py-2"
        onChange={(e) => onPick(e.target.value as Help)}
      >
        {Object.entries(HELP).map(([help, words]) => (
          <option key={help} value={help}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
