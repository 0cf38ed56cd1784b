import { z } from "zod";
import {
  buildNetwork,
  type Circuit,
  designatorOf,
  MODES,
  type Mode,
  type Network,
  UnknownValueError,
} from "../circuit/index.ts";
import { bridgeCandidates, type FaultAt, priorData, type Site, sitesOf } from "../faults/index.ts";
import { prepare } from "../rank/index.ts";
import type { Priors, Situation } from "../record/index.ts";
import { FaultDrawer, type Random, seededRandom } from "../simulate/index.ts";
import { solveNetwork } from "../solve/index.ts";

/** A circuit on the bench, broken or not: its parts as they are, for as long as the job lasts. */
export interface World {
  readonly circuit: Circuit;
  readonly network: Network;
  readonly faults: readonly FaultAt[];
  /** Parts and bridges that are to be changed, by name. */
  readonly owners: readonly string[];
  readonly situation: Situation | undefined;
  /** Of the parts' values within their tolerances, and of all noise. */
  readonly seed: number;
}

/** Ways a part can be wrong, as one would ask for them. */
export const FAULT_KINDS = {
  open: { name: "Opens", modes: ["open", "dead", "stuckOpen", "wiperOpen"] },
  short: { name: "Shorts", modes: ["short", "stuckClosed"] },
  drift: { name: "Drifted values", modes: ["high", "low", "weak", "leaky"] },
  bridge: { name: "Bridges between nodes", modes: ["bridged"] },
} as const satisfies Readonly<Record<string, { readonly name: string; readonly modes: readonly Mode[] }>>;
export const FaultKind = z.enum(
  Object.keys(FAULT_KINDS) as [keyof typeof FAULT_KINDS, ...(keyof typeof FAULT_KINDS)[]],
);
export type FaultKind = z.infer<typeof FaultKind>;

/** Which kind a mode is of; a lead on the wrong node is like a bridge. */
export const kindOfMode = (mode: Mode): FaultKind =>
  (Object.keys(FAULT_KINDS) as FaultKind[]).find((k) => (FAULT_KINDS[k].modes as readonly Mode[]).includes(mode)) ??
  "bridge";

export const FaultCount = z.enum(["none", "one", "two", "any"]);
export type FaultCount = z.infer<typeof FaultCount>;

export interface WorldOptions {
  /** What may be wrong; left out, anything. */
  readonly kinds?: readonly FaultKind[];
  /** How much; "any" is one as a rule, two or nothing now and then. */
  readonly count?: FaultCount;
  /** Parts that may fail; left out, any. */
  readonly parts?: readonly string[] | undefined;
  /** How its parts fail; left out, as the tables say. */
  readonly habits?: Priors | undefined;
}

/** Why it is on the bench: a complaint where something is wrong for certain, else nobody says. */
export const situationFor = (count: FaultCount): Situation =>
  count === "none" || count === "any" ? "unsaid" : "complaint";

/** Shares of "any". */
const NOTHING = 0.12;
const TWO = 0.1;
/** Draws after which a circuit is said to have no such fault. */
const MOST_DRAWS = 4000;

/**
 * Breaks a circuit, as likely as its parts fail so, in a way that somebody would have noticed.
 * @returns why it cannot be done, where it cannot
 */
export function drawWorld(circuit: Circuit, seed: number, options: WorldOptions = {}): World | string {
  const { kinds = [], count = "one", parts = [], habits = {} } = options;
  const random = seededRandom(seed);
  const network = networkOf(circuit);
  if (typeof network === "string") return network;
  const situation = situationFor(count);
  const u = random.next();
  const wanted = count !== "any" ? { none: 0, one: 1, two: 2 }[count] : u < NOTHING ? 0 : u < NOTHING + TWO ? 2 : 1;
  const priors = { ...habits, healthy: 1e-6, doubleShare: wanted === 2 ? 0.999 : 1e-6 };
  const prepared = prepare({ circuit, readings: [], situation: "complaint", priors });
  if (prepared.kind === "problem") return prepared.message;
  const isWanted = (faults: readonly FaultAt[]) =>
    faults.length === wanted && (kinds.length === 0 || faults.every((f) => kinds.includes(kindOfMode(f.site.mode))));
  const drawer = new FaultDrawer(prepared);
  for (let n = 0; n < MOST_DRAWS; n += 1) {
    const faults = wanted === 0 ? [] : drawer.draw(random);
    if (!isWanted(faults)) continue;
    const owners = ownersOf(hiddenOf({ network, faults }));
    if (owners.length !== wanted || (parts.length > 0 && !owners.every((o) => parts.includes(o)))) continue;
    return { circuit, network, faults, owners, situation, seed };
  }
  return "no such fault can be in this circuit";
}

function networkOf(circuit: Circuit): Network | string {
  try {
    const network = buildNetwork(circuit);
    if (!network.branches.some((b) => b.kind === "supply")) return "this circuit has no supply: nothing to hunt there";
    const solved = solveNetwork(network);
    return solved.kind === "solved" ? network : `the circuit cannot be solved: ${solved.why}`;
  } catch (error) {
    if (error instanceof UnknownValueError) return `${error.designator} has no known value`;
    throw error;
  }
}

/** What is hidden, as it is kept and, afterwards, told: a part with its mode, or two nodes that are joined. */
export const HiddenFault = z.strictObject({
  part: z.string().optional(),
  nodes: z.tuple([z.string(), z.string()]).optional(),
  mode: z.enum(MODES),
  /** Ohms, or volts of a supply, where its mode has one. */
  value: z.number(),
});
export type HiddenFault = z.infer<typeof HiddenFault>;

export function hiddenOf({ network, faults }: Pick<World, "network" | "faults">): HiddenFault[] {
  const bridges = bridgeCandidates(network);
  return faults.map(({ site, value }) =>
    site.branch >= 0
      ? { part: network.branches[site.branch].name, mode: site.mode, value }
      : {
          nodes: bridges[site.bridge].map((n) => network.nodes[n] as string) as [string, string],
          mode: site.mode,
          value,
        },
  );
}

/** The same world again, from what was kept of it. @returns what is wrong with it, where something is */
export function worldOf(
  circuit: Circuit,
  hidden: readonly HiddenFault[],
  seed: number,
  situation?: Situation,
): World | string {
  const network = networkOf(circuit);
  if (typeof network === "string") return network;
  const bridges = bridgeCandidates(network);
  const sites = sitesOf(network, bridges, priorData({}));
  const isAt = (site: Site, { part, nodes, mode }: HiddenFault) =>
    site.mode === mode &&
    (site.branch >= 0
      ? network.branches[site.branch].name === part
      : nodes !== undefined && bridges[site.bridge].every((n) => nodes.includes(network.nodes[n])));
  const faults: FaultAt[] = [];
  for (const one of hidden) {
    const site = sites.find((s) => isAt(s, one));
    if (!site) return `this circuit has no ${one.part ?? one.nodes?.join("~")} ${one.mode}`;
    faults.push({ site, value: one.value });
  }
  return { circuit, network, faults, owners: ownersOf(hidden), situation, seed };
}

/** What is to be changed, each once: parts, and pairs of nodes as `A~B`. */
export function ownersOf(hidden: readonly Pick<HiddenFault, "part" | "nodes">[]): string[] {
  const names = hidden.map(({ part, nodes }) =>
    part !== undefined ? designatorOf(part) : [...(nodes ?? [])].sort().join("~"),
  );
  return [...new Set(names)].sort();
}

/** A seed of its own for each thing that is drawn by name: the same whatever was drawn before it. FNV-1a, 32 bits. */
export function seededBy(seed: number, name: string): Random {
  let hash = 0x811c9dc5 ^ seed;
  for (const character of name) hash = Math.imul(hash ^ (character.codePointAt(0) as number), 0x01000193);
  return seededRandom(hash);
}
