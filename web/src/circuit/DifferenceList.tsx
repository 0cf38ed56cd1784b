import type { Difference } from "@hound/core/notation";

/** Two circuits' difference, part by part. */
export function DifferenceList({ list }: { list: readonly Difference[] }) {
  return (
    <ul tabIndex={0} aria-label="Differences, part by part" className="max-h-60 overflow-auto">
      {list.map((d) => (
        <li key={d.designator} className="flex flex-wrap gap-x-2 border-t border-rule py-1 first:border-0">
          <span className="w-20 shrink-0 font-bold">{WORDS[d.kind]}</span>
          {d.kind === "changed" ? (
            <span>
              {d.before === d.after ? (
                <span className="font-mono">{d.after}</span>
              ) : (
                <>
                  <span className="font-mono line-through decoration-wrong">{d.before}</span>{" "}
                  <span className="sr-only">becomes</span> <span className="font-mono font-bold">{d.after}</span>
                </>
              )}
              {d.moved && (
                <span className="text-faint">
                  , was from {d.moved.before}, now {d.moved.after}
                </span>
              )}
            </span>
          ) : (
            <span>
              <span className="font-mono">{d.words}</span> <span className="text-faint">from {d.ends}</span>
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}

const WORDS: Readonly<Record<Difference["kind"], string>> = { added: "New", removed: "Gone", changed: "Changed" };
