import type { Network } from "../circuit/index.ts";
import { loopsOf, nodeEquations } from "./equations.ts";
import type { Reduction } from "./steps.ts";

/** Volts and amperes of a branch from `from` to `to`, and the ohms it was worked out with. */
export interface BranchState {
  readonly volts: number;
  readonly amps: number;
}

/** A sum that has to come out, what it came to, and how far off rounding alone may put it. */
export interface Check {
  readonly kind: "loop" | "junction" | "power" | "parallel" | "series";
  readonly title: string;
  readonly terms: readonly { readonly name: string; readonly value: number }[];
  readonly unit: "V" | "A" | "W" | "ohm";
  readonly residual: number;
  readonly limit: number;
  readonly holds: boolean;
}

/**
 * Every loop's and junction's sum, total power two ways, and the bounds of composites.
 * @param round what one figure may be off by, for its size: 0 where nothing was rounded
 */
export function checksOf(
  network: Network,
  states: readonly BranchState[],
  reduction: Reduction,
  round: (size: number) => number,
): Check[] {
  const { branches, nodes } = network;
  const sum = (kind: Check["kind"], title: string, unit: Check["unit"], terms: Check["terms"]): Check => {
    const residual = terms.reduce((s, t) => s + t.value, 0);
    const size = terms.reduce((s, t) => s + Math.abs(t.value), 0);
    const limit = terms.reduce((s, t) => s + round(t.value), 0) + 1e-9 * size + 1e-15;
    return { kind, title, terms, unit, residual, limit, holds: Math.abs(residual) <= limit };
  };
  const loops = loopsOf(network).map((loop) =>
    sum(
      "loop",
      `Round ${loop.map((s) => branches[s.branch].name).join(", ")}`,
      "V",
      loop.map(({ branch, forward }) => ({
        name: branches[branch].name,
        value: forward ? states[branch].volts : -states[branch].volts,
      })),
    ),
  );
  const junctions = nodeEquations(network).map(({ node, terms }) =>
    sum(
      "junction",
      `At ${nodes[node]}`,
      "A",
      terms.map(({ branch, leaves }) => ({
        name: branches[branch].name,
        value: leaves ? states[branch].amps : -states[branch].amps,
      })),
    ),
  );
  const power = sum(
    "power",
    "Power delivered and taken in",
    "W",
    branches.map((b, k) => ({ name: b.name, value: states[k].volts * states[k].amps })),
  );
  // A product of two rounded figures is off by each figure's share.
  const powerLimit =
    power.limit +
    branches.reduce(
      (s, _, k) =>
        s + round(states[k].volts) * Math.abs(states[k].amps) + round(states[k].amps) * Math.abs(states[k].volts),
      0,
    );
  const bounds = reduction.steps.flatMap((step): Check[] => {
    if (!("result" in step)) return [];
    const { kind, parts, result } = step;
    const ohms = parts.map((p) => p.ohms);
    const edge = kind === "series" ? Math.max(...ohms) : Math.min(...ohms);
    const holds = kind === "series" ? result.ohms >= edge : result.ohms <= edge;
    const bound: Check = {
      kind,
      title:
        kind === "series"
          ? `${result.name} is above the largest of its parts`
          : `${result.name} is below the smallest of its branches`,
      terms: parts.map((p) => ({ name: p.name, value: p.ohms })),
      unit: "ohm",
      residual: result.ohms - edge,
      limit: round(result.ohms),
      holds,
    };
    return [bound];
  });
  return [
    ...loops,
    ...junctions,
    { ...power, limit: powerLimit, holds: Math.abs(power.residual) <= powerLimit },
    ...bounds,
  ];
}
