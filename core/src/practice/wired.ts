import { type Branch, type Law, lawsOf, type Network, type NodeName, type Part } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { bridgeCandidates, faultedNetwork } from "../faults/index.ts";
import { buildPorts } from "../measure/index.ts";
import { DIODE_TEST } from "../record/index.ts";
import { drawPieces, drawTolerances, seededRandom } from "../simulate/index.ts";
import { solveNetwork, topologyOf } from "../solve/index.ts";
import { type BenchNow, freedEnd, type Touch } from "./acts.ts";
import { seededBy, type World } from "./world.ts";

/** The circuit as it really is on the bench at a moment: drawn tolerances, hidden faults, leads that are off. */
export interface Wired {
  readonly network: Network;
  /** As power, an ohms range, or the meter's diode test finds them. */
  readonly laws: (power: "on" | "off" | "tested") => readonly Law[];
}

/** Ohms of what is called infinite here: far above any input. */
const ENDLESS = 1e15;

/**
 * @param burnt fuses of the circuit that blew meanwhile
 * @param supplies what becomes of them with the power off, as the meter is told
 */
export function wiredOf(
  world: World,
  now: BenchNow,
  burnt: readonly string[],
  supplies: "disconnected" | "internal",
): Wired {
  const state: Configuration = { switches: now.levers, swapped: now.swapped };
  const actual = actualOf(world, now.swapped);
  const faulted = faultedNetwork(actual, bridgeCandidates(world.network), world.faults);
  const network = withFreed(faulted.network, now.freed);
  const off = now.power ? {} : { off: supplyNames(world.network) };
  return {
    network,
    laws: (power) =>
      lawsOf(
        network.branches,
        {
          power: power === "on" ? "on" : "off",
          ...(power === "tested" ? { isDiodeTest: true } : {}),
          supplies,
          state: { ...state, ...off },
        },
        faulted.faults,
      ).map((law, k) => (burnt.includes(network.branches[k].name) ? { kind: "open" } : law)),
  };
}

export const supplyNames = ({ branches }: Network): string[] =>
  branches.flatMap((b) => (b.kind === "supply" ? [b.part.designator] : []));

/** Every part as it was drawn, and each that was swapped as the new one was: the same whenever it came in. */
function actualOf({ network, seed }: World, swapped: readonly string[]): Network {
  const drawn = drawTolerances(network, seededRandom(seed));
  return swapped.reduce((so, part) => drawPieces(so, [{ swapped: [part] }], seededBy(seed, `new ${part}`)), drawn);
}

/** The network with the end of each freed part on a node of its own. */
function withFreed(network: Network, freed: BenchNow["freed"]): Network {
  const nodes = [...network.nodes];
  const branches: Branch[] = [...network.branches];
  for (const { part, at } of freed) {
    const k = branches.findIndex((b) => b.name === part);
    if (k < 0) continue;
    const own = nodes.push(freedEnd(part) as NodeName) - 1;
    // A lead that lies on the wrong node is freed there.
    const isTo = nodes[branches[k].to] === at && nodes[branches[k].from] !== at;
    branches[k] = { ...branches[k], ...(isTo ? { to: own } : { from: own }) };
  }
  return { ...network, nodes, branches };
}

export interface Through {
  /** From red to black, through the meter. */
  readonly amps: number;
  readonly volts: number;
  /** Amperes through each branch, by size. */
  readonly of: ReadonlyMap<string, number>;
}

/** A resistance between two points, as a meter is one: what flows through it. @returns null where the circuit has no solution so */
export function across({ network, laws }: Wired, red: Touch, black: Touch, ohms: number): Through | null {
  const [from, to] = [nodeAt(network, red), nodeAt(network, black)];
  if (from < 0 || to < 0) return null;
  const by = Math.min(ohms, ENDLESS);
  const part = { designator: "the meter", kind: "wire", from: red, to: black, tolerance: 0, ohms: by } as Part;
  const meter: Branch = { name: "the meter", part, kind: "wire", from, to, law: { kind: "resistance", ohms: by } };
  if (from === to) return { amps: 0, volts: 0, of: new Map() };
  const solved = solveNetwork({ ...network, branches: [...network.branches, meter] }, [...laws("on"), meter.law]);
  if (solved.kind !== "solved") return null;
  const amps = solved.amps[network.branches.length];
  return {
    amps,
    volts: amps * by,
    of: new Map(network.branches.map((b, k) => [b.name, Math.abs(solved.amps[k])])),
  };
}

/** Ohms between two points with the power off; Infinity where nothing joins them. */
export function ohmsBetween({ network, laws }: Wired, red: Touch, black: Touch): number {
  const pair = [nodeAt(network, red), nodeAt(network, black)] as const;
  if (pair[0] === pair[1]) return 0;
  const ports = buildPorts(network, topologyOf(network), laws("off"), [pair]);
  if (ports.kind === "unsolvable" || ports.apart[0] === 1) return Number.POSITIVE_INFINITY;
  const at = ports.branchCount;
  return ports.x[at * ports.elementCount + at];
}

/** Volts between two points by the meter's own current, with the power off; Infinity where that is too little to show any. */
export function testedBetween({ network, laws }: Wired, red: Touch, black: Touch): number {
  const [from, to] = [nodeAt(network, red), nodeAt(network, black)];
  if (from === to) return 0;
  const part = { designator: "the meter", kind: "wire", from: red, to: black, tolerance: 0, ohms: 1 } as Part;
  // So many milliamperes, and no more volts than make it OL.
  const law: Law = { kind: "supply", volts: 1.1 * DIODE_TEST.topVolts, ohms: 0, limit: DIODE_TEST.amps };
  const meter: Branch = { name: "the meter", part, kind: "wire", from, to, law };
  // Counted from black: with the power off nothing may lead from there to the circuit's own reference.
  const branches = [...network.branches, meter];
  const solved = solveNetwork({ ...network, branches, reference: to }, [...laws("tested"), law]);
  if (solved.kind !== "solved") return Number.POSITIVE_INFINITY;
  const volts = solved.volts[from];
  return volts > DIODE_TEST.topVolts ? Number.POSITIVE_INFINITY : volts;
}

/** "0" is the reference, whatever it is called. */
export function nodeAt({ nodes, reference }: Network, touch: Touch): number {
  const found = nodes.indexOf(touch as NodeName);
  return found < 0 && touch === "0" ? reference : found;
}
