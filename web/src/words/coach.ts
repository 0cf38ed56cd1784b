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

/** The coach in one line: `20 V · red in V Ω to B · black in COM to 0`. */
export function adviceLine({ meter, quantity, range, red, black }: Advice): string {
  return `${dialWords(meter, quantity, range)} · red in ${red.socket} to ${leadWords(red.at)} · black in ${black.socket} to ${leadWords(black.at)}`;
}

/** Why this range, and which one after it. */
export function rangeWords({ meter, quantity, range, finer, isOver }: Advice, highest: number): string {
  const unit = UNIT_OF[quantity];
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
