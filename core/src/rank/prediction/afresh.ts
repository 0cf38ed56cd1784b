import { DRAWN, type Network } from "../../circuit/index.ts";
import type { FaultAt } from "../../faults/index.ts";
import { type Probe, rangeName } from "../../measure/index.ts";
import { KEEPS_VOLTS } from "./change.ts";
import type { Parameter } from "./parameters.ts";

/** A network with its parts off their nominal values. @param factors of each parameter's nominal value */
export function networkAt(network: Network, parameters: readonly Parameter[], factors: Float64Array): Network {
  const branches = network.branches.map((branch, k) => {
    const own = parameters.flatMap((p, i) =>
      p.branch === k && factors[i] !== 1 ? [[p.piece, factors[i]] as const] : [],
    );
    return own.length > 0 ? { ...branch, deviations: new Map(own) } : branch;
  });
  return { ...network, branches };
}

/** The reading on the very range it was taken on, whatever another circuit would suggest. */
export function onRange({ reading, range }: Probe): Probe["reading"] {
  return reading.range === undefined && reading.quantity === "current"
    ? { ...reading, range: rangeName(range.span, reading.quantity) }
    : reading;
}

/** Sensitivities, rows × parameters. */
interface Sensitive {
  readonly parameters: readonly Parameter[];
  readonly j: Float64Array;
}

/**
 * Brings the sensitivities of a fresh solution's parameters to those of the same name in `to`, whose others are zero.
 * @param factors of the parameters' nominal values, where these were moved: sensitivities stay per nominal deviation
 */
export function bringSensitivities(
  from: Sensitive,
  to: Sensitive & { readonly rows: number },
  faults: readonly FaultAt[],
  factors?: Float64Array,
) {
  const modes = new Map(faults.map((f) => [f.site.branch, f.site.mode]));
  const P = to.parameters.length;
  const Q = from.parameters.length;
  const columns: number[][] = [];
  for (let q = 0; q < Q; q += 1) {
    columns[from.parameters[q].branch] ??= [];
    columns[from.parameters[q].branch].push(q);
  }
  to.j.fill(0);
  to.parameters.forEach(({ branch, acts, piece }, p) => {
    // What stands in the place of a broken part is good, whatever the fault.
    const mode = piece === DRAWN ? modes.get(branch) : undefined;
    if (mode !== undefined && !(KEEPS_VOLTS.has(mode) && acts === "volts")) return;
    const column = columns[branch]?.find((q) => from.parameters[q].acts === acts && from.parameters[q].piece === piece);
    if (column === undefined) return;
    const perDeviation = 1 / (factors?.[p] ?? 1);
    for (let r = 0; r < to.rows; r += 1) to.j[r * P + p] = from.j[r * Q + column] * perDeviation;
  });
}
