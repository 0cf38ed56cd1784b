import { aKind, type Circuit, designatorOf, type Kind, type Part } from "@hound/core/circuit";
import type { Turned } from "@hound/core/judgement";
import type { SuspectFault } from "@hound/core/rank";
import { type MendStep, type Repaired, stepOf } from "@hound/core/record";
import type { PartCheck, RatedLoad, Replacement, StillThere, WorkStep } from "@hound/core/repair";
import { type KindOf, nameOfSuspect } from "./faults.ts";
import { printFarads } from "./partValue.ts";
import { print, printNumber } from "./print.ts";

/** What puts it right: `R3`, `F1 and R2`, `what joins A to D`; “nothing”. */
export function stepsWords(steps: readonly MendStep[]): string {
  if (steps.length === 0) return "nothing";
  return steps.map((s) => ("part" in s ? s.part : `what joins ${s.nodes[0]} to ${s.nodes[1]}`)).join(" and ");
}

/** What is to be done: `replace R3`, `clear what joins A to D`, `turn LED1 round`; “nothing”. */
export function repairWords(steps: readonly MendStep[], turned: Turned = {}): string {
  if (steps.length === 0) return "nothing";
  const words = (part: string) =>
    turned[part] === "surely"
      ? `turn ${part} round`
      : `replace ${part}${turned[part] === "perhaps" ? ", or turn it round" : ""}`;
  return steps
    .map((s) => ("part" in s ? words(s.part) : `clear what joins ${s.nodes[0]} to ${s.nodes[1]}`))
    .join(" and ");
}

/** Faults that were found, in the words of the trade. */
export function foundWords(faults: readonly Repaired[], kindOf: KindOf): string {
  if (faults.length === 0) return "";
  // Which of the two it was is known by now, or does not matter any more.
  return nameOfSuspect({ faults: faults.map(suspectFaultOf) }, kindOf, true);
}

/** A fault that is written up, as one of a suspect. */
export function suspectFaultOf(fault: Repaired): SuspectFault {
  const step = stepOf(fault);
  if ("nodes" in step) return { nodes: step.nodes, mode: "bridged" };
  const { mode, value, belongs, at } = fault as Extract<Repaired, { part: string }>;
  return {
    part: String(fault.part),
    mode,
    ...(typeof value === "number" ? { value } : {}),
    ...(typeof belongs === "string" && typeof at === "string" ? { belongs, at } : {}),
  };
}

/** The kinds of a circuit's parts, sections of a potentiometer among them. */
export function kindsOfParts(circuit: Circuit): KindOf {
  const kinds = new Map<string, Kind>(circuit.parts.map((p) => [p.designator, p.kind]));
  return (part) => kinds.get(designatorOf(part));
}

/** What is asked for over the counter: `470 Ω 2 %, 0.25 W or more`. */
export function orderWords({
  part,
  value,
  rated,
  load,
  stands,
  isLamp,
}: Replacement & { readonly isLamp?: boolean }): string {
  const parts = [
    "material" in part && !value ? part.material : "",
    part.kind === "capacitor" && part.farads !== undefined ? printFarads(part.farads) : "",
    value
      ? `${print(value.nominal, value.unit, value.isEstimate ? { digits: 3 } : {})} ${percentOf(value.tolerance)}`
      : "",
    rated ? `${print(rated.volts, "V")} ${print(rated.watts, "W")}` : "",
    load && load.of !== "volts" ? ratingWords(part, load) : "",
    stands === null ? "" : `${print(stands, "V")}${"material" in part ? " backwards" : ""} or more`,
    isLamp ? "by its rating" : "",
  ];
  return parts.filter(Boolean).join(", ") || `${aKind(part.kind)} like the one drawn`;
}

const percentOf = (fraction: number) => `±\u00a0${printNumber(fraction * 100, 3)}\u00a0%`;

function ratingWords(part: Part, { of, least, drawn }: RatedLoad): string {
  const unit = of === "power" ? "W" : "A";
  // A fuse is what the drawing says and never more: it guards the wire.
  if (part.kind === "fuse") return drawn === null ? `${print(least, unit)}` : `${print(drawn, unit)}, never more`;
  const wanted = Math.max(least, drawn ?? 0);
  // Ratings are sold in watts: half a watt, not five hundred milliwatts.
  return `${unit === "W" ? `${printNumber(wanted, 3)}\u00a0W` : print(wanted, unit)} or more`;
}

/** What it has to bear, and what that means for the drawing's rating. */
export function loadWords({ part, load }: Replacement): { readonly words: string; readonly isWarning: boolean } | null {
  if (!load) return null;
  const unit = ({ power: "W", current: "A", volts: "V" } as const)[load.of];
  const isByVolts = load.of === "volts";
  const worst = `${isByVolts ? "It gets" : "At worst it takes"} ${print(load.worst, unit, { digits: 3 })}`;
  if (load.isExceeded)
    return {
      words: `${worst}, more than the ${print(load.drawn ?? 0, unit)} that are drawn: the drawing’s own rating is too small, and the new part would go the same way.`,
      isWarning: true,
    };
  if (load.isTooSmall)
    return {
      words: `${worst}: the ${print(load.drawn ?? 0, unit)} that are drawn leave no margin${part.kind === "fuse" ? "; ask why before it is made larger" : `, take ${print(load.least, unit)}`}.`,
      isWarning: true,
    };
  return { words: `${worst}, whatever the switches${isByVolts ? "" : " and tolerances"}.`, isWarning: false };
}

/** Values that are sold, where the one that is needed is not. */
export function standardWords({ nearest, pairs, value }: Replacement): string | null {
  if (nearest === null || !value) return null;
  const two = pairs.map(
    (p) =>
      `${print(p.a, "ohm")} ${p.kind === "series" ? "and" : "beside"} ${print(p.b, "ohm")} ${p.kind === "series" ? "in series" : "in parallel"} (${print(p.ohms, "ohm", { digits: 4 })})`,
  );
  return `Sold is ${print(nearest, "ohm")}${two.length > 0 ? `; or ${two.join("; or ")}` : ""}.`;
}

export function checkWords({ unit, low, high }: PartCheck): string {
  return low <= 0
    ? `less than ${print(high, unit, { digits: 2 })}`
    : `${print(low, unit, { digits: 4 })} to ${print(high, unit, { digits: 4 })}`;
}

/** One step of the repair. */
export function repairStepWords({ what }: WorkStep, complaint: string): string {
  switch (what.kind) {
    case "off":
      return "Power off, prove it dead, capacitors discharged.";
    case "on":
      return "Look it over for drops of solder and loose strands, then power on.";
    case "cause":
      return `Find what blew ${what.part} before a new one goes in: a fuse that went by itself is the exception.`;
    case "check":
      return `Measure the new ${what.part} before it goes in.`;
    case "fit":
      return `Fit the new ${what.part}.`;
    case "clear":
      return `Clear what joins ${what.nodes[0]} to ${what.nodes[1]}, and measure that they are apart.`;
    case "restore":
      return undoWords(what.undo);
    case "try":
      return complaint === "" ? "Try it: does it do its work again?" : `Try it. “${short(complaint)}”: is that gone?`;
    case "prove":
      return "Take the readings of the proof.";
    default:
      return what satisfies never;
  }
}

const short = (text: string) => (text.length > 90 ? `${text.slice(0, 88).trimEnd()} …` : text).replace(/[.!]?$/, "");

function undoWords(undo: StillThere): string {
  switch (undo.as) {
    case "lifted":
      return `Put the lifted lead of ${undo.part} back.`;
    case "out":
      return `Put ${undo.part} back in.`;
    case "off":
      return `Connect ${undo.part} again.`;
    case "value":
      return `Put ${undo.part} back to its own value.`;
    case "swapped":
      return `Take the part tried in place of ${undo.part} out again, its own one in.`;
    case "metered":
      return `Take the meter out of the branch of ${undo.part}.`;
    case "meteredAcross":
      return `Take the meter off ${undo.from}${undo.to ? ` and ${undo.to}` : ""}.`;
    case "added":
      return `Take away what was put between ${undo.from} and ${undo.to ?? "the reference"}.`;
    case "switch":
      return `${undo.part} back to ${undo.drawn}, as drawn.`;
    default:
      return undo satisfies never;
  }
}
