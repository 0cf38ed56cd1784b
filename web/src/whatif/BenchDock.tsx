import { useDesk } from "../desk/DeskContext.tsx";
import { LineWithNext } from "../line/LineWithNext.tsx";
import { OUT_OF_DATE, repairRows } from "../session/suspectRows.ts";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { percent } from "../words/quantities.ts";

/** At the foot of What-if, always in sight: the reading line, what comes next, and the three suspects that lead. */
export function BenchDock({ line }: { line: ReadingLine }) {
  const { drawn } = useDesk();
  const { ranking, isCurrent } = line.ranked;
  const rows = drawn && ranking?.kind === "ranking" ? repairRows(ranking, drawn.network).slice(0, 3) : [];
  return (
    <section aria-label="At the bench" className="shrink-0 border-t border-rule bg-paper px-4 py-2">
      <LineWithNext line={line} isBrief isCompact />
      <ol
        aria-label="Leading suspects"
        aria-busy={!isCurrent}
        className={`mt-1.5 flex flex-wrap gap-x-4 text-lg ${isCurrent ? "" : OUT_OF_DATE}`}
      >
        {rows.map((row) => (
          <li key={row.key}>
            {row.name} <strong>{percent(row.probability)}</strong>
          </li>
        ))}
      </ol>
    </section>
  );
}
