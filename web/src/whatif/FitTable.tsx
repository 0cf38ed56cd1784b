import { HAS_OHMS, type Network } from "@hound/core/circuit";
import { pairKey } from "@hound/core/configuration";
import type { Ranking, RankProblem, Suspect } from "@hound/core/rank";
import { UNIT_OF } from "@hound/core/record";
import { FitBench, nominalOf, type Supposed, type SupposedFit } from "@hound/core/whatif";
import { useDeferredValue, useMemo } from "react";
import { DeviationBar } from "../app/DeviationBar.tsx";
import { Scroll } from "../app/Scroll.tsx";
import { supposedOf } from "../board/imagined.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { bitsWords, SAYS } from "../words/bits.ts";
import { printFixed } from "../words/print.ts";
import { percent, placeOf, valueOfReading, withLimits } from "../words/quantities.ts";

interface FitTableProps {
  readonly input: NonNullable<ReadingLine["input"]>;
  readonly supposed: readonly Supposed[];
  readonly ranking: Ranking | RankProblem | null;
  /** What it is held against; nothing wrong where it is empty. */
  readonly rival?: readonly Supposed[];
  readonly rivalName?: string;
}

/** Would this explain the readings? Each beside what the faults foretell, and where they stand in the ranking. */
export function FitTable({ input, supposed, ranking, rival = NOTHING, rivalName = "nothing wrong" }: FitTableProps) {
  const { drawn } = useDesk();
  const settled = useDeferredValue(input);
  const bench = useMemo(() => new FitBench(settled), [settled]);
  const fit = useMemo(() => bench.of(supposed, rival), [bench, supposed, rival]);
  if (!drawn) return null;
  if (fit.kind === "problem") return <p className="text-doubt">{fit.message}.</p>;
  return (
    <section aria-label="Would this explain the readings?" className="flex flex-col gap-2">
      <p className="text-lg">
        <strong>{fit.readings.length === 0 ? "Nothing was measured yet." : verdictOf(fit)}</strong>
        {supposed.length > 0 && <> {placeWords(supposed, ranking, drawn.network)}</>}
      </p>
      {fit.readings.length > 0 && (
        <Scroll label="Table of readings">
          <table className="w-full text-left">
            <thead className="bg-band text-sm">
              <tr>
                <th className="px-2 py-1.5">reading</th>
                <th className="px-2 py-1.5">measured</th>
                <th className="px-2 py-1.5">predicted</th>
                <th className="px-2 py-1.5">in limits</th>
              </tr>
            </thead>
            <tbody>
              {fit.readings.map((r) => (
                <tr key={r.index} className="border-t border-rule align-top">
                  <th scope="row" className="px-2 py-1 font-bold">
                    {placeOf(r.reading)}
                  </th>
                  <td className="px-2 py-1 font-bold whitespace-nowrap">{valueOfReading(r.reading)}</td>
                  <td className="px-2 py-1 whitespace-nowrap">
                    {withLimits(r.value, r.plusMinus, UNIT_OF[r.reading.quantity])}
                  </td>
                  <td className="px-2 py-1 whitespace-nowrap">
                    <span className="flex items-center gap-2">
                      <DeviationBar limits={r.limits} />
                      {limitsWords(r.limits)}
                    </span>
                    <span className="text-sm text-faint">{saysWords(r)}</span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scroll>
      )}
      {supposed.length > 0 && (
        <p className="text-sm text-faint">
          Beside “{rivalName}”, all that was read{fit.seen > 0 ? " and seen" : ""} together{" "}
          <strong className="text-ink">{bitsWords(fit.bits)}</strong>
          {fit.bits > SAYS && !explainsAll(fit) && ", though it does not explain all of it either"}; how often such
          faults happen is not in it.
        </p>
      )}
    </section>
  );
}

const NOTHING: readonly Supposed[] = [];

const explainsAll = ({ readings }: SupposedFit) => readings.every((r) => Math.abs(r.limits) <= 1);

/** What a reading says; one that is off with the faults and without them alike says nothing for either. */
function saysWords({ bits, limits }: SupposedFit["readings"][number]): string {
  return Math.abs(bits) < SAYS && !(Math.abs(limits) <= 1) ? "off either way" : bitsWords(bits);
}

/** `+4.2`, `−12`, `OL`: how far a reading is off. */
export function limitsWords(limits: number): string {
  if (!Number.isFinite(limits)) return "far off";
  const size = Math.abs(limits);
  const digits = size < 9.95 ? printFixed(size, 1) : size < 9999 ? printFixed(size, 0) : "> 9999";
  return digits === "0.0" ? digits : `${limits < 0 ? "−" : "+"}${digits}`;
}

export function verdictOf({ readings }: SupposedFit): string {
  const off = readings.filter((r) => !(Math.abs(r.limits) <= 1));
  const all = readings.length;
  if (off.length === 0) return all === 1 ? "Explains the one reading." : `Explains all ${all} readings.`;
  const names = off.map((r) => `${placeOf(r.reading)} (${limitsWords(r.limits)})`);
  const few = names.length > 3 ? `${names.slice(0, 3).join(", ")} and ${names.length - 3} more` : names.join(", ");
  return `Explains ${all - off.length} of ${all}; not ${few}.`;
}

/** Where the supposed faults stand in the ranking. */
function placeWords(supposed: readonly Supposed[], ranking: Ranking | RankProblem | null, network: Network): string {
  if (ranking?.kind !== "ranking") return "";
  if (supposed.length > 2) return "The ranking weighs two faults at once at most.";
  if (supposed.length === 1 && isGood(supposed[0], network)) return "That is within tolerance: nothing is wrong.";
  const found = suspectOf(supposed, ranking);
  const { suspects, unbroken, unlisted } = ranking;
  const all = suspects.length + unlisted.count;
  if (!found)
    return unlisted.count === 0
      ? "It is not among the suspects listed."
      : `It is not among the first ${unbroken} of ${all} suspects; all that are not listed hold ${percent(unlisted.probability)} together.`;
  const place = found.number > unbroken ? `behind the first ${unbroken}` : `suspect number ${found.number}`;
  return `It is ${place} of ${all}, ${percent(found.suspect.probability)}.`;
}

/** The suspect of the same faults, whatever their values, with its number in the list. */
export function suspectOf(
  supposed: readonly Supposed[],
  ranking: Ranking,
): { readonly suspect: Suspect; readonly number: number } | null {
  const key = keyOf(supposed);
  const index = ranking.suspects.findIndex((s) => {
    const own = s.faults.length === supposed.length ? supposedOf(s.faults) : null;
    return own !== null && keyOf(own) === key;
  });
  return index < 0 ? null : { suspect: ranking.suspects[index], number: index + 1 };
}

function keyOf(supposed: readonly Supposed[]): string {
  const words = supposed.map((f) => ("nodes" in f ? pairKey(...f.nodes) : `${f.part} ${f.mode}`));
  return words.sort().join(", ");
}

function isGood(fault: Supposed, network: Network): boolean {
  if ("nodes" in fault || fault.value === undefined || HAS_OHMS.has(fault.mode)) return false;
  const branch = network.branches.find((b) => b.name === fault.part);
  if (!branch) return false;
  return Math.abs(fault.value / nominalOf(branch, fault.mode) - 1) <= branch.part.tolerance;
}
