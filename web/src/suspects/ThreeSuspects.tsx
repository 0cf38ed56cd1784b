import type { Measurement } from "@hound/core/plan";
import { SEEN } from "@hound/core/record";
import { useDesk } from "../desk/DeskContext.tsx";
import { measurementAt, type NextStep } from "../session/proposal.ts";
import { keyOf, nameInBrief, type RepairRow, repairRows, suspicionClass } from "../session/suspectRows.ts";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { measurementWords } from "../words/measurements.ts";
import { percent, predictedWords } from "../words/quantities.ts";
import { RankTrouble } from "./RankTrouble.tsx";

const SHOWN = 3;
const LEAST_METER = 0.02;

/** The three repairs that lead, with what each foretells where the probes go next: always in sight, of one height. */
export function ThreeSuspects({ line }: { line: ReadingLine }) {
  const { drawn } = useDesk();
  const { ranking, isCurrent } = line.ranked;
  if (ranking?.kind === "problem") return <RankTrouble problem={ranking} />;
  const rows = drawn && ranking ? repairRows(ranking, drawn.network) : [];
  // A meter that hardly reads false is none of the three.
  const shown = rows.filter((r) => !r.modes[0].suspect.meter || r.probability >= LEAST_METER).slice(0, SHOWN);
  const { place, saidBy } = foretold(line);
  return (
    <section aria-label="Suspects" className="shrink-0">
      <p className="flex h-6 justify-between gap-3 text-faint">
        <span>Suspects</span>
        {place && <span className="min-w-0 truncate">predicted {place}</span>}
      </p>
      <ol aria-label="Leading suspects" aria-busy={!isCurrent} className={`h-27 ${isCurrent ? "" : "grayscale"}`}>
        {shown.map((row) => (
          <SuspectLine key={row.key} row={row} said={saidBy.get(keyOf(row.modes[0].suspect.faults)) ?? null} />
        ))}
        {shown.length === 0 && <li className="text-bench text-faint">…</li>}
      </ol>
    </section>
  );
}

function SuspectLine({ row, said }: { row: RepairRow; said: string | null }) {
  const { drawn, select } = useDesk();
  const look = suspicionClass(row.probability);
  const [mode] = row.modes;
  return (
    <li className="h-9">
      <button
        type="button"
        title={mode.name}
        className="relative flex h-9 w-full items-center gap-3 text-left text-bench hover:bg-band"
        onClick={() => {
          const [fault] = mode.suspect.faults;
          if (fault && "part" in fault) select({ kind: "branch", name: fault.part });
        }}
      >
        <span className="min-w-0 grow truncate font-bold">{drawn && nameInBrief(row, drawn.network)}</span>
        {said && <span className="shrink-0 whitespace-nowrap">{said}</span>}
        <span className={`w-20 shrink-0 text-right text-xl font-bold whitespace-nowrap ${look.text}`}>
          {percent(row.probability)}
        </span>
        <span aria-hidden className="absolute inset-x-0 bottom-0 h-1 overflow-hidden rounded-full bg-rule/60">
          <span className={`block h-full ${look.fill}`} style={{ width: `${row.probability * 100}%` }} />
        </span>
      </button>
    </li>
  );
}

interface Foretold {
  /** Of what: `volts at C`; null where nothing is foretold. */
  readonly place: string | null;
  /** What each suspect would show there, by its faults. */
  readonly saidBy: ReadonlyMap<string, string>;
}

/** Of what is typed, else of what is proposed. */
function foretold({ understood, known, steps, point }: ReadingLine): Foretold {
  const first = steps?.[0] ?? null;
  if (understood.kind === "reading" && point)
    return {
      place: wordsOf(measurementAt(point)),
      saidBy: new Map(
        (known.told?.leading ?? []).map((l) => [keyOf(l.faults), predictedWords(l.prediction, point.quantity)]),
      ),
    };
  if (!first?.why) return { place: null, saidBy: new Map() };
  return { place: wordsOf(first.measurement), saidBy: saidOf(first.why) };
}

function wordsOf(measurement: Measurement): string {
  const { how, where } = measurementWords(measurement);
  return `${how} ${where}`;
}

function saidOf({ measurement, predictions, looks = [] }: NonNullable<NextStep["why"]>): Map<string, string> {
  if (!("reading" in measurement)) return new Map(looks.map(({ faults, seen }) => [keyOf(faults), SEEN[seen]]));
  const { quantity } = measurement.reading;
  return new Map(predictions.map(({ faults, prediction }) => [keyOf(faults), predictedWords(prediction, quantity)]));
}
