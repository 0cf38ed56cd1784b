import { CONTACT_KINDS, type Kind, type Mode, type Network, rowOf, unitOfValue } from "@hound/core/circuit";
import type { MeterSuspect, ReadingVerdict, Suspect, SuspectFault } from "@hound/core/rank";
import { print, printNumber } from "./print.ts";

const MODE_WORDS: Readonly<Record<Exclude<Mode, "high" | "low" | "misplaced">, (part: string) => string>> = {
  open: (part) => `${part} open, or a joint beside it`,
  short: (part) => `${part} shorted`,
  dead: (part) => `${part} delivers nothing`,
  weak: (part) => `${part} weak inside`,
  stuckOpen: (part) => `${part} stuck open`,
  stuckClosed: (part) => `${part} stuck closed`,
  wiperOpen: (part) => `${part} wiper open`,
  leaky: (part) => `${part} leaks`,
  reversed: (part) => `${part} fitted the wrong way round`,
  bridged: (part) => `${part} bridged`,
};

const SHORT_MODES: Readonly<Record<Mode, string>> = {
  open: "open",
  short: "shorted",
  high: "too high",
  low: "too low",
  dead: "dead",
  weak: "weak",
  stuckOpen: "stuck open",
  stuckClosed: "stuck closed",
  wiperOpen: "wiper open",
  bridged: "bridged",
  misplaced: "on the wrong node",
  leaky: "leaky",
  reversed: "the wrong way round",
};

/** How something fails, by itself. */
export const modeWords = (mode: Mode): string => SHORT_MODES[mode];

/** The kind of a part or of a potentiometer's section, by its name. */
export type KindOf = (part: string) => Kind | undefined;

/** The kinds of a network's parts; of nothing where there is none. */
export function kindsIn(network: Network | undefined): KindOf {
  const kinds = new Map(network?.branches.map((b) => [b.name, b.kind]));
  return (part) => kinds.get(part);
}

/** A fault in the words of the trade. @param isBrief without what cannot be told from it */
function nameOfFault(fault: SuspectFault, kindOf: KindOf, isBrief: boolean): string {
  if ("nodes" in fault) return `${fault.nodes[0]} bridged to ${fault.nodes[1]}`;
  const { part, mode } = fault;
  if (mode === "misplaced") return `a lead of ${part} on ${fault.at} instead of ${fault.belongs}`;
  const kind = kindOf(part);
  if (isBrief && mode === "open") return `${part} ${kind === "fuse" ? "blown" : "open"}`;
  if (kind === "fuse" && mode === "open") return `${part} blown, or a joint beside it open`;
  if (mode !== "high" && mode !== "low") return MODE_WORDS[mode](part);
  if (kind === "supply") return `${part} gives too ${mode === "high" ? "much" : "little"}`;
  if (kind && rowOf(kind).material)
    return `${part} ${rowOf(kind).breaksDown ? "holds" : "drops"} too ${mode === "high" ? "much" : "little"}`;
  if (mode === "low") return `${part} has fallen`;
  return kind && CONTACT_KINDS.has(kind) ? `${part} makes poor contact` : `${part} has climbed`;
}

/** All faults of a suspect in one line. @param isBrief without “or a joint beside it”: where there is little room, or it is known */
export function nameOfSuspect(
  { faults, consequence }: Pick<Suspect, "faults" | "consequence">,
  kindOf: KindOf,
  isBrief = false,
): string {
  const [first, second] = faults;
  if (consequence && "part" in second) {
    const blew = kindOf(second.part) === "fuse" ? "blew" : "burnt";
    return `${nameOfFault(first, kindOf, isBrief)}, which ${blew} ${second.part}`;
  }
  return faults.map((f) => nameOfFault(f, kindOf, isBrief)).join(", and ");
}

/** The estimated value with its middle 80 %, or null for a fault without one. */
export function estimateOf(fault: SuspectFault, kindOf: KindOf): string | null {
  if ("nodes" in fault || fault.value === undefined) return null;
  const kind = kindOf(fault.part);
  const unit = kind ? unitOfValue(kind, fault.mode) : "ohm";
  const text = (value: number | undefined) => print(value ?? 0, unit, { digits: 3 });
  const band = fault.decade === undefined ? "" : `, ${fault.decade} times its value: a multiplier band misread?`;
  return `about ${text(fault.value)} (${text(fault.low)} to ${text(fault.high)})${band}`;
}

const SLIP_QUESTIONS: Readonly<Record<ReadingVerdict["slip"], string>> = {
  sign: "leads swapped?",
  kilo: "read a thousand times too large?",
  milli: "read a thousand times too small?",
  ten: "ten times too much?",
  tenth: "a tenth of it?",
  zero: "no contact?",
  exchanged: "the reading of the point beside it?",
  other: "worth repeating",
  look: "the part beside it, or in another light?",
};

/** The likeliest slip, as a question. */
export function slipQuestion({ slip }: Pick<ReadingVerdict, "slip">): string {
  return SLIP_QUESTIONS[slip];
}

const SHOWS: Readonly<Record<MeterSuspect["quantity"], string>> = {
  voltage: "volts",
  current: "amperes",
  resistance: "ohms",
};

/** A meter that reads false: `the meter’s volts 1.9 % low`. */
export function falseMeterWords({ quantity, meter, value }: MeterSuspect): string {
  const off = printNumber(Math.abs(value - 1) * 100, 2);
  const whose = meter === "" ? "the meter’s" : `${meter}’s`;
  return `${whose} ${SHOWS[quantity]} about ${off}\u00a0% ${value < 1 ? "low" : "high"}`;
}
