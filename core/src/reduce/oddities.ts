import { type Branch, CONTACT_KINDS, contactOf, type Network, type Part, rowOf } from "../circuit/index.ts";
import { type Solution, solveNetwork } from "../solve/index.ts";
import { likelySlip, printQuantity } from "../units/index.ts";
import { cutBranches } from "./cutBranches.ts";

/** Something about a circuit that is worth a second look. It may still be right: none of these stops anything. */
export interface Oddity {
  readonly kind:
    | "dead end"
    | "undriven"
    | "shorted"
    | "fighting"
    | "short across"
    | "value"
    | "neighbours"
    | "rating"
    | "way round"
    | "alternating"
    | "relay";
  /** Parts it is about. */
  readonly parts: readonly string[];
  readonly message: string;
}

/** Share of a rating that may be passed before it is said. */
const OVER = 1.02;
/** A value this many times above or below the middle of the others is far from its neighbours. */
const FAR = 1000;

/**
 * Everything odd about a circuit, in the order of the trail.
 * @param estimated parts whose values are estimates, which nobody wrote down
 */
export function oddities(network: Network, estimated: ReadonlySet<string> = new Set()): Oddity[] {
  const healthy = solveNetwork(network);
  const found = [
    ...shortedParts(network),
    ...shortsAcross(network),
    ...fights(network),
    ...deadEnds(network),
    ...values(network, estimated),
    ...lonelyContacts(network),
    ...alternating(network),
    ...(healthy.kind === "solved" ? [...overRatings(healthy), ...turned(healthy), ...buzzing(healthy)] : []),
  ];
  const place = new Map(network.branches.map((b, i) => [b.part.designator, i]));
  return found.sort((a, b) => (place.get(a.parts[0]) ?? 0) - (place.get(b.parts[0]) ?? 0));
}

const isContact = (b: Branch) => (CONTACT_KINDS.has(b.kind) && !rowOf(b.kind).follows) || b.name.endsWith(".wiper");
/** Contacts that connect as drawn. */
const joins = (b: Branch) => isContact(b) && b.law.kind !== "open";

/** Nodes grouped by what the given branches connect: the group's number per node. */
function groupsOf(network: Network, branches: readonly Branch[]): Int32Array {
  const group = Int32Array.from(network.nodes, (_, i) => i);
  const root = (n: number): number => (group[n] === n ? n : root(group[n]));
  for (const { from, to } of branches) group[root(from)] = root(to);
  return group.map((_, n) => root(n));
}

function shortedParts(network: Network): Oddity[] {
  const joined = groupsOf(network, network.branches.filter(joins));
  const bridges = new Map(network.branches.flatMap(({ part }) => ("plus" in part ? [[part.designator, part]] : [])));
  const joinedLeads = [...bridges.values()].flatMap(({ designator, plus, minus }): Oddity[] =>
    plus === minus
      ? [{ kind: "shorted", parts: [designator], message: `plus and minus of ${designator} are both at ${plus}` }]
      : [],
  );
  const shorted = network.branches.flatMap((b): Oddity[] => {
    if (isContact(b) || b.kind === "supply" || joined[b.from] !== joined[b.to]) return [];
    const where = network.nodes[b.from];
    const message =
      b.from === b.to
        ? `both ends of ${b.name} are at ${where}: nothing flows through it`
        : `${b.name} is bridged by plain connections from ${where} to ${network.nodes[b.to]}`;
    return [{ kind: "shorted", parts: [b.part.designator], message }];
  });
  return [...joinedLeads, ...shorted];
}

function shortsAcross(network: Network): Oddity[] {
  const quick = network.branches.filter((b) => joins(b) || rowOf(b.kind).blows);
  const joined = groupsOf(network, quick);
  return network.branches.flatMap((b): Oddity[] =>
    b.kind === "supply" && joined[b.from] === joined[b.to]
      ? [
          {
            kind: "short across",
            parts: [b.name],
            message: `only contacts and fuses lie between the terminals of ${b.name}: as drawn it is shorted`,
          },
        ]
      : [],
  );
}

function fights(network: Network): Oddity[] {
  const joined = groupsOf(network, network.branches.filter(joins));
  const supplies = network.branches.filter((b) => b.kind === "supply");
  return supplies.flatMap((a, i) =>
    supplies.slice(i + 1).flatMap((b): Oddity[] => {
      if (a.law.kind !== "supply" || b.law.kind !== "supply") return [];
      const same = joined[a.from] === joined[b.from] && joined[a.to] === joined[b.to];
      const opposed = joined[a.from] === joined[b.to] && joined[a.to] === joined[b.from];
      if (!same && !opposed) return [];
      const off = Math.abs(a.law.volts - (same ? 1 : -1) * b.law.volts);
      if (off <= a.part.tolerance * Math.abs(a.law.volts) + b.part.tolerance * Math.abs(b.law.volts)) return [];
      return [
        {
          kind: "fighting",
          parts: [a.name, b.name],
          message: `${a.name} and ${b.name} lie across the same two nodes and disagree by ${printQuantity(off, "V")}: one drives current into the other`,
        },
      ];
    }),
  );
}

/** Branches that lie on no closed way, and those that no supply reaches; without any supply there is nothing to miss. */
function deadEnds(network: Network): Oddity[] {
  const { branches } = network;
  if (!branches.some((b) => b.kind === "supply")) return [];
  const whole = groupsOf(network, branches);
  const driven = new Set(branches.flatMap((b) => (b.kind === "supply" ? [whole[b.from]] : [])));
  const { cuts, order } = cutBranches(network);
  const supplies = branches.flatMap((b, k) => (b.kind === "supply" ? [{ at: order[b.from], k }] : []));
  return branches.flatMap((b, k): Oddity[] => {
    if (b.from === b.to) return [];
    const parts = [b.part.designator];
    if (!driven.has(whole[b.from]))
      return [{ kind: "undriven", parts, message: `nothing connects ${b.name} to a supply` }];
    const cut = cuts.get(k);
    if (!cut) return [];
    // Of the two sides, the one without a supply is the one that leads nowhere.
    const beyond = b.to === cut.far ? "to" : "from";
    const isBeyond = (s: { at: number; k: number }) => s.k !== k && s.at >= cut.first && s.at < cut.end;
    const others = supplies.filter((s) => s.k !== k);
    const hasAtTo =
      beyond === "to"
        ? others.some(isBeyond)
        : others.some((s) => !isBeyond(s) && whole[branches[s.k].from] === whole[b.from]);
    const far = hasAtTo ? b.from : b.to;
    return [
      {
        kind: "dead end",
        parts,
        message: `beyond ${b.name} (at ${network.nodes[far]}) there is no way back to a supply: nothing flows through it`,
      },
    ];
  });
}

function ohmsWritten(part: Part): number | null {
  if (part.kind === "potentiometer") return null;
  return "resistance" in part && part.resistance.by === "ohms" ? part.resistance.ohms : null;
}

function values(network: Network, estimated: ReadonlySet<string>): Oddity[] {
  const parts = [...new Map(network.branches.map((b) => [b.part.designator, b.part])).values()];
  const known = parts.flatMap((part) => {
    const ohms = part.kind === "resistor" && !estimated.has(part.designator) ? ohmsWritten(part) : null;
    return ohms === null ? [] : [{ part, ohms }];
  });
  const sorted = known.map((k) => k.ohms).sort((a, b) => a - b);
  // The middle of the others: without this one, those behind it move up by one place.
  const middleWithout = (ohms: number) => {
    const place = Math.floor((sorted.length - 1) / 2);
    return sorted[ohms <= sorted[place] ? place + 1 : place] ?? Number.NaN;
  };
  return known.flatMap(({ part, ohms }): Oddity[] => {
    const ratio = ohms / middleWithout(ohms);
    const found: Oddity[] = [];
    const meant = likelySlip(ohms);
    if (meant !== null) {
      const message = `${printQuantity(ohms, "ohm")} is in no E-series; is ${printQuantity(meant, "ohm")} meant?`;
      found.push({ kind: "value", parts: [part.designator], message: `${part.designator}: ${message}` });
    }
    if (known.length > 3 && (ratio > FAR || ratio < 1 / FAR)) {
      const far = ratio > 1 ? "above" : "below";
      const message = `${part.designator} is more than ${FAR} times ${far} the other resistors: is its prefix right?`;
      found.push({ kind: "neighbours", parts: [part.designator], message });
    }
    return found;
  });
}

/** Parts that one half of an alternating voltage sees otherwise than the other: nothing here follows it through time. */
function alternating({ branches }: Network): Oddity[] {
  const source = branches.find((b) => "safety" in b.part && b.part.safety !== undefined);
  const odd = branches.filter((b) => b.law.kind === "junction" || rowOf(b.kind).form === "capacitance");
  if (!source || odd.length === 0) return [];
  const parts = [...new Set(odd.map((b) => b.part.designator))];
  const { name } = source;
  const message = `${name} alternates, and ${parts.join(", ")} ${parts.length > 1 ? "see" : "sees"} its two halves differently: every figure is of a direct voltage of that size, plus where ${name} has it. Read with the meter on DC, behind what rectifies`;
  return [{ kind: "alternating", parts: [name, ...parts], message }];
}

type Solved = Extract<Solution, { kind: "solved" }>;

/** Contacts that no coil here moves. */
function lonelyContacts({ branches }: Network): Oddity[] {
  return branches.flatMap(({ name, kind, law }): Oddity[] => {
    if (!rowOf(kind).follows || law.kind === "contact") return [];
    const coil = contactOf(name)?.coil;
    const message =
      coil === undefined
        ? `${name} is a relay contact and names no coil: it is called after it, K1.no or K1.nc`
        : `${name} follows no coil: there is no ${coil} here, so it stays as it is while nothing pulls`;
    return [{ kind: "relay", parts: [name], message }];
  });
}

/** A relay that switches itself off. */
function buzzing({ network, point }: Solved): Oddity[] {
  const own = network.branches[point.buzzing];
  if (!own) return [];
  const message = `${own.name} buzzes: what it switches takes the current from its own coil, again and again; figures are as if it had let go`;
  return [{ kind: "relay", parts: [own.name], message }];
}

/** Shares of its volts from which on something conducts, or lies against the current. */
const CONDUCTS = 0.7;

/** What shines but lies against the current, and what is there to break down but conducts forwards. */
function turned({ network, point }: Solved): Oddity[] {
  return network.branches.flatMap(({ name, kind, law, part }, k): Oddity[] => {
    if (law.kind !== "junction") return [];
    const volts = point.volts[network.branches[k].from] - point.volts[network.branches[k].to];
    const { breaksDown, works } = rowOf(kind);
    if (works === "shines" && volts < -CONDUCTS * law.forward)
      return [
        {
          kind: "way round",
          parts: [part.designator],
          message: `${name} lies against the current and stays dark: rev behind it turns it round`,
        },
      ];
    if (breaksDown && volts > CONDUCTS * law.forward)
      return [
        {
          kind: "way round",
          parts: [part.designator],
          message: `${name} conducts forwards, at ${printQuantity(volts, "V", { digits: 2 })}: to hold its volts it lies the other way round, which rev behind it says`,
        },
      ];
    return [];
  });
}

function overRatings({ network, amps, watts }: Extract<Solution, { kind: "solved" }>): Oddity[] {
  return network.branches.flatMap((b, k): Oddity[] => {
    const { powerRating, currentRating, designator } = b.part;
    const parts = [designator];
    if (currentRating !== undefined && Math.abs(amps[k]) > currentRating * OVER) {
      const runs = printQuantity(Math.abs(amps[k]), "A", { digits: 3 });
      return [
        {
          kind: "rating",
          parts,
          message: `${b.name} carries ${runs} when healthy, above its ${printQuantity(currentRating, "A")}`,
        },
      ];
    }
    if (powerRating === undefined || b.kind === "supply" || watts[k] <= powerRating * OVER) return [];
    const takes = printQuantity(watts[k], "W", { digits: 3 });
    return [
      {
        kind: "rating",
        parts,
        message: `${b.name} takes ${takes} when healthy, above its ${printQuantity(powerRating, "W")}`,
      },
    ];
  });
}
