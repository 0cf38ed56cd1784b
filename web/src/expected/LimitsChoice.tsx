import type { Conventions } from "@hound/core/record";
import { useChangeConventions } from "../desk/conventions.ts";
import { LIMITS_WORDS } from "../words/quantities.ts";

/** How far figures may go: a convention, here at hand. */
export function LimitsChoice({ limits }: Pick<Conventions, "limits">) {
  const change = useChangeConventions();
  const choices = { likely: "likely (2 σ)", worst: "worst case", none: "none: exact parts" } as const;
  return (
    <label className="flex items-center gap-1.5" title={`${LIMITS_WORDS[limits]}.`}>
      Limits
      <select
        value={limits}
        onChange={(e) => {
          const to = e.target.value as Conventions["limits"];
          change({ limits: to }, `Limits of what is expected: ${choices[to]}`);
        }}
        className="rounded border border-rule bg-sheet px-1.5 py-0.5"
      >
        {Object.entries(choices).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
