import { bends, type Network } from "../circuit/index.ts";
import { type Combined, type Item, reduceNetwork } from "./steps.ts";

/** What is known of a part, a composite or two points: volts and amperes along it, its ohms, a source's own voltage. */
export type Told = "volts" | "amps" | "ohms" | "emf";

/**
 * By which rule a figure is known: written, read, Ohm's law, one current in series, what meets at a junction, one voltage
 * in parallel, what adds up round a loop, ohms that add or lie beside each other, a source's voltage less its inside drop.
 */
export type Rule = "drawn" | "read" | "ohm" | "series" | "junction" | "parallel" | "loop" | "sum" | "beside" | "source";

export interface Term {
  readonly fact: Fact;
  readonly sign: 1 | -1;
}

/** A figure with the reason for it; SI units. A source's current counts out of its plus. */
export interface Fact {
  readonly of: Told;
  /** The part's name, a composite's mark, or two points. */
  readonly name: string;
  readonly from: number;
  readonly to: number;
  readonly value: number;
  readonly rule: Rule;
  /** What it follows from, and how each counts: in the order in which one would write it. */
  readonly using: readonly Term[];
}

/** What was read: volts between two nodes, amperes along a branch, ohms of a part by itself. */
export type Given =
  | { readonly of: "volts"; readonly from: number; readonly to: number; readonly value: number }
  | { readonly of: "amps" | "ohms"; readonly branch: number; readonly value: number };

interface Thing {
  readonly name: string;
  readonly from: number;
  readonly to: number;
  readonly branches: readonly number[];
  /** +1, or −1 where its current counts against `from` to `to`: a source's. */
  readonly way: 1 | -1;
  readonly combined?: Combined;
}

/**
 * What follows of a circuit from what is drawn and read, one step of paper at a time, the simplest that is due first.
 * What only equations solved together give is not found.
 * @param unknown parts whose value, ohms or volts, is not to be taken from the drawing
 */
export function deduce(network: Network, given: readonly Given[], unknown: ReadonlySet<string>): Fact[] {
  return new Deduction(network, given, unknown).all();
}

/** What a figure follows from, the first step first, itself last. */
export function chainOf(fact: Fact): Fact[] {
  const found = new Set<Fact>();
  const visit = (one: Fact) => {
    if (found.has(one)) return;
    for (const { fact: other } of one.using) visit(other);
    found.add(one);
  };
  visit(fact);
  return [...found];
}

class Deduction {
  private readonly facts: Fact[] = [];
  private readonly known = new Map<string, Fact>();
  private readonly things: readonly Thing[];

  constructor(
    private readonly network: Network,
    given: readonly Given[],
    unknown: ReadonlySet<string>,
  ) {
    const { branches } = network;
    const own = branches.map((b, k): Thing => {
      const { name, from, to } = b;
      return { name, from, to, branches: [k], way: b.kind === "supply" ? -1 : 1 };
    });
    this.things = [...own, ...compositesOf(network)];
    branches.forEach(({ law, part, name, from, to }) => {
      const isOpen = unknown.has(part.designator);
      if (law.kind === "open") this.add({ of: "amps", name, from, to, value: 0, rule: "drawn", using: [] });
      if (law.kind === "resistance" && !bends(law) && !isOpen)
        this.add({ of: "ohms", name, from, to, value: law.ohms, rule: "drawn", using: [] });
      if (law.kind === "supply" && !isOpen)
        this.add({ of: "emf", name, from, to, value: law.volts, rule: "drawn", using: [] });
    });
    for (const one of given) this.read(one);
  }

  all(): Fact[] {
    const rules = [
      this.sources,
      this.totals,
      this.ohms,
      this.junctions,
      this.currents,
      this.loops,
      this.sums,
      this.unknowns,
    ];
    while (rules.some((rule) => rule.call(this)));
    return this.facts;
  }

  private read(one: Given) {
    const { nodes, branches } = this.network;
    if (one.of === "volts") {
      const { from, to, value } = one;
      this.add({ of: "volts", name: `${nodes[from]}–${nodes[to]}`, from, to, value, rule: "read", using: [] });
      return;
    }
    const { name, from, to } = branches[one.branch];
    this.add({ of: one.of, name, from, to, value: one.value, rule: "read", using: [] });
  }

  private add(fact: Fact): boolean {
    const key = `${fact.of} ${fact.name}`;
    if (this.known.has(key) || !Number.isFinite(fact.value)) return false;
    this.known.set(key, fact);
    this.facts.push(fact);
    return true;
  }

  private get(of: Told, { name }: { readonly name: string }): Fact | undefined {
    return this.known.get(`${of} ${name}`);
  }

  private tell(of: Told, { name, from, to }: Thing, value: number, rule: Rule, using: readonly Term[]): boolean {
    return this.add({ of, name, from, to, value, rule, using });
  }

  /** A source's terminals: its own voltage less what its current drops inside. */
  private sources(): boolean {
    return this.network.branches.some(({ law }, k) => {
      const thing = this.things[k];
      const emf = this.get("emf", thing);
      if (law.kind !== "supply" || !emf) return false;
      const amps = this.get("amps", thing);
      if (law.ohms === 0 || law.ohms < NO_OHMS) return this.tell("volts", thing, emf.value, "source", [plus(emf)]);
      return amps !== undefined
        ? this.tell("volts", thing, emf.value - amps.value * law.ohms, "source", [plus(emf), plus(amps)])
        : false;
    });
  }

  /** What a source drives through all there is: its own voltage over that and its inside. */
  private totals(): boolean {
    const { branches } = this.network;
    return branches.some(({ law, from, to }, k) => {
      const source = this.things[k];
      const emf = this.get("emf", source);
      if (law.kind !== "supply" || !emf || this.get("amps", source)) return false;
      const beside = branches.flatMap((b, i) =>
        i !== k && b.law.kind !== "open" && (b.from === from || b.to === from) ? [i] : [],
      );
      const all = this.things.find((t) => {
        const isAcross = (t.from === from && t.to === to) || (t.from === to && t.to === from);
        return isAcross && !t.branches.includes(k) && beside.every((i) => t.branches.includes(i));
      });
      const ohms = all && this.get("ohms", all);
      if (!ohms || !(ohms.value + law.ohms > NO_OHMS)) return false;
      return this.tell("amps", source, emf.value / (ohms.value + law.ohms), "ohm", [plus(emf), plus(ohms)]);
    });
  }

  /** Volts or amperes by Ohm's law. */
  private ohms(): boolean {
    return this.things.some((thing) => {
      const ohms = this.get("ohms", thing);
      if (!ohms || this.isSource(thing)) return false;
      const [volts, amps] = [this.get("volts", thing), this.get("amps", thing)];
      if (amps && !volts) return this.tell("volts", thing, amps.value * ohms.value, "ohm", [plus(amps), plus(ohms)]);
      if (volts && !amps && ohms.value > NO_OHMS)
        return this.tell("amps", thing, volts.value / ohms.value, "ohm", [plus(volts), plus(ohms)]);
      return false;
    });
  }

  /** Ohms of what is unknown from its volts and amperes, and a source's own voltage. */
  private unknowns(): boolean {
    return this.things.some((thing) => {
      const [volts, amps] = [this.get("volts", thing), this.get("amps", thing)];
      if (!volts) return false;
      if (!this.isSource(thing))
        return amps && Math.abs(amps.value) > 0 && !this.get("ohms", thing)
          ? this.tell("ohms", thing, volts.value / amps.value, "ohm", [plus(volts), plus(amps)])
          : false;
      const { law } = this.network.branches[thing.branches[0]];
      if (law.kind !== "supply" || this.get("emf", thing)) return false;
      if (law.ohms < NO_OHMS) return this.tell("emf", thing, volts.value, "source", [plus(volts)]);
      return amps
        ? this.tell("emf", thing, volts.value + amps.value * law.ohms, "source", [plus(volts), plus(amps)])
        : false;
    });
  }

  private isSource({ branches }: Thing): boolean {
    return branches.length === 1 && this.network.branches[branches[0]].law.kind === "supply";
  }

  /** What meets at a node: all currents but one, each composite in place of what it holds. */
  private junctions(): boolean {
    const plain = this.things.filter((t) => !t.combined && t.from !== t.to);
    const sets = [plain, ...this.things.flatMap((c) => (c.combined ? [[...outside(plain, c), c]] : []))];
    return sets.some((set) =>
      this.network.nodes.some((_, node) => {
        const here = set.filter((t) => t.from === node || t.to === node);
        const open = here.filter((t) => !this.get("amps", t));
        if (open.length !== 1 || here.length < 2) return false;
        const [wanted] = open;
        /** Out of the node, along the thing's own way. */
        const out = (t: Thing) => (t.from === node ? 1 : -1) * t.way;
        const using = here.flatMap((t): Term[] => {
          const fact = this.get("amps", t);
          return !fact || fact.value === 0 ? [] : [{ fact, sign: out(t) === out(wanted) ? -1 : 1 }];
        });
        const value = using.reduce((s, { fact, sign }) => s + sign * fact.value, 0);
        return this.tell("amps", wanted, value, using.length === 1 ? "series" : "junction", using);
      }),
    );
  }

  /** One current through all that are in series; what parallel ones carry together. */
  private currents(): boolean {
    return this.things.some((thing) => {
      const { combined } = thing;
      if (!combined) return false;
      const members = this.membersOf(combined);
      const own = this.get("amps", thing);
      if (combined.kind === "series") {
        const source = own ? { fact: own, sign: 1 as const } : this.firstKnown(members);
        if (!source) return false;
        const along = source.sign * source.fact.value;
        const tell = (t: Thing, sign: number) =>
          this.tell("amps", t, sign * along, "series", [{ fact: source.fact, sign: 1 }]);
        return (!own && tell(thing, 1)) || members.some((m) => !this.get("amps", m.thing) && tell(m.thing, m.sign));
      }
      if (own || !members.every((m) => this.get("amps", m.thing))) return false;
      const using = members.map((m): Term => ({ fact: this.get("amps", m.thing) as Fact, sign: m.sign }));
      const value = using.reduce((s, t) => s + t.sign * t.fact.value, 0);
      return this.tell("amps", thing, value, "junction", using);
    });
  }

  private firstKnown(members: readonly Member[]): Term | null {
    for (const { thing, sign } of members) {
      const fact = this.get("amps", thing);
      if (fact) return { fact, sign };
    }
    return null;
  }

  private membersOf({ parts, result, kind }: Combined): Member[] {
    let at = result.from;
    return parts.flatMap(({ name }) => {
      const thing = this.things.find((t) => t.name === name);
      if (!thing) return [];
      // A part of a sum may be listed the other way round than it is drawn.
      const isAlong = thing.from === (kind === "series" ? at : result.from);
      at = thing.from === at ? thing.to : thing.from;
      return [{ thing, sign: ((isAlong ? 1 : -1) * thing.way) as 1 | -1 }];
    });
  }

  /** Volts from one node to another along what is known: one step where it is parallel to that, else round a loop. */
  private loops(): boolean {
    const edges = this.facts.filter((f) => f.of === "volts");
    return this.things.some((thing) => {
      if (this.get("volts", thing) || thing.from === thing.to) return false;
      const path = pathAlong(edges, thing.from, thing.to);
      if (!path) return false;
      const value = path.reduce((s, { fact, sign }) => s + sign * fact.value, 0);
      return this.tell("volts", thing, value, path.length === 1 ? "parallel" : "loop", path);
    });
  }

  /** Ohms of what is combined. */
  private sums(): boolean {
    return this.things.some((thing) => {
      const { combined } = thing;
      if (!combined || this.get("ohms", thing)) return false;
      const using = this.membersOf(combined).flatMap((m): Term[] => {
        const fact = this.get("ohms", m.thing);
        return fact ? [plus(fact)] : [];
      });
      if (using.length < combined.parts.length) return false;
      const values = using.map((t) => t.fact.value);
      if (combined.kind === "series")
        return this.tell(
          "ohms",
          thing,
          values.reduce((a, b) => a + b, 0),
          "sum",
          using,
        );
      return this.tell("ohms", thing, 1 / values.reduce((s, v) => s + 1 / v, 0), "beside", using);
    });
  }
}

interface Member {
  readonly thing: Thing;
  /** How its current counts along the composite. */
  readonly sign: 1 | -1;
}

/** Ohms that are none: of ideal wires and supplies. */
const NO_OHMS = 1e-6;

const plus = (fact: Fact): Term => ({ fact, sign: 1 });

const outside = (things: readonly Thing[], composite: Thing) =>
  things.filter((t) => !t.branches.some((b) => composite.branches.includes(b)));

/** What a reduction combines, by its marks; what it leaves out takes no part. */
function compositesOf(network: Network): Thing[] {
  const ohms = network.branches.map(({ law }) => (law.kind === "open" ? Number.POSITIVE_INFINITY : 1));
  const { steps } = reduceNetwork(network, ohms);
  // Arms of a star are nobody's current.
  const end = steps.findIndex((step) => !("result" in step));
  return steps.slice(0, end < 0 ? undefined : end).flatMap((step): Thing[] => {
    if (!("result" in step)) return [];
    const { name, from, to, branches }: Item = step.result;
    return [{ name, from, to, branches, way: 1, combined: step }];
  });
}

/** The shortest way from one node to another along known voltages. */
function pathAlong(edges: readonly Fact[], from: number, to: number): Term[] | null {
  const before = new Map<number, Term | null>([[from, null]]);
  const queue = [from];
  for (let at = queue.shift(); at !== undefined && !before.has(to); at = queue.shift())
    for (const fact of edges)
      for (const [a, b, sign] of [
        [fact.from, fact.to, 1],
        [fact.to, fact.from, -1],
      ] as const)
        if (a === at && !before.has(b)) {
          before.set(b, { fact, sign });
          queue.push(b);
        }
  if (!before.has(to)) return null;
  const path: Term[] = [];
  for (let at = to; at !== from; ) {
    const step = before.get(at) as Term;
    path.unshift(step);
    at = step.sign > 0 ? step.fact.from : step.fact.to;
  }
  return path;
}
