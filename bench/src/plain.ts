import { buildNetwork, type Law, lawOf, type Network, ohmsOf } from "@hound/core/circuit";
import { priorData, sitesOf } from "@hound/core/faults";
import { AS_DRAWN } from "@hound/core/measure";
import type { RankInput } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { CholeskyDecomposition, LuDecomposition, Matrix } from "ml-matrix";

/** Points along an unknown value: as many as the engine starts with. */
const POINTS = 6;

/**
 * Single faults the plain way: every hypothesis builds its tableau and factorises it with ml-matrix, gets sensitivities
 * by one adjoint solution a reading, and its density by a Cholesky factor. No mis-taken readings, no refinement: less
 * than the engine does.
 */
export function plainSingles({ circuit, readings, meter, priors }: RankInput): number[] {
  const network = buildNetwork(circuit);
  const numeric = readings.filter((r): r is NumericReading => r.quantity !== "observation");
  const laws = network.branches.map((b) => b.law);
  const data = meterData(meter);
  const density = (faulted: readonly Law[]) => logDensity(network, faulted, numeric, data.inputOhms, data.burdenOhms);
  const masses = [density(laws)];
  for (const site of sitesOf(network, [], priorData(priors))) {
    const at = site.value ? Array.from({ length: POINTS }, (_, i) => (i + 0.5) / POINTS) : [0];
    for (const t of at) {
      const value = site.value?.(t) ?? 0;
      const faulted = laws.map((law, k) =>
        k === site.branch ? lawOf(network.branches[k], AS_DRAWN, { mode: site.mode, value }) : law,
      );
      masses.push(density(faulted));
    }
  }
  return masses;
}

/** The tableau A·x = z of a network with a small leak at each node, so that nothing floats. */
function tableau(network: Network, laws: readonly Law[]): { a: Matrix; z: Matrix } {
  const N = network.nodes.length;
  const n = N + network.branches.length;
  const a = Matrix.zeros(n, n);
  const z = Matrix.zeros(n, 1);
  for (let node = 0; node < N; node += 1) a.set(node, node, 1e-12);
  network.branches.forEach(({ from, to }, k) => {
    const law = laws[k];
    a.set(from, N + k, a.get(from, N + k) + 1);
    a.set(to, N + k, a.get(to, N + k) - 1);
    const p = law.kind === "open" ? 0 : 1;
    a.set(N + k, from, p);
    a.set(N + k, to, -p);
    a.set(N + k, N + k, law.kind === "open" ? 1 : -ohmsOf(law));
    if (law.kind === "supply") z.set(N + k, 0, law.volts);
  });
  for (let col = 0; col < n; col += 1) a.set(network.reference, col, col === network.reference ? 1 : 0);
  return { a, z };
}

function logDensity(
  network: Network,
  laws: readonly Law[],
  readings: readonly NumericReading[],
  inputOhms: number,
  burdenOhms: number,
): number {
  const N = network.nodes.length;
  const { a, z } = tableau(network, laws);
  const lu = new LuDecomposition(a);
  const x = lu.solve(z).to1DArray();
  // One solution of the transposed system gives a reading's sensitivity to every branch equation.
  const transposed = new LuDecomposition(a.transpose());
  const picks = Matrix.zeros(a.rows, readings.length);
  readings.forEach((r, i) => {
    if (r.quantity === "current") picks.set(N + network.branches.findIndex((b) => b.name === r.through), i, 1);
    else if (r.from) picks.set(network.nodes.indexOf(r.from), i, 1);
  });
  const adjoint = transposed.solve(picks);
  const residual = readings.map((r, i) => {
    const value = picks.getColumn(i).reduce((s, w, k) => s + w * x[k], 0);
    const loading = r.quantity === "current" ? 1 / (1 + burdenOhms * 1e-6) : 1 / (1 + 1 / inputOhms);
    return r.value - value * loading;
  });
  const J = new Matrix(
    readings.map((_, i) =>
      network.branches.map((b, k) => {
        const law = laws[k];
        const size = law.kind === "supply" ? law.volts : law.kind === "resistance" ? law.ohms * x[N + k] : 0;
        return adjoint.get(N + k, i) * size * (b.part.tolerance / 2);
      }),
    ),
  );
  const c = J.mmul(J.transpose());
  readings.forEach((r, i) => {
    const sigma = Math.max((r.plusMinus ?? 0.01) / 2, 1e-6);
    c.set(i, i, c.get(i, i) + sigma * sigma);
  });
  // Rounding leaves the product a hair off symmetry, which the library refuses.
  const symmetric = Matrix.add(c, c.transpose()).mul(0.5);
  const cholesky = new CholeskyDecomposition(symmetric);
  const solved = cholesky.solve(Matrix.columnVector(residual)).to1DArray();
  const quadratic = solved.reduce((s, v, i) => s + v * residual[i], 0);
  const lower = cholesky.lowerTriangularMatrix;
  const logDet = lower.diagonal().reduce((s, v) => s + Math.log(v), 0);
  return -0.5 * quadratic - logDet;
}
