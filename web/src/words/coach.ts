import type { Circuit } from "@hound/core/circuit";
import type { Advice, LeadAt } from "@hound/core/coach";
import { branchNow, type CurrentStep, type InHand } from "@hound/core/configuration";
import { type MeterData, type Quantity, type RangeData, UNIT_OF } from "@hound/core/record";
import { print } from "./print.ts";
import { shown } from "./quantities.ts";

const LETTER: Readonly<Record<Quantity, string>> = { voltage: "V", current: "A", resistance: "Ω" };

/** What stands on the dial: `20 V`, or of a meter that finds its range itself `V`. */
export function dialWords(meter: MeterData, quantity: Quantity, range: RangeData): string {
  return meter.dial === "functions" ? LETTER[quantity] : print(range.span, UNIT_OF[quantity]);
}

/** `B`, or `R1’s free end at A`. */
export function leadWords(at: LeadAt): string {
  return "node" in at ? at.node : `${at.freed}’s free end at ${at.from}`;
}

/** `C`, `plus`, `0 (minus)`: a node by its name, and a supply's terminals by what stands on them. */
export function benchLeadWords(at: LeadAt, circuit: Circuit | null): string {
  if (!("node" in at)) return leadWords(at);
  const supplies = circuit?.parts.filter((p) => p.kind === "supply") ?? [];
  const [only] = supplies;
  // Of several supplies one's plus may be another's minus.
  if (supplies.length !== 1 || (at.node !== only.from && at.node !== only.to)) return at.node;
  const terminal = at.node === only.from ? "plus" : "minus";
  return at.node === "+" ? terminal : `${at.node} (${terminal})`;
}

/** The coach in one line: `20 V · red in V Ω to B · black in COM to 0`. */
export function adviceLine({ meter, quantity, range, red, black, isDiodeTest }: Advice): string {
  return `${isDiodeTest ? "diode test" : dialWords(meter, quantity, range)} · red in ${red.socket} to ${leadWords(red.at)} · black in ${black.socket} to ${leadWords(black.at)}`;
}

/** What may come at most, and the range after the first. */
export function afterwardsWords({ quantity, finer, isOver, meter, isDiodeTest }: Advice, highest: number): string {
  if (isDiodeTest) return "Volts at a milliampere; OL where nothing conducts.";
  const unit = UNIT_OF[quantity];
  if (quantity === "resistance") return meter.dial === "functions" ? "" : "OL on that range: go one up.";
  const most = `Up to ${shown(highest, unit, 3)} may come`;
  if (isOver) return `${most}: more than this meter takes.`;
  return finer && meter.dial !== "functions" ? `${most}, then ${print(finer.span, unit)}.` : `${most}.`;
}

/** Why this range, and which one after it. */
export function rangeWords({ meter, quantity, range, finer, isOver, isDiodeTest }: Advice, highest: number): string {
  if (isDiodeTest)
    return "Power off. It sends a milliampere from red to black and shows volts; OL where nothing conducts. What lies beside conducts too.";
  const unit = UNIT_OF[quantity];
  if (quantity === "resistance")
    return meter.dial === "functions"
      ? "It finds its range itself."
      : `Set ${print(range.span, unit)}, which shows what is likely with the most digits; OL there: go one up.`;
  if (isOver) return `Up to ${shown(highest, unit, 3)} may come: more than this meter takes.`;
  const may = `Up to ${shown(highest, unit, 3)} may come`;
  if (meter.dial === "functions") return `${may}; it finds its range itself.`;
  const then = finer ? `, then ${print(finer.span, unit)} for digits` : "";
  return `${may}: begin at ${print(range.span, unit)}${then}.`;
}

/** A current reading step by step. */
export const STEP_WORDS: Readonly<Record<CurrentStep, (through: string, at: string, advice: Advice | null) => string>> =
  {
    powerOff: () => "Power off, capacitors discharged",
    open: (through, at) => `Take ${through}’s lead off ${at}`,
    insert: (_, __, advice) =>
      advice
        ? `Red in ${advice.red.socket} to ${leadWords(advice.red.at)}, black in ${advice.black.socket} to ${leadWords(advice.black.at)}`
        : "The meter in between, red where the current enters",
    powerOn: () => "Power on",
    read: () => "Read, and type it",
    powerOffAgain: () => "Power off",
    restore: (through, at) => `Meter out, ${through}’s lead back on ${at}`,
    leadBack: (_, __, advice) =>
      `Red lead back in ${advice ? advice.meter.ranges.voltage[0].socket : "the socket for volts"}; power on`,
  };

/** How the branch is just now: `R1’s branch is open.`; null where it is closed. */
export function branchWords({ through, done }: Pick<InHand, "through" | "done">): string | null {
  const now = branchNow({ done });
  if (now === "closed") return null;
  return now === "open" ? `${through}’s branch is open.` : `The meter stands in ${through}’s branch.`;
}
