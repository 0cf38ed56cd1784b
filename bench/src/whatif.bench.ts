import { readFileSync } from "node:fs";
import { join } from "node:path";
import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { readTrail } from "@hound/core/notation";
import { prepare, rankFaults } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { drawCircuit, FaultDrawer, seededRandom, takeReadings } from "@hound/core/simulate";
import { baseOf, compareWith, FitBench, type Supposed, signaturesOf } from "@hound/core/whatif";
import { drawnInput, withJunctions } from "./cases.ts";
import { median, row, times } from "./timing.ts";

/** What-if: signatures, one step of a dragged value, and whether what is set is found again. Milliseconds and cases. */
const ROOT = join(import.meta.dirname, "../..");
const forty = readTrail(readFileSync(join(ROOT, "demo/circuits/10-propagation-bench.trail"), "utf8"))
  .circuit as Circuit;

row("signatures", "faults", "points", "median", "slowest");
for (const [name, circuit, count] of [
  ["40 parts", forty, 9],
  ["160 parts", drawCircuit(160, seededRandom(3)), 3],
] as const) {
  const found = signaturesOf({ circuit, readings: [] });
  if (found.kind === "problem") throw new Error(found.message);
  const took = times(count, () => void signaturesOf({ circuit, readings: [] }));
  row(name, found.rows.length, found.points.length, median(took), Math.max(...took));
}

// One step of a drag on forty parts with twenty readings: the circuit afterwards and the fit.
row("");
row("one step of a drag", "median", "slowest");
for (const [name, input] of [
  ["", drawnInput(40, 20, 1)],
  [", four junctions", drawnInput(40, 20, 1, withJunctions(4))],
] as const) {
  const network = buildNetwork(input.circuit);
  const base = baseOf(network);
  if (base.kind === "unsolved") throw new Error(base.why);
  const part = network.branches.find((b) => b.kind === "resistor")?.name ?? "";
  const bench = new FitBench(input);
  const drag = (i: number): Supposed[] => [{ part, mode: "high", value: 1000 * 1.02 ** i }];
  bench.of(drag(0));
  let step = 0;
  const circuitSteps = times(200, () => void compareWith(base, drag(step++)));
  row(`circuit${name}`, median(circuitSteps), Math.max(...circuitSteps));
  const fitSteps = times(200, () => void bench.of(drag(step++)));
  row(`fit${name}`, median(fitSteps), Math.max(...fitSteps));
}

// Two faults drawn, read at every node, ranked: what was set leads or ties (within the leader's third).
const random = seededRandom(20);
let cases = 0;
let leads = 0;
let ties = 0;
while (cases < 300) {
  const circuit = drawCircuit(4 + (cases % 8), random);
  const net = buildNetwork(circuit);
  const prepared = prepare({ circuit, readings: [], priors: { healthy: 1e-9, doubleShare: 1 - 1e-9, blunder: 0 } });
  if (prepared.kind === "problem") continue;
  const faults = new FaultDrawer(prepared).draw(random);
  const points = net.nodes.flatMap((from, n): NumericReading[] =>
    n === net.reference || from.includes(".") ? [] : [{ quantity: "voltage", from, value: 0 }],
  );
  const options = { meter: meterData({}), bridges: prepared.set.bridges, blunder: 0, counts: 6000 };
  const taken = takeReadings(net, faults, points, options, random);
  if (!taken) continue;
  const ranking = rankFaults({ circuit, readings: taken.map((t) => t.reading) });
  if (ranking.kind === "problem") throw new Error(ranking.message);
  const named = (f: (typeof ranking.suspects)[number]["faults"]) =>
    f
      .map((x) => ("nodes" in x ? [...x.nodes].sort().join("~") : x.part))
      .sort()
      .join();
  const set = faults.map(({ site, value }): Supposed => {
    if (site.branch < 0) {
      const [x, y] = prepared.set.bridges[site.bridge].map((n) => net.nodes[n]);
      return { nodes: [x, y], mode: "bridged" };
    }
    const { name } = net.branches[site.branch];
    return { part: name, mode: site.mode as never, ...(site.value ? { value } : {}) };
  });
  const own = set
    .map((f) => ("nodes" in f ? [...f.nodes].sort().join("~") : f.part))
    .sort()
    .join();
  const [best] = ranking.suspects;
  const at = ranking.suspects.find((s) => named(s.faults) === own);
  cases += 1;
  if (at && at.probability >= best.probability / 3) {
    leads += 1;
    continue;
  }
  // Less explains it as well: held against each other without priors, what leads speaks no clearer than what was set.
  const leader = best.faults.flatMap((f): Supposed[] =>
    "nodes" in f
      ? [{ nodes: f.nodes, mode: "bridged" }]
      : f.mode === "misplaced"
        ? []
        : [
            {
              part: f.part,
              mode: f.part.endsWith(".wiper") ? "wiperOpen" : (f.mode as never),
              ...(f.value === undefined ? {} : { value: f.value }),
            },
          ],
  );
  const fit = new FitBench({ circuit, readings: taken.map((t) => t.reading) }).of(set, leader);
  if (fit.kind === "fit" && fit.bits > -3) ties += 1;
}
row("");
row("two faults set, read at every node, ranked", cases);
row("both lead, or come within a third", leads);
row("what leads instead explains it no better", ties);
