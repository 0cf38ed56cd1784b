import { buildNetwork } from "@hound/core/circuit";
import { bridgeCandidates, priorData } from "@hound/core/faults";
import { prepare, weighToEnd } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { drawCircuit, FaultDrawer, seededRandom, takeReadings } from "@hound/core/simulate";
import { row } from "./timing.ts";

/**
 * Do the numbers mean what they say? Circuits, faults, tolerances, meter errors and slips are drawn from the very priors
 * the ranking believes in; suspects given p should be true in a fraction p, and the middle 80 % of a drifted value hold
 * the true one in 80 %. `HOUND_CASES=2000`.
 */
const CASES = Number(process.env.HOUND_CASES ?? 2000);
const EDGES = [0, 0.01, 0.03, 0.1, 0.2, 0.4, 0.6, 0.8, 0.9, 0.97, 1.0001];

const random = seededRandom(77);
const priors = priorData({ healthy: 0.05 });
const bins = EDGES.slice(1).map(() => ({ claimed: 0, true: 0, count: 0 }));
let inside = 0;
let drifts = 0;
for (let n = 0; n < CASES; n += 1) {
  const circuit = drawCircuit(4 + Math.floor(random.next() * 6), random);
  const network = buildNetwork(circuit);
  const bridges = bridgeCandidates(network);
  const prepared = prepare({ circuit, readings: [], priors: { healthy: 0.05 } });
  if (prepared.kind === "problem") continue;
  const faults = new FaultDrawer(prepared).draw(random);
  const nodes = network.nodes.filter((node) => node !== circuit.reference);
  const points = Array.from({ length: 2 + Math.floor(random.next() * 5) }, (): NumericReading => {
    const part = circuit.parts[Math.floor(random.next() * circuit.parts.length)];
    if (random.next() < 0.25) return { quantity: "current", through: part.designator, value: 0 };
    return { quantity: "voltage", from: nodes[Math.floor(random.next() * nodes.length)], value: 0 };
  });
  const options = { meter: meterData({}), bridges, blunder: priors.blunder, counts: 6000 };
  const taken = takeReadings(network, faults, points, options, random);
  if (!taken) continue;
  const weighing = weighToEnd({ circuit, readings: taken.map((t) => t.reading), priors: { healthy: 0.05 } });
  if (weighing.kind === "problem") continue;
  const key = (sites: readonly { branch: number; bridge: number; mode: string }[]) =>
    sites
      .map((s) => `${s.branch} ${s.bridge} ${s.mode}`)
      .sort()
      .join("|");
  const truth = key(faults.map((f) => f.site));
  for (const hypothesis of weighing.hypotheses) {
    const isTrue = key(hypothesis.hypothesis.sites) === truth;
    const bin = bins[EDGES.findIndex((edge) => hypothesis.probability < edge) - 1];
    bin.claimed += hypothesis.probability;
    bin.true += Number(isTrue);
    bin.count += 1;
    if (!isTrue || faults.length !== 1 || !faults[0].site.value) continue;
    drifts += 1;
    const [low, high] = middle(hypothesis.cells)
      .map(faults[0].site.value)
      .sort((a, b) => a - b);
    inside += Number(low <= faults[0].value && faults[0].value <= high);
  }
}

function middle(cells: readonly { lo: readonly number[]; hi: readonly number[]; logMass: number }[]): number[] {
  const top = Math.max(...cells.map((c) => c.logMass));
  const parts = cells
    .map((c) => ({ lo: c.lo[0], hi: c.hi[0], mass: Math.exp(c.logMass - top) }))
    .sort((a, b) => a.lo - b.lo);
  const total = parts.reduce((s, p) => s + p.mass, 0);
  return [0.1, 0.9].map((share) => {
    let sum = 0;
    for (const { lo, hi, mass } of parts) {
      if (sum + mass >= share * total) return lo + ((share * total - sum) / mass) * (hi - lo);
      sum += mass;
    }
    return 1;
  });
}

row("claimed", "true", "suspects", "in the bin");
let error = 0;
let chance = 0;
const all = bins.reduce((s, b) => s + b.claimed, 0);
const suspects = bins.reduce((s, b) => s + b.count, 0);
bins.forEach((bin, i) => {
  if (bin.count === 0) return;
  error += Math.abs(bin.claimed - bin.true);
  // Mean size of a normal deviate with the variance that chance alone gives this bin.
  const p = bin.claimed / bin.count;
  chance += Math.sqrt((2 / Math.PI) * bin.count * p * (1 - p));
  row(bin.claimed / bin.count, bin.true / bin.count, `${bin.count}`, `${EDGES[i]} to ${Math.min(1, EDGES[i + 1])}`);
});
row("");
row("expected calibration error, by mass", error / all, "by chance alone", chance / all);
row("expected calibration error, by suspect", error / suspects);
row("true drift within the middle 80 %", `${((100 * inside) / drifts).toFixed(1)} % of ${drifts}`);
