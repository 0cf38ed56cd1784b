import {
  type Branch,
  bends,
  branchCalled,
  type Network,
  type NodeName,
  ohmsOf,
  rowOf,
  unitOfValue,
} from "@hound/core/circuit";
import { type Configuration, isSameState } from "@hound/core/configuration";
import { deviationOf } from "@hound/core/measure";
import type { Prediction, Ranking, RankProblem, Settled } from "@hound/core/rank";
import {
  type Conventions,
  isVolts,
  type Meter,
  type MeterData,
  meterData,
  type NumericReading,
  type Reading,
  UNIT_OF,
} from "@hound/core/record";
import type { Oddity } from "@hound/core/reduce";
import { ohmsAcross } from "../session/healthy.ts";
import { valueLabel } from "../words/partValue.ts";
import { print } from "../words/print.ts";
import {
  figureBesideEnds,
  percent,
  reachWords,
  shown,
  valueOfReading,
  withinBy,
  withLimits,
} from "../words/quantities.ts";
import { type Figures, figuresOf } from "./figures.ts";

/** Everything the board prints beside nodes and parts. */
export interface BoardFacts {
  readonly nodes: readonly NodeFacts[];
  readonly branches: readonly BranchFacts[];
  /** Bridges that are suspected; those imagined have no probability. */
  readonly bridges: readonly { readonly a: number; readonly b: number; readonly probability: number | null }[];
}

export interface NodeFacts {
  readonly name: NodeName;
  /** The circuit's own figure, no meter being there. */
  readonly expected: string | null;
  readonly read: string | null;
  /** −1 below its limits, 1 above, 0 within or unknown. */
  readonly deviation: -1 | 0 | 1;
  /** Volts against the reference: its own with their window, and read; null where there is none. */
  readonly volts: Prediction | null;
  readonly readVolts: number | null;
  /** What it has with the faults imagined, and the change in limits. */
  readonly imagined?: { readonly text: string; readonly limits: number; readonly volts: number };
}

export interface BranchFacts {
  readonly label: string;
  readonly expected: string | null;
  readonly read: string | null;
  readonly suspicion: number;
  readonly suspicionText: string;
  /** What is odd about it as drawn. */
  readonly odd: string | null;
  /** Its current with the faults imagined; designator and fault where it is the faulty one. */
  readonly imagined?: { readonly text: string; readonly mark: string | null };
}

interface BoardInput {
  readonly network: Network;
  readonly readings: readonly Reading[];
  readonly meter: Meter;
  readonly ranking: Ranking | RankProblem | null;
  readonly settled?: Settled | null;
  readonly odd?: readonly Oddity[];
  /** How the circuit stands, where that differs from the drawing: what is expected, and which readings count. */
  readonly standing?: Configuration;
  /** How far what is expected may go. */
  readonly limits?: Conventions["limits"];
  /** Left out, they are worked out here. */
  readonly figures?: Figures;
}

/**
 * Readings and expectations by place; suspicion by part. What is expected is the circuit's own, as in every view; a
 * reading is held against what the meter would show. Without a supply both are ohms.
 */
export function boardFacts(input: BoardInput): BoardFacts {
  const { network, meter, ranking, settled = null, odd = [], standing = {}, limits = "likely" } = input;
  const readings = input.readings.filter((r) => isSameState(r.state, standing));
  const isDriven = network.branches.some((b) => b.kind === "supply");
  const reference = network.nodes[network.reference];
  const { own: every, loaded } = input.figures ?? figuresOf(network, meter, standing);
  const own = every?.map((one) => withinBy(one, limits));
  // By what would put it right, as the list of suspects has it.
  const repairs = ranking?.kind === "ranking" ? ranking.repairs : [];
  const suspicion = new Map<string, number>();
  const bridges = new Map<string, { a: number; b: number; probability: number }>();
  for (const { repair, probability } of repairs) {
    for (const step of repair) {
      if ("nodes" in step) {
        const [a, b] = step.nodes.map((n) => network.nodes.indexOf(n));
        const known = bridges.get(`${a} ${b}`);
        bridges.set(`${a} ${b}`, { a, b, probability: Math.max(probability, known?.probability ?? 0) });
      } else suspicion.set(step.part, Math.max(probability, suspicion.get(step.part) ?? 0));
    }
  }
  // Several branches of one part are marked once.
  const suspected = ({ name, part }: Branch) =>
    name === branchCalled(part.designator, part.kind) ? (suspicion.get(part.designator) ?? 0) : 0;
  return {
    nodes: network.nodes.map((name, i) =>
      nodeFacts(name, i === network.reference, readings, {
        own: own?.[i],
        due: loaded?.[i],
        meter: meterData(meter),
        isDriven,
        reference,
      }),
    ),
    branches: network.branches.map((branch, k) => ({
      label: labelOf(branch, settled, standing),
      expected: standing.lifted?.includes(branch.part.designator)
        ? "lead lifted"
        : standing.out?.includes(branch.part.designator)
          ? "taken out"
          : figureOf(own?.[network.nodes.length + k], isDriven ? "A" : "ohm"),
      read: branchRead(branch, network, readings),
      suspicion: suspected(branch),
      suspicionText: percent(suspected(branch)),
      odd: odd.find((o) => o.parts.includes(branch.part.designator))?.message ?? null,
    })),
    bridges: [...bridges.values()].filter((b) => b.probability >= 0.03),
  };
}

/** The same without what is expected. */
export function hushed({ nodes, branches, bridges }: BoardFacts): BoardFacts {
  return {
    nodes: nodes.map((n) => ({ ...n, expected: null, deviation: 0, volts: null })),
    branches: branches.map((b) => ({ ...b, expected: null })),
    bridges,
  };
}

interface NodeInput {
  /** The circuit's own figure, and what the meter should show. */
  readonly own: Prediction | undefined;
  readonly due: Prediction | undefined;
  readonly meter: MeterData;
  readonly isDriven: boolean;
  readonly reference: NodeName;
}

function nodeFacts(
  name: NodeName,
  isReference: boolean,
  readings: readonly Reading[],
  { own, due, meter, isDriven, reference }: NodeInput,
): NodeFacts {
  if (isReference)
    return { name, expected: null, read: null, deviation: 0, volts: { value: 0, plusMinus: 0 }, readVolts: null };
  const unit = UNIT_OF[isDriven ? "voltage" : "resistance"];
  const measured = isDriven
    ? readings.findLast((r): r is NumericReading => isVolts(r) && r.from === name && r.to === undefined)
    : ohmsAcross(readings, name, reference, reference);
  return {
    name,
    // Limits that are not as wide either way are in the staircase: there is no room for them here.
    expected: own ? figureBesideEnds(own, unit) : null,
    read: measured ? valueOfReading(measured) : null,
    deviation: measured && due && !due.reach ? deviationOf(measured, due, meter).side : 0,
    volts: isDriven ? (own ?? null) : null,
    readVolts: isDriven ? (measured?.value ?? null) : null,
  };
}

function figureOf(expected: Prediction | undefined, unit: "A" | "ohm"): string | null {
  if (!expected) return null;
  return expected.reach ? reachWords(expected.reach, unit, "?") : shown(expected.value, unit, 3);
}

function branchRead(branch: Branch, network: Network, readings: readonly Reading[]): string | null {
  const [from, to] = [network.nodes[branch.from], network.nodes[branch.to]];
  const found = readings.findLast((r) => {
    if (r.quantity === "current") return r.through === branch.name;
    if (r.quantity === "observation") return false;
    if (r.quantity === "resistance" && r.lifted !== undefined) return r.lifted === branch.name;
    return r.to !== undefined && r.from === from && r.to === to;
  });
  if (!found || found.quantity === "observation") return null;
  if (found.beyond) return found.beyond === "over" ? "OL" : "beep";
  return shown(found.value, UNIT_OF[found.quantity]);
}

/** An estimate with the wider side of its limits. */
function estimateWords({ value, low, high, unit }: Settled["estimates"][number]): string {
  return withLimits(value, Math.max(high - value, value - low), unit)
    .replace("± ", "±")
    .replace("±\u00a0", "±");
}

/** `R1 220 Ω`, `F1 1 A`, `BT1 24 V`, `R7 ? ≈ 330 ±12 Ω`: designator and main value, as one would say it. */
export function labelOf(
  { name, part, law }: Branch,
  settled: Settled | null = null,
  { switches = {}, values = {} }: Configuration = {},
): string {
  const estimate = settled?.estimates.find((e) => e.designator === part.designator);
  if (estimate) return `${name} ? ${estimate.isSettled ? `≈ ${estimateWords(estimate)}` : ""}`.trim();
  const value = () => {
    if (switches[part.designator]) return switches[part.designator];
    const now = values[part.designator];
    if (now !== undefined) return `now ${print(now, unitOfValue(part.kind))}`;
    if (law.kind === "supply") return print(law.volts, "V");
    if ("material" in part || part.kind === "capacitor") return valueLabel(part);
    if (law.kind === "open") return "open";
    // What bends has no ohms to be named by.
    if (bends(law) && "resistance" in part && part.resistance.by === "rating")
      return `${print(part.resistance.volts, "V")} ${print(part.resistance.watts, "W")}`;
    if (part.kind === "fuse") return part.currentRating ? print(part.currentRating, "A") : "";
    if (part.kind === "switch") return "closed";
    if (rowOf(part.kind).isContact || name.endsWith(".wiper")) return "";
    return print(Number(ohmsOf(law).toPrecision(4)), "ohm");
  };
  return `${name} ${value()}`.trim();
}

/** What a screen reader says of a part or a node. */
export function sayBranch(branch: Branch, network: Network, facts: BranchFacts): string {
  return [
    `${facts.label}, from ${network.nodes[branch.from]} to ${network.nodes[branch.to]}`,
    facts.expected && `expected current ${facts.expected}`,
    facts.read && `read ${facts.read}`,
    facts.imagined && `imagined ${facts.imagined.mark ? `${facts.imagined.mark}, ` : ""}${facts.imagined.text}`,
    facts.odd && `odd: ${facts.odd}`,
    facts.suspicion >= 0.001 && `suspected, ${percent(facts.suspicion)}`,
  ]
    .filter(Boolean)
    .join(", ");
}

export function sayNode(facts: NodeFacts, called = ""): string {
  const off = facts.deviation === 0 ? "" : facts.deviation > 0 ? ", too high" : ", too low";
  return [
    `node ${facts.name}${called === "" ? "" : `, ${called}`}`,
    facts.expected && `expected ${facts.expected}`,
    facts.read && `read ${facts.read}${off}`,
    facts.imagined && `imagined ${facts.imagined.text}`,
  ]
    .filter(Boolean)
    .join(", ");
}
