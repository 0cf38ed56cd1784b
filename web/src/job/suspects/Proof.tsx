import type { Network } from "@hound/core/circuit";
import type { RankInput, Ranking } from "@hound/core/rank";
import type { Supposed, Telling } from "@hound/core/whatif";
import { useMemo } from "react";
import { kindsIn, nameOfSuspect } from "../../words/faults.ts";
import { placeOf, UNIT_OF, withLimits } from "../../words/quantities.ts";
import { supposedOf } from "../whatif/imagined.ts";
import { useLab } from "../whatif/useLab.ts";

interface ProofProps {
  readonly input: RankInput;
  readonly ranking: Ranking;
  readonly supposed: readonly Supposed[];
  readonly network: Network;
}

/** Others that it is held against: those that matter, and nothing wrong. */
const OTHERS = 6;
const MATTERS = 0.01;

/** How to prove a suspect or rule it out in one step: the reading at which it lies farthest from all the others. */
export function Proof({ input, ranking, supposed, network }: ProofProps) {
  const others = useMemo(() => {
    // What asks for the same repair, or for it and more, is no other.
    const parts = supposed.map(placeOfFault);
    return ranking.suspects
      .filter((s) => s.probability >= MATTERS || s.faults.length === 0)
      .map((s) => supposedOf(s.faults))
      .filter((s): s is Supposed[] => s !== null && !parts.every((p) => s.map(placeOfFault).includes(p)))
      .slice(0, OTHERS);
  }, [ranking, supposed]);
  const question = useMemo(() => ({ kind: "telling", input, supposed, others }) as const, [input, supposed, others]);
  const { answer } = useLab(question);
  if (!answer || answer.kind === "problem") return null;
  return (
    <p className="rounded-lg border border-copper px-3 py-2">
      <strong>To prove it or rule it out: </strong>
      {answer.kind === "telling" ? (
        <TellingWords telling={answer} other={nameOfOther(others[answer.nearest] ?? [], network)} />
      ) : (
        <>no reading without dismantling tells it from the others: {stepWords(supposed)}.</>
      )}
    </p>
  );
}

function TellingWords({ telling, other }: { telling: Telling; other: string }) {
  const { reading, ifSo, ifNot } = telling;
  const unit = UNIT_OF[reading.quantity];
  const where =
    reading.quantity === "voltage"
      ? `volts at ${placeOf(reading)}`
      : reading.quantity === "current"
        ? `the current ${placeOf(reading)}`
        : `power off, ohms ${placeOf(reading)}`;
  return (
    <>
      {where}. <strong className="text-suspect">{withLimits(ifSo.value, ifSo.plusMinus, unit)}</strong> if it is,{" "}
      {withLimits(ifNot.value, ifNot.plusMinus, unit)} if it is {other}.
    </>
  );
}

function placeOfFault(fault: Supposed): string {
  return "nodes" in fault ? fault.nodes.join("~") : fault.part;
}

function nameOfOther(faults: readonly Supposed[], network: Network): string {
  return faults.length === 0 ? "healthy" : nameOfSuspect({ faults }, kindsIn(network));
}

/** What dismantling would tell. */
function stepWords(supposed: readonly Supposed[]): string {
  const [fault] = supposed;
  if (!fault) return "read on";
  return "nodes" in fault
    ? `part ${fault.nodes[0]} and ${fault.nodes[1]} and read again`
    : `put a known-good ${fault.part.split(".")[0]} in its place and read again, power off while it is changed`;
}
