import { contactOf } from "./designators.ts";
import { type Law, RATED_LAWS } from "./elements.ts";
import { junctionOf, LEAST_LEAK } from "./junction.ts";
import { CONTACT_KINDS, type Kind, rowOf } from "./kinds.ts";
import { type AddedPart, nameOfAdded } from "./laws.ts";
import { MATERIALS, ZENER } from "./materials.ts";
import { bridgeEnds, type Circuit, type NodeName, nodesOf, type Part } from "./part.ts";
import { DEFAULTS, IDEAL_OHMS } from "./usual.ts";

/**
 * One two-terminal element. A potentiometer makes up to three, `RV1.top`, `RV1.bottom`, `RV1.wiper`; a bridge rectifier
 * four, `BR1.1` to `BR1.4`.
 */
export interface Branch {
  readonly name: string;
  readonly part: Part;
  readonly kind: Kind;
  readonly from: number;
  readonly to: number;
  /** As drawn and good. */
  readonly law: Law;
  /** Factors of the nominal value, by the piece that stands there (`pieceOf`); one that is not listed has just that. */
  readonly deviations?: ReadonlyMap<string, number>;
  /** Not in the drawing: put between two nodes for a test, in some settings only. */
  readonly isAdded?: true;
}

/** A circuit with its junctions numbered: what the solver works on. */
export interface Network {
  readonly nodes: readonly NodeName[];
  readonly reference: number;
  readonly branches: readonly Branch[];
}

export class UnknownValueError extends Error {
  constructor(readonly designator: string) {
    super(`${designator} has no known value`);
    this.name = "UnknownValueError";
  }
}

/**
 * Numbers the nodes of a circuit and gives each part its law.
 * @throws UnknownValueError where a part's value is `?`
 */
export function buildNetwork(circuit: Circuit): Network {
  const nodes = nodesOf(circuit);
  if (!nodes.includes(circuit.reference)) nodes.push(circuit.reference);
  const index = new Map(nodes.map((name, i) => [name, i]));
  const at = (name: NodeName) => index.get(name) as number;
  const branches = circuit.parts.flatMap((part): Branch[] => {
    const ends = { part, kind: part.kind, from: at(part.from), to: at(part.to) };
    if ("plus" in part) {
      const law = junctionLaw(part);
      return bridgeEnds(part).map(({ from, to }, i) => {
        const name = `${part.designator}.${i + 1}`;
        return { ...ends, name, from: at(from), to: at(to), law };
      });
    }
    if (part.kind !== "potentiometer") return [{ ...ends, name: part.designator, law: drawnLaw(part) }];
    const middle = nodes.push(`${part.designator}.tap` as NodeName) - 1;
    const section = (name: string, share: number, from: number, to: number): Branch => ({
      ...ends,
      name: `${part.designator}.${name}`,
      from,
      to,
      law: { kind: "resistance", ohms: Math.max(part.ohms * share, DEFAULTS.contactOhms) },
    });
    const track = [section("top", part.at, ends.from, middle), section("bottom", 1 - part.at, middle, ends.to)];
    if (!part.wiper) return track;
    const law: Law = { kind: "resistance", ohms: DEFAULTS.contactOhms };
    return [...track, { ...ends, name: `${part.designator}.wiper`, from: middle, to: at(part.wiper), law }];
  });
  return { nodes, reference: at(circuit.reference), branches: branches.map((b) => following(b, branches)) };
}

/** Shares of a coil's rated volts at which it pulls in and drops out, where none are written: what data sheets promise. */
const PULLS = 0.7;
const DROPS = 0.2;

/** A contact with what moves it; one whose coil is not here stays as it is while nothing pulls. */
function following(branch: Branch, all: readonly Branch[]): Branch {
  const { part, law } = branch;
  const contact = rowOf(part.kind).follows ? contactOf(part.designator) : null;
  if (!contact || law.kind !== "resistance") return branch;
  const coil = all.findIndex((b) => b.name === contact.coil);
  const own = all[coil]?.part;
  if (own === undefined || !("resistance" in own))
    return contact.closes ? { ...branch, law: { kind: "open" } } : branch;
  const amps = ratedAmps(own, all);
  const [pulls, drops] = [amps * (own.pulls ?? PULLS), amps * (own.drops ?? DROPS)];
  return { ...branch, law: { kind: "contact", ohms: law.ohms, coil, closes: contact.closes, pulls, drops } };
}

/** Amperes of a coil at its rated volts; of one that is written in ohms, at the volts of the largest supply. */
function ratedAmps({ resistance }: Extract<Part, { resistance: unknown }>, all: readonly Branch[]): number {
  if (resistance.by === "rating") return resistance.watts / resistance.volts;
  if (resistance.by === "unknown") return Number.POSITIVE_INFINITY;
  return Math.max(0, ...all.map((b) => (b.law.kind === "supply" ? Math.abs(b.law.volts) : 0))) / resistance.ohms;
}

/**
 * The network with resistances between two nodes that are there in some settings only, each a branch of its own.
 * @returns the name of the first node that is not there, where there is one
 */
export function withAdded(network: Network, added: readonly AddedPart[]): Network | string {
  const { nodes, reference } = network;
  const branches = [...network.branches];
  for (const one of added) {
    const name = nameOfAdded(one);
    if (branches.some((b) => b.name === name)) continue;
    const [from, to] = [nodes.indexOf(one.from), one.to === undefined ? reference : nodes.indexOf(one.to)];
    if (from < 0 || to < 0) return from < 0 ? one.from : String(one.to);
    const ends = { from: one.from, to: nodes[to] };
    const part = { designator: name, kind: "wire", ...ends, tolerance: 0, ohms: one.ohms } as Part;
    branches.push({ name, part, kind: "wire", from, to, law: { kind: "open" }, isAdded: true });
  }
  return { ...network, branches };
}

/** The circuit with supplies that hold their voltage whatever they deliver, or contacts that drop nothing, or both. */
export function idealCircuit(
  circuit: Circuit,
  ideal: { readonly supplies: boolean; readonly contacts: boolean },
): Circuit {
  if (!ideal.supplies && !ideal.contacts) return circuit;
  const parts = circuit.parts.map((part): Part => {
    if (part.kind === "supply") return ideal.supplies ? { ...part, internalOhms: 0 } : part;
    return ideal.contacts && CONTACT_KINDS.has(part.kind) && "ohms" in part ? { ...part, ohms: IDEAL_OHMS } : part;
  });
  return { ...circuit, parts };
}

function drawnLaw(part: Exclude<Part, { kind: "potentiometer" } | { plus: unknown }>): Law {
  if (part.kind === "supply") {
    if (part.volts === null) throw new UnknownValueError(part.designator);
    const limit = part.limit === undefined ? {} : { limit: part.limit };
    return { kind: "supply", volts: part.volts, ohms: part.internalOhms, ...limit };
  }
  if ("resistance" in part) return resistanceLaw(part);
  if ("material" in part) return junctionLaw(part);
  // Once it is charged a good one lets no direct current through.
  if (!("ohms" in part)) return { kind: "open" };
  return part.kind === "switch" && part.position === "open"
    ? { kind: "open" }
    : { kind: "resistance", ohms: part.ohms };
}

function junctionLaw({ kind, material, volts }: Extract<Part, { material: unknown }>): Law {
  if (rowOf(kind).breaksDown) return junctionOf({ ...ZENER, leak: LEAST_LEAK, zener: volts });
  return junctionOf({ forward: volts, series: MATERIALS[material].series, leak: LEAST_LEAK });
}

function resistanceLaw(part: Extract<Part, { resistance: unknown }>): Law {
  const { resistance, hotOhms } = part;
  switch (resistance.by) {
    case "ohms":
      if (hotOhms !== undefined) return { kind: "thermal", hot: hotOhms, cold: resistance.ohms };
      return { kind: "resistance", ohms: resistance.ohms };
    case "rating":
      return RATED_LAWS[rowOf(part.kind).byRating ?? "resistance"](resistance.volts, resistance.watts);
    case "unknown":
      throw new UnknownValueError(part.designator);
    default:
      return resistance satisfies never;
  }
}
