import { coldLaw, type Law, scaledLaw, valuedLaw } from "./elements.ts";
import type { Mode } from "./modes.ts";
import type { Branch } from "./network.ts";
import type { NodeName } from "./part.ts";
import { DEFAULTS } from "./usual.ts";

/** What was done to a circuit, where it does not stand as drawn. */
export interface CircuitState {
  readonly switches?: Readonly<Record<string, "open" | "closed">> | undefined;
  /** Parts with one lead lifted, replaced by known-good ones, taken out for a test; supplies that were off. */
  readonly lifted?: readonly string[] | undefined;
  readonly swapped?: readonly string[] | undefined;
  readonly out?: readonly string[] | undefined;
  readonly off?: readonly string[] | undefined;
  /** Parts given another value on purpose: ohms, volts of a supply. */
  readonly values?: Readonly<Record<string, number>> | undefined;
  /** Resistances put between two nodes for a test; without `to`, to the reference. */
  readonly added?: readonly AddedPart[] | undefined;
  /** Pairs of nodes between which a stray bridge was cleared: there is none any more. */
  readonly cleared?: readonly (readonly [NodeName, NodeName])[] | undefined;
}

export interface AddedPart {
  readonly from: NodeName;
  readonly to?: NodeName | undefined;
  readonly ohms: number;
}

/** How the circuit stands while something is read or seen. */
export interface Setting {
  readonly power: "on" | "off";
  /** What becomes of supplies while the power is off: disconnected, or left in as their internal resistance. */
  readonly supplies?: "disconnected" | "internal";
  /** With the power off: by the meter's diode test, whose volts reach a knee; those of an ohms range do not. */
  readonly isDiodeTest?: true;
  readonly state: CircuitState;
}

/** A fault of one branch; `value` is its resulting ohms (volts of a supply, ohms inside a weak one), where its mode has one. */
export interface BranchFault {
  readonly mode: Mode;
  readonly value: number;
}

/** The piece that was drawn. */
export const DRAWN = "";
/** A known-good one in its place. */
const NEW = "new";

/**
 * Which piece stands in a part's place: the drawn one, a known-good one, one of another value. Each has a deviation from
 * its nominal value of its own, so that what one of them was found to be says nothing of the next.
 */
export function pieceOf(designator: string, { values, swapped }: CircuitState): string {
  const value = values?.[designator];
  if (value !== undefined) return `${value}`;
  return swapped?.includes(designator) ? NEW : DRAWN;
}

const OPEN: Law = { kind: "open" };
/** Ohms of a supply that is left in with the power off, at least. */
const LEAST_INTERNAL = 1e-6;

/**
 * The one rule of what a branch is: with a fault or without, however the circuit stands. A lifted part and one taken out
 * are gone; one given another value on purpose, and a known-good one in its place, are good whatever the fault; a switch
 * follows its lever unless it is stuck, and a bad contact adds its ohms only while the lever is closed; with the power
 * off supplies are out and filaments cold.
 */
export function lawOf(
  branch: Branch,
  { power, supplies, state, isDiodeTest }: Setting,
  fault: BranchFault | null,
): Law {
  const name = branch.part.designator;
  if (branch.isAdded) return addedLaw(name, state);
  if (state.cleared && isBridge(branch) && isCleared(state, [branch.part.from, branch.part.to])) return OPEN;
  if (state.lifted?.includes(name) || state.out?.includes(name)) return OPEN;
  const piece = pieceOf(name, state);
  const isGood = fault === null || piece !== DRAWN;
  const isOpened = branch.part.kind === "switch" && (state.switches?.[name] ?? branch.part.position) === "open";
  const factor = branch.deviations?.get(piece) ?? 1;
  const law = isGood
    ? scaledLaw(workingLaw(branch, isOpened, state.values?.[name]), factor)
    : faultyLaw(factor === 1 ? branch : { ...branch, law: scaledLaw(branch.law, factor) }, isOpened, fault);
  if (law.kind === "supply" || branch.kind === "supply") {
    if (power === "on") return state.off?.includes(name) ? OPEN : law;
    if (law.kind !== "supply" || supplies !== "internal") return OPEN;
    return { kind: "resistance", ohms: Math.max(law.ohms, LEAST_INTERNAL) };
  }
  return power === "on" || (isDiodeTest && law.kind === "junction") ? law : coldLaw(law);
}

/** The law of every branch; `faults` by branch number. */
export function lawsOf(
  branches: readonly Branch[],
  setting: Setting,
  faults: ReadonlyMap<number, BranchFault> = new Map(),
): Law[] {
  return branches.map((branch, k) => lawOf(branch, setting, faults.get(k) ?? null));
}

/** A stray bridge is a branch named after the nodes that it joins. */
function isBridge({ name, part }: Branch): boolean {
  return name === bridgeName(part.from, part.to);
}

export function bridgeName(a: NodeName, b: NodeName): string {
  return `${a}~${b}`;
}

/** Whether a bridge between two nodes was cleared. */
export function isCleared({ cleared = [] }: CircuitState, nodes: readonly [NodeName, NodeName]): boolean {
  return cleared.some((pair) => pair.every((n) => nodes.includes(n)));
}

/** Name of a resistance that was put between two nodes for a test. */
export function nameOfAdded({ from, to }: AddedPart): string {
  return `${from}-${to ?? ""}`;
}

function addedLaw(name: string, { added = [] }: CircuitState): Law {
  const own = added.find((a) => nameOfAdded(a) === name);
  return own ? { kind: "resistance", ohms: own.ohms } : OPEN;
}

function workingLaw(branch: Branch, isOpened: boolean, value: number | undefined): Law {
  if (isOpened) return OPEN;
  const { law, part } = branch;
  if (value === undefined) return part.kind === "switch" ? closedLaw(branch) : law;
  // A value given on purpose is what was put in its place: ohms are plain ones.
  return law.kind === "supply" ? valuedLaw(law, value) : { kind: "resistance", ohms: value };
}

function closedLaw({ part, law }: Branch): Law {
  if (law.kind === "resistance") return law;
  return { kind: "resistance", ohms: part.kind === "switch" ? part.ohms : DEFAULTS.contactOhms };
}

function faultyLaw(branch: Branch, isOpened: boolean, { mode, value }: BranchFault): Law {
  const { law } = branch;
  switch (mode) {
    case "open":
    case "dead":
    case "stuckOpen":
    case "wiperOpen":
    case "misplaced":
      return OPEN;
    case "stuckClosed":
      return closedLaw(branch);
    case "short":
      return isOpened ? OPEN : { kind: "resistance", ohms: DEFAULTS.shortOhms };
    case "weak":
      return law.kind === "supply" ? { ...law, ohms: value } : law;
    case "high":
    case "low":
      return isOpened ? OPEN : valuedLaw(law, value);
    case "leaky":
      return law.kind === "junction" ? { ...law, leak: 1 / value } : { kind: "resistance", ohms: value };
    case "reversed":
      return law.kind === "junction" ? { ...law, isReversed: true } : law;
    case "bridged":
      return law;
    default:
      return mode satisfies never;
  }
}
