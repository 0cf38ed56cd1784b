import { buildNetwork } from "@hound/core/circuit";
import { bridgeCandidates, priorData } from "@hound/core/faults";
import { prepare, quantiles, rankingOf, weighToEnd } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { drawCircuit, FaultDrawer, seededRandom, takeReadings } from "@hound/core/simulate";
import { row } from "./timing.ts";

/**
 * Do the numbers mean what they say? Circuits, faults, tolerances, meter errors and slips are drawn from the very priors
 * the ranking believes in; suspects given p should be true in a fraction p, parts said to be changed with p have a fault
 * in a fraction p, and the middle 80 % of a drifted value hold the true one in 80 %. `HOUND_CASES=2000`.
 */
const CASES = Number(process.env.HOUND_CASES ?? 2000);
const EDGES = [0, 0.01, 0.03, 0.1, 0.2, 0.4, 0.6, 0.8, 0.9, 0.97, 1.0001];

const random = seededRandom(77);
const priors = priorData({ healthy: 0.05 });
const binsOf = () => EDGES.slice(1).map(() => ({ claimed: 0, true: 0, count: 0 }));
const bins = binsOf();
const firsts = binsOf();
const changes = binsOf();
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
  const owners = faults.map(({ site }) => network.branches[site.branch]?.part.designator);
  for (const { repair, probability } of rankingOf(weighing, 0).repairs) {
    if (repair.length !== 1 || "nodes" in repair[0]) continue;
    const bin = changes[EDGES.findIndex((edge) => probability < edge) - 1];
    bin.claimed += probability;
    bin.true += Number(owners.includes(repair[0].part));
    bin.count += 1;
  }
  for (const hypothesis of weighing.hypotheses) {
    // The meter is a good one in all of them.
    const isTrue = !hypothesis.hypothesis.meter && key(hypothesis.hypothesis.sites) === truth;
    const at = EDGES.findIndex((edge) => hypothesis.probability < edge) - 1;
    for (const bin of hypothesis === weighing.hypotheses[0] ? [bins[at], firsts[at]] : [bins[at]]) {
      bin.claimed += hypothesis.probability;
      bin.true += Number(isTrue);
      bin.count += 1;
    }
    if (!isTrue || faults.length !== 1 || !faults[0].site.value) continue;
    drifts += 1;
    const [low, high] = quantiles(hypothesis.cells, 0, [0.1, 0.9])
      .map(faults[0].site.value)
      .sort((a, b) => a - b);
    inside += Number(low <= faults[0].value && faults[0].value <= high);
  }
}

/** Prints bins. @returns sums of how far they are off, of what chance alone would put them off, and of what they claim */
function print(list: typeof bins) {
  const sum = { error: 0, chance: 0, claimed: 0, count: 0 };
  row("claimed", "true", "suspects", "in the bin");
  list.forEach((bin, i) => {
    if (bin.count === 0) return;
    sum.error += Math.abs(bin.claimed - bin.true);
    // Mean size of a normal deviate with the variance that chance alone gives this bin.
    const p = bin.claimed / bin.count;
    sum.chance += Math.sqrt((2 / Math.PI) * bin.count * p * (1 - p));
    sum.claimed += bin.claimed;
    sum.count += bin.count;
    row(bin.claimed / bin.count, bin.true / bin.count, `${bin.count}`, `${EDGES[i]} to ${Math.min(1, EDGES[i + 1])}`);
  });
  row("");
  return sum;
}

const all = print(bins);
row("of every first suspect");
const first = print(firsts);
row("of every part, that it is to be changed");
const part = print(changes);
row("expected calibration error", "", "by chance alone");
row("every suspect, by count", all.error / all.count, all.chance / all.count);
row("every suspect, by mass", all.error / all.claimed, all.chance / all.claimed);
row("every part, by count", part.error / part.count, part.chance / part.count);
row("every part, by mass", part.error / part.claimed, part.chance / part.claimed);
row("first suspects, by count", first.error / first.count, first.chance / first.count);
row("true drift within the middle 80 %", `${((100 * inside) / drifts).toFixed(1)} % of ${drifts}`);
