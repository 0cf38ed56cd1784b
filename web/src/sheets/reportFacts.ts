import type { Network } from "@hound/core/circuit";
import type { RankInput } from "@hound/core/rank";
import { type Job, OUTCOMES, type Reading, type Repaired, stepOf, UNIT_OF } from "@hound/core/record";
import { isOfProof, type ProofVerdict, type UnseenFault } from "@hound/core/repair";
import { FitBench } from "@hound/core/whatif";
import { supposedOf } from "../board/imagined.ts";
import { kindsIn, modeWords, nameOfSuspect } from "../words/faults.ts";
import { print, printFixed } from "../words/print.ts";
import { placeOf, shown, valueOfReading, withLimits } from "../words/quantities.ts";
import { foundWords, suspectFaultOf } from "../words/repair.ts";
import { standingWords } from "../words/standing.ts";
import { day } from "../words/times.ts";

/** All that a report says, in words: what stands on paper and what goes into a text say the same. */
export interface ReportFacts {
  readonly title: string;
  readonly outcome: string;
  readonly finding: string;
  readonly complaint: string;
  /** The readings that decided it, in sentences. */
  readonly reasons: readonly string[];
  /** What was replaced or put right. */
  readonly replaced: readonly string[];
  /** Readings after the repair: where, read, what a healthy circuit shows, whether it agrees. */
  readonly proof: readonly {
    readonly where: string;
    readonly read: string;
    readonly healthy: string;
    readonly says: string;
  }[];
  readonly proofTitle: string;
  readonly proofWords: string;
  readonly untested: readonly string[];
  readonly who: string;
}

interface ReportInput {
  readonly job: Job;
  readonly network: Network;
  readonly input: RankInput;
  readonly verdict: ProofVerdict | null;
  readonly unseen: readonly UnseenFault[];
}

/** Readings named as decisive, the least bits one must have, and faults named as not shown. */
const DECISIVE = { most: 4, least: 1 } as const;
const UNTESTED = 4;

export function reportFacts({ job, network, input, verdict, unseen }: ReportInput): ReportFacts {
  const { closing, work } = job;
  const faults = closing?.faults ?? work?.faults ?? [];
  const kindOf = kindsIn(network);
  const outcome = closing ? OUTCOMES[closing.outcome] : "Not closed yet";
  const used = closing?.used ?? [];
  const bridges = faults.flatMap((f) => {
    const step = stepOf(f);
    return "nodes" in step ? [`What joined ${step.nodes[0]} to ${step.nodes[1]} was cleared.`] : [];
  });
  return {
    title: job.title,
    outcome,
    finding: job.finding || foundWords(faults, kindOf),
    complaint: job.complaint,
    reasons: reasonsFor(faults, input),
    replaced: [
      ...used.map(({ part, what }) => {
        const check = work?.checks[part];
        return `${part}: ${what}${check === undefined ? "" : `; before it went in it measured ${print(check, kindOf(part) === "supply" ? "V" : "ohm", { digits: 4 })}`}.`;
      }),
      ...bridges,
    ],
    proof: (verdict?.rows ?? []).flatMap(({ reading, healthy, says, index }) => {
      if (index === null || says === null) return [];
      const unit = UNIT_OF[reading.quantity];
      const [low, high] = [healthy.value - healthy.plusMinus, healthy.value + healthy.plusMinus];
      return [
        {
          where: placeOf(reading),
          read: valueOfReading(reading),
          healthy: `${shown(low, unit)} to ${shown(high, unit)}`,
          says: says === "disagrees" ? "does not agree" : says === "edge" ? "at the edge" : "agrees",
        },
      ];
    }),
    proofTitle: faults.length > 0 ? "Proof after the repair" : "Readings that would show a fault",
    proofWords: proofWords(verdict, faults.length > 0),
    untested: (verdict?.taken ? unseen : [])
      .slice(0, UNTESTED)
      .map(({ fault }) => nameOfSuspect({ faults: [fault] }, kindOf)),
    who: whoWords(job),
  };
}

/** Modes that say nothing by themselves of what the part has become. */
const WITH_VALUE: ReadonlySet<string> = new Set(["high", "low", "weak", "leaky"]);

/**
 * What was read before the repair where the fault shows most: beside what healthy would be, and what the fault makes of
 * it where it is known what the part had become.
 */
function reasonsFor(faults: readonly Repaired[], input: RankInput): string[] {
  if (faults.length === 0) return [];
  const bench = new FitBench(input);
  const isKnown = faults.every((f) => typeof f.value === "number" || !WITH_VALUE.has(f.mode));
  const supposed = isKnown ? supposedOf(faults.map(suspectFaultOf)) : null;
  const found = supposed && bench.of(supposed);
  const healthy = bench.of([]);
  const looks = input.readings.flatMap((r) =>
    r.quantity === "observation" ? [`${r.part} ${valueOfReading(r)}.`] : [],
  );
  if (healthy.kind === "problem") return looks;
  const by = new Map(found?.kind === "fit" ? found.readings.map((r) => [r.index, r]) : []);
  const numbers = healthy.readings
    .map((usual) => ({ usual, own: by.get(usual.index), says: by.get(usual.index)?.bits ?? Math.abs(usual.limits) }))
    .filter((r) => r.says >= DECISIVE.least)
    .sort((a, b) => b.says - a.says)
    .slice(0, DECISIVE.most)
    .map(({ usual, own }) => {
      const { index, reading } = usual;
      const unit = UNIT_OF[reading.quantity];
      const state = standingWords(input.readings[index].state ?? {});
      const how = state.length > 0 ? ` (${state.join(", ")})` : "";
      const due = withLimits(usual.value, usual.plusMinus, unit);
      const with_ = own ? `, with ${shortWords(faults)} ${withLimits(own.value, own.plusMinus, unit)}` : "";
      return `${placeOf(reading)} read ${valueOfReading(reading)}${how}; healthy it would be ${due}${with_}.`;
    });
  return [...numbers, ...looks.slice(0, DECISIVE.most - numbers.length)];
}

/** `R4 shorted and F1 open`. */
function shortWords(faults: readonly Repaired[]): string {
  return faults
    .map((f) => {
      const step = stepOf(f);
      return "nodes" in step ? `${step.nodes[0]} joined to ${step.nodes[1]}` : `${f.part} ${modeWords(f.mode)}`;
    })
    .join(" and ");
}

function proofWords(verdict: ProofVerdict | null, isRepaired: boolean): string {
  if (!verdict || verdict.taken === 0)
    return isRepaired
      ? "No readings were taken after it: it is not proved by measurement."
      : "None of them was taken: it is not proved by measurement.";
  const missing = verdict.rows.length - verdict.taken;
  const agree = `${isRepaired ? "After it " : ""}${verdict.agree} of ${verdict.taken} readings agree with a healthy circuit`;
  if (verdict.kind === "repaired") return `${agree}.`;
  if (verdict.kind === "open") return `${agree}; ${missing} of those that would prove it were not taken.`;
  return `${agree}: it is not proved to be whole.`;
}

function whoWords({ closing }: Job): string {
  if (!closing) return "";
  const minutes = closing.minutes === undefined ? "" : `, ${printFixed(closing.minutes, 0)} minutes`;
  return `${closing.who ? `${closing.who}, ` : ""}${day(new Date(closing.at))}${minutes}`;
}

/** Readings from before the repair, and from after it. */
export function partedBy(readings: readonly Reading[], job: Job, steps: Parameters<typeof isOfProof>[1]) {
  const isAfter = (r: Reading) => steps.length > 0 && isOfProof(r, steps);
  return {
    before: readings.filter((r) => !isAfter(r)),
    after: job.closing || job.work ? readings.filter(isAfter) : [],
  };
}
