import { DEFAULTS, type Law, type Network } from "../../circuit/index.ts";
import { faultedLaw, type Site } from "../../faults/index.ts";
import type { NodePair } from "../../measure/index.ts";
import type { MeterData, NumericReading } from "../../record/index.ts";

/**
 * Readings the plain way: one matrix for each of them with the meter drawn in as a part, solved by elimination. Nothing
 * of it is shared with the engine. A leak of 1 fS holds floating nodes. Linear laws only.
 */
export function plainReadings(
  network: Network,
  laws: readonly Law[],
  bridges: readonly NodePair[],
  readings: readonly NumericReading[],
  meter: MeterData,
): number[] {
  const wires = bridges.map(([from, to]) => ({ from, to, p: 1, q: DEFAULTS.shortOhms, s: 0 }));
  return readings.map((reading) => {
    const off = reading.quantity === "resistance";
    const branches = network.branches.map(({ from, to, kind }, k) => {
      const law = laws[k];
      if (law.kind === "open" || (off && kind === "supply")) return { from, to, p: 0, q: 1, s: 0 };
      if (law.kind === "resistance") return { from, to, p: 1, q: law.ohms, s: 0 };
      if (law.kind === "supply") return { from, to, p: 1, q: law.ohms, s: law.volts };
      throw new Error("the plain way knows no filaments");
    });
    const all = [...branches, ...wires];
    if (reading.quantity === "current") {
      const k = network.branches.findIndex((b) => b.name === reading.through);
      all[k] = { ...all[k], q: all[k].q + (all[k].p === 0 ? 0 : meter.burdenOhms) };
      const amps = solve(network.nodes.length, network.reference, all, [])[network.nodes.length + k];
      return network.branches[k].kind === "supply" ? -amps : amps;
    }
    const a = network.nodes.indexOf(reading.from as never);
    const b = reading.to === undefined ? network.reference : network.nodes.indexOf(reading.to);
    if (!off && Number.isFinite(meter.inputOhms)) all.push({ from: a, to: b, p: 1, q: meter.inputOhms, s: 0 });
    const x = solve(network.nodes.length, network.reference, all, off ? [a, b] : []);
    return x[a] - x[b];
  });
}

/** Laws of a network with faults at given values, parts at given factors of their nominal values. */
export function plainLaws(
  network: Network,
  faults: readonly { readonly site: Site; readonly value: number }[],
  factors: readonly number[],
): Law[] {
  return network.branches.map((branch, k) => {
    const moved = { ...branch, law: scale(branch.law, factors[k]) };
    const fault = faults.find((f) => f.site.branch === k);
    return fault ? faultedLaw(moved, fault.site.mode, fault.value) : moved.law;
  });
}

function scale(law: Law, factor: number): Law {
  if (law.kind === "resistance") return { ...law, ohms: law.ohms * factor };
  return law.kind === "supply" ? { ...law, volts: law.volts * factor } : law;
}

interface PlainBranch {
  readonly from: number;
  readonly to: number;
  readonly p: number;
  readonly q: number;
  readonly s: number;
}

const LEAK = 1e-15;

function solve(N: number, reference: number, branches: readonly PlainBranch[], injected: readonly number[]): number[] {
  const n = N + branches.length;
  const m = Array.from({ length: n }, () => new Float64Array(n + 1));
  for (let node = 0; node < N; node += 1) m[node][node] = LEAK;
  branches.forEach(({ from, to, p, q, s }, k) => {
    m[from][N + k] += 1;
    m[to][N + k] -= 1;
    m[N + k][from] += p;
    m[N + k][to] -= p;
    m[N + k][N + k] = -q;
    m[N + k][n] = s;
  });
  if (injected.length === 2) {
    m[injected[0]][n] += 1;
    m[injected[1]][n] -= 1;
  }
  m[reference].fill(0);
  m[reference][reference] = 1;
  for (let col = 0; col < n; col += 1) {
    let best = col;
    for (let row = col + 1; row < n; row += 1) if (Math.abs(m[row][col]) > Math.abs(m[best][col])) best = row;
    [m[col], m[best]] = [m[best], m[col]];
    for (let row = col + 1; row < n; row += 1) {
      const f = m[row][col] / m[col][col];
      if (f === 0) continue;
      for (let k = col; k <= n; k += 1) m[row][k] -= f * m[col][k];
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let row = n - 1; row >= 0; row -= 1) {
    let sum = m[row][n];
    for (let k = row + 1; k < n; k += 1) sum -= m[row][k] * x[k];
    x[row] = sum / m[row][row];
  }
  return x;
}
