import type { Circuit, Part } from "../../circuit/index.ts";
import { factorInPlace, solveFactoredInPlace } from "../../kernels/index.ts";

/** Tolerance that stands for "not known" in a ranking: two standard deviations. */
export const WIDE = 0.95;

/** A part whose value was left open: ln ohms, or a supply's volts. */
export type Unknown = { readonly part: Part; readonly isSupply: boolean };

export function unknownParts(circuit: Circuit): Unknown[] {
  return circuit.parts.flatMap((part): Unknown[] => {
    if (part.kind === "supply") return part.volts === null ? [{ part, isSupply: true }] : [];
    return "resistance" in part && part.resistance.by === "unknown" ? [{ part, isSupply: false }] : [];
  });
}

/** The circuit with values in place of the unknowns: ln ohms, or volts. */
export function withValues(
  circuit: Circuit,
  unknowns: readonly Unknown[],
  at: readonly number[],
  tolerance: number,
): Circuit {
  const values = new Map(unknowns.map(({ part }, u) => [part.designator, at[u]]));
  const parts = circuit.parts.map((part): Part => {
    const value = values.get(part.designator);
    if (value === undefined) return part;
    if (part.kind === "supply") return { ...part, tolerance, volts: Math.abs(value) < 1e-3 ? 1e-3 : value };
    if ("resistance" in part) return { ...part, tolerance, resistance: { by: "ohms", ohms: Math.exp(value) } };
    return part;
  });
  return { ...circuit, parts };
}

/** A⁻¹·b for a positive definite A (n × n, row-major), by Cholesky. */
export function solvePositive(a: Float64Array, b: Float64Array): Float64Array {
  const l = Float64Array.from(a);
  factorInPlace(l, b.length);
  const x = Float64Array.from(b);
  solveFactoredInPlace(l, x);
  return x;
}
