import type { NodeName } from "../circuit/index.ts";
import type { Configuration } from "./configuration.ts";
import { type Fact, factsOf, slotOf, withFacts } from "./facts.ts";

/** Something that changes how the circuit stands, from here on; `restored` puts it back as drawn. */
export type ChangeOfCircuit =
  | {
      readonly part: string;
      readonly change: "swapped" | "open" | "closed" | "lifted" | "out" | "off" | "metered" | "restored";
    }
  /** Another value on purpose: ohms, volts of a supply. */
  | { readonly part: string; readonly change: "now"; readonly value: number }
  /** A resistance or a meter between two nodes; `restored` takes either away. Without `to`, to the reference. */
  | { readonly from: NodeName; readonly to?: NodeName; readonly change: "now"; readonly value: number }
  | { readonly from: NodeName; readonly to?: NodeName; readonly change: "metered" | "restored" }
  /** A stray bridge between two nodes is cleared; `restored` takes that back. */
  | { readonly from: NodeName; readonly to: NodeName; readonly change: "cleared" }
  /** Ohms of the leads held together, taken off every later ohms reading. */
  | { readonly change: "leads"; readonly value: number };

/** How the circuit stands after a change. */
export function afterChange(standing: Configuration, change: ChangeOfCircuit): Configuration {
  const { ends, begins } = whatOf(change);
  const ended = new Set([...ends, ...begins].map(slotOf));
  return withFacts(standing, [...factsOf(standing).filter((fact) => !ended.has(slotOf(fact))), ...begins]);
}

interface Turn {
  /** What no longer holds, and what does from now on. */
  readonly ends: readonly Fact[];
  readonly begins: readonly Fact[];
}

function whatOf(change: ChangeOfCircuit): Turn {
  if (change.change === "leads") return { ends: [], begins: [{ is: "leads", ohms: change.value }] };
  return "part" in change ? ofPart(change) : ofPair(change);
}

function ofPart(change: Extract<ChangeOfCircuit, { readonly part: string }>): Turn {
  const { part } = change;
  const lifted: Fact = { is: "lifted", part };
  const out: Fact = { is: "out", part };
  const swapped: Fact = { is: "swapped", part };
  const off: Fact = { is: "off", part };
  const value = (to = 0): Fact => ({ is: "value", part, value: to });
  const lever = (position: "open" | "closed"): Fact => ({ is: "lever", part, position });
  const meter: Fact = { is: "meter", meter: { through: part } };
  switch (change.change) {
    case "open":
    case "closed":
      return { ends: [], begins: [lever(change.change)] };
    case "lifted":
      return { ends: [], begins: [lifted] };
    case "off":
      return { ends: [], begins: [off] };
    case "metered":
      return { ends: [], begins: [meter] };
    case "out":
      return { ends: [lifted], begins: [out] };
    // A known-good part, or one of another value, comes in with both leads on.
    case "swapped":
      return { ends: [lifted, out, value()], begins: [swapped] };
    case "now":
      return { ends: [lifted, out], begins: [value(change.value)] };
    case "restored":
      return { ends: [swapped, lifted, out, off, value(), lever("open"), meter], begins: [] };
    default:
      return change satisfies never;
  }
}

function ofPair(change: Extract<ChangeOfCircuit, { readonly from: NodeName }>): Turn {
  const { from, to } = change;
  const place = { from, ...(to === undefined ? {} : { to }) };
  const added = (ohms: number): Fact => ({ is: "added", added: { ...place, ohms } });
  const meter: Fact = { is: "meter", meter: place };
  switch (change.change) {
    case "now":
      return { ends: [], begins: [added(change.value)] };
    case "metered":
      return { ends: [], begins: [meter] };
    case "cleared":
      return { ends: [], begins: [{ is: "cleared", nodes: [from, change.to] }] };
    case "restored":
      return {
        ends: [added(1), meter, ...(to === undefined ? [] : [{ is: "cleared", nodes: [from, to] } as const])],
        begins: [],
      };
    default:
      return change satisfies never;
  }
}

/** A reading's own state on top of how the circuit stands anyway. */
export function standingWith(standing: Configuration, own: Configuration = {}): Configuration {
  const bySlot = new Map([...factsOf(standing), ...factsOf(own)].map((fact) => [slotOf(fact), fact]));
  return withFacts({ ...standing, ...own }, [...bySlot.values()]);
}
