import { type Circuit, type NodeName, nodesOf } from "@hound/core/circuit";
import type { Judgement } from "@hound/core/judgement";
import type { Proposal } from "@hound/core/notation";
import type { Measurement, Suggestion } from "@hound/core/plan";
import { isDiodeTest, isSamePlace, isUnpowered, type NumericReading, type Reading } from "@hound/core/record";

/** Below this many bits a suggestion is no better than any other. */
const TELLING = 0.02;
/** A point that is being probed stays the proposal while it tells at least this share of what the best one would. */
const STAYS = 0.5;
/** Proposals shown at once. */
export const SHOWN = 3;

/** What one could measure next. */
export interface NextStep {
  readonly key: string;
  readonly measurement: Measurement;
  /** What a bare value is taken for; null of what is not answered by a value or a word. */
  readonly proposal: Proposal | null;
  /** What the leading suspects foretell there; null where it is only the next point along the trail. */
  readonly why: Suggestion | null;
}

/** What was put off: for good, or until nothing else is left. */
export type PutOff = ReadonlyMap<string, "never" | "later">;

interface Wishes {
  readonly putOff?: PutOff;
  /** What somebody chose instead of the best one. */
  readonly chosen?: string | null;
  /** Only what can be read with the probes alone: a meter that sends its readings needs no hand. */
  readonly isByProbes?: boolean;
}

/**
 * The best measurements to take next, of every kind. Where nothing tells any more, the first node from the supply outward
 * that nobody has read, then the first part; without a supply nothing of the kind.
 */
export function nextSteps(
  circuit: Circuit,
  readings: readonly Reading[],
  judgement: Judgement,
  { putOff = new Map(), chosen = null, isByProbes = false }: Wishes = {},
): NextStep[] {
  const nodes = nodesOf(circuit);
  const steps = telling(judgement)
    .filter((s) => isHere(s.measurement, circuit, nodes))
    .filter((s) => !isByProbes || s.measurement.kind === "voltage")
    .map((why) => stepOf(why.measurement, why))
    .filter((s) => putOff.get(s.key) !== "never");
  const later = (s: NextStep) => Number(putOff.get(s.key) === "later");
  const wanted = steps.filter((s) => s.key === chosen);
  const others = steps.filter((s) => s.key !== chosen).sort((a, b) => later(a) - later(b));
  const best = [...wanted, ...others].slice(0, SHOWN);
  if (best.length > 0 || !circuit.parts.some((p) => p.kind === "supply")) return best;
  const plain = alongTheTrail(circuit, nodes)
    .map((reading) => stepOf({ kind: "voltage", reading, minutes: 0 }, null))
    .find((s) => !putOff.has(s.key) && !readings.some((r) => isAt(r, s, circuit.reference)));
  return plain ? [plain] : [];
}

/** Every node from the supply outward, then every part. */
function alongTheTrail({ parts, reference }: Circuit, nodes: readonly NodeName[]): NumericReading[] {
  const at = nodes.filter((n) => n !== reference).map((from) => ({ from }));
  const across = parts.filter((p) => p.from !== reference && p.to !== reference && p.kind !== "potentiometer");
  return [...at, ...across.map(({ from, to }) => ({ from, to }))].map((place) => ({
    quantity: "voltage",
    ...place,
    value: 0,
  }));
}

function isAt(reading: Reading, { measurement }: NextStep, reference: NodeName): boolean {
  if (reading.quantity === "observation" || !("reading" in measurement)) return false;
  return isSamePlace(reading, measurement.reading, reference);
}

/** Kinds in the order in which one key goes through them. */
const KINDS: readonly Measurement["kind"][] = ["voltage", "current", "ohms", "look", "lift", "alone", "swap"];

/** The best measurement of the next kind that is on offer after that of a step; null where there is no other. */
export function otherKind(
  circuit: Circuit,
  judgement: Judgement,
  putOff: PutOff,
  { measurement }: NextStep,
): NextStep | null {
  const nodes = nodesOf(circuit);
  const at = KINDS.indexOf(measurement.kind);
  const order = [...KINDS.slice(at + 1), ...KINDS.slice(0, at)];
  const here = telling(judgement)
    .filter((s) => isHere(s.measurement, circuit, nodes))
    .map((why) => stepOf(why.measurement, why))
    .filter((s) => !putOff.has(s.key));
  const kind = order.find((k) => here.some((s) => s.measurement.kind === k));
  return here.find((s) => s.measurement.kind === kind) ?? null;
}

/** The newer plan, but with the proposal of the older one in front while it is still about as good. */
export function settled(before: Judgement | null, now: Judgement): Judgement {
  if (isAgain(now)) return now;
  const old = before && telling(before)[0];
  const same = old && telling(now).find((s) => keyOf(s.measurement) === keyOf(old.measurement));
  const best = telling(now)[0];
  if (!same || !best || same.informationBits < STAYS * best.informationBits) return now;
  return { ...now, next: [same, ...now.next.filter((s) => s !== same)] };
}

/** What tells something; and first what was probably mis-taken, however little it may tell. */
function telling(judgement: Judgement): Suggestion[] {
  return judgement.next.filter((s, i) => s.informationBits > TELLING || (i === 0 && isAgain(judgement)));
}

function isAgain({ verdict }: Judgement): boolean {
  return verdict.kind === "open" && verdict.again !== undefined;
}

/** What a reading of a point is, as a measurement. */
export function measurementAt(point: NumericReading): Measurement {
  const isLifted = isUnpowered(point) && "lifted" in point && point.lifted !== undefined;
  const kind = isLifted
    ? "lift"
    : ({ voltage: isDiodeTest(point) ? "ohms" : "voltage", current: "current", resistance: "ohms" } as const)[
        point.quantity
      ];
  return { kind, reading: point, minutes: 0 };
}

/** What a proposal is, as a measurement. */
export function measurementOf(proposal: Proposal): Measurement {
  if (proposal.quantity === "look") return { kind: proposal.alone ? "alone" : "look", part: proposal.part, minutes: 0 };
  return measurementAt({ ...proposal, value: 0 });
}

/** A measurement as something one can do next. */
export function stepOf(measurement: Measurement, why: Suggestion | null): NextStep {
  return { key: keyOf(measurement), measurement, proposal: proposalOf(measurement), why };
}

function keyOf(measurement: Measurement): string {
  if (!("reading" in measurement)) return `${measurement.kind} ${measurement.part}`;
  const { quantity, value: _, state: __, ...place } = measurement.reading;
  return [quantity === "voltage" ? "volts" : quantity, ...Object.values(place)].join(" ");
}

/** A plan may be of the circuit before an edit. */
function isHere(measurement: Measurement, { parts }: Circuit, nodes: readonly string[]): boolean {
  const hasPart = (name: string) => parts.some((p) => name === p.designator || name.startsWith(`${p.designator}.`));
  if (!("reading" in measurement)) return hasPart(measurement.part);
  const { reading } = measurement;
  if (reading.quantity === "current") return hasPart(reading.through);
  if (reading.quantity === "resistance" && reading.lifted !== undefined) return hasPart(reading.lifted);
  const { from, to } = reading;
  return from !== undefined && nodes.includes(from) && (to === undefined || nodes.includes(to));
}

function proposalOf(measurement: Measurement): Proposal | null {
  if (!("reading" in measurement)) {
    if (measurement.kind === "swap") return null;
    return { quantity: "look", part: measurement.part, ...(measurement.kind === "alone" ? { alone: true } : {}) };
  }
  const { reading } = measurement;
  if (reading.quantity === "current") return { quantity: "current", through: reading.through };
  if (reading.quantity === "resistance" && reading.lifted !== undefined)
    return { quantity: "resistance", lifted: reading.lifted };
  const { from, to } = reading;
  if (from === undefined) return null;
  const points = { from, ...(to === undefined ? {} : { to }) };
  if (reading.quantity !== "voltage") return { quantity: "resistance", ...points };
  const { test, lifted } = reading;
  return { quantity: "voltage", ...points, ...(test ? { test } : {}), ...(test && lifted ? { lifted } : {}) };
}
