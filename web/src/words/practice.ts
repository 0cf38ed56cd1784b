import type { Act, BenchNow, Display, Hunt, HuntSummary, MarkedStep } from "@hound/core/practice";
import { SEEN, UNIT_OF } from "@hound/core/record";
import { modeWords } from "./faults.ts";
import { printFixed, printNumber } from "./print.ts";
import { placeOf, valueOfReading } from "./quantities.ts";

/** `12½ min`, `¼ min`: as the clock of a hunt shows it. */
export function clockWords(minutes: number): string {
  const whole = Math.floor(minutes + 1e-9);
  const quarter = ["", "¼", "½", "¾"][Math.round((minutes - whole) * 4) % 4];
  const value = Math.abs(minutes - whole - Math.round((minutes - whole) * 4) / 4) > 1e-6;
  if (value) return `${printNumber(minutes, 3)}\u00a0min`;
  return `${whole === 0 && quarter !== "" ? "" : whole}${quarter}\u00a0min`;
}

const PREFIXES = [
  { from: 1e6, letter: "M" },
  { from: 1e3, letter: "k" },
  { from: 1, letter: "" },
  { from: 1e-3, letter: "m" },
  { from: 1e-6, letter: "µ" },
] as const;
const SIGN = { V: "V", A: "A", ohm: "Ω" } as const;

/** What a display shows: with the digits and the prefix of its range. */
export function displayWords({ quantity, value, isOver, step, span }: Display): string {
  const unit = SIGN[UNIT_OF[quantity]];
  const prefix = PREFIXES.find((p) => span > p.from * 1.0001) ?? PREFIXES[PREFIXES.length - 1];
  if (isOver) return `${value < 0 ? "−" : ""}OL\u00a0${prefix.letter}${unit}`;
  const decimals = Math.max(0, Math.round(-Math.log10(step / prefix.from)));
  return `${printFixed(value / prefix.from, decimals)}\u00a0${prefix.letter}${unit}`;
}

/** `B`, `0 (minus)`, `R3’s free end`, `in the air`. */
export function touchWords(at: BenchNow["red"]): string {
  if (at === null) return "in the air";
  return at.endsWith(".end") ? `${at.slice(0, -4)}’s free end` : at;
}

/** An act in a few words, with what it brought. */
export function actWords(act: Act, reading: MarkedStep["reading"]): string {
  if (reading?.quantity === "observation")
    return `${act.act === "alone" ? `${reading.part} tried alone` : `looked at ${reading.part}`}: ${SEEN[reading.seen]}`;
  if (reading) return `${placeOf(reading)}: ${valueOfReading(reading)}`;
  switch (act.act) {
    case "dial":
      return "turned the dial";
    case "plug":
      return `red into ${act.socket}`;
    case "touch":
      return `${act.lead} ${act.at === null ? "in the air" : `to ${touchWords(act.at)}`}`;
    case "power":
      return act.on ? "power on" : "power off, discharged";
    case "free":
      return `a lead of ${act.part} off`;
    case "join":
      return `${act.part} put back`;
    case "lever":
      return `${act.part} ${act.position}`;
    case "swap":
      return `a known-good ${act.part} in its place`;
    case "null":
      return "leads nulled";
    case "fingers":
      return act.on ? "tips held by bare fingers" : "fingers behind the guards";
    case "fuse":
      return `the meter’s fuse of ${act.socket} replaced`;
    case "take":
      return "read, and written down nowhere";
    case "hint":
      return "asked for a hint";
    case "look":
    case "alone":
      return `looked at ${act.part}`;
    default:
      return act satisfies never;
  }
}

/** `R3 open`, `A~D bridged`, `R2 too high and F1 open`; `nothing`. */
export function truthWords(truth: NonNullable<Hunt["truth"]>): string {
  const words = truth.faults.map(({ part, nodes, mode }) => `${part ?? nodes?.join("~")} ${modeWords(mode)}`);
  return words.length === 0 ? "nothing" : words.join(" and ");
}

/** `R3`, `R3 and F1`, `nothing wrong`. */
export const namedWords = (named: readonly string[]) => (named.length === 0 ? "nothing wrong" : named.join(" and "));

/** How a hunt went, in a few words. */
export function endWords({ state, namings }: Pick<HuntSummary, "state" | "namings">): string {
  if (state === "open") return "under way";
  const wrong = namings.filter((n) => n.right < 1).length;
  const after = wrong === 0 ? "" : ` after ${wrong} wrong ${wrong === 1 ? "name" : "names"}`;
  return state === "found" ? `found${after}` : `given up${after}`;
}
