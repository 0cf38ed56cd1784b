import { buildNetwork } from "@hound/core/circuit";
import { bridgeCandidates, type FaultAt } from "@hound/core/faults";
import { prepare } from "@hound/core/rank";
import { meterData, type NumericReading, type Reading, type Repaired } from "@hound/core/record";
import { type ProofInput, proofSet, proofVerdict } from "@hound/core/repair";
import { drawCircuit, FaultDrawer, seededRandom, takeReadings } from "@hound/core/simulate";
import { row } from "./timing.ts";

/**
 * Repaired circuits of 5 to 14 parts, and what proves them: how many readings that takes beside reading every node, how
 * many second faults that some node's reading shows are caught, and how often a good repair is called in question.
 * `HOUND_CIRCUITS=200`.
 */
const CIRCUITS = Number(process.env.HOUND_CIRCUITS ?? 200);
const PLANTED = 10;
const METER = {};

const random = seededRandom(20261128);
let readings = 0;
let nodes = 0;
let beyond = 0;
let ms = 0;
const tally = { shown: 0, caught: 0, good: 0, questioned: 0, everyNodeQuestioned: 0, inHidden: 0 };
const missed: string[] = [];

for (let c = 0; c < CIRCUITS; ) {
  const circuit = drawCircuit(5 + Math.floor(random.next() * 10), random);
  const network = buildNetwork(circuit);
  const prepared = prepare({ circuit, readings: [], priors: { healthy: 1e-6, doubleShare: 0 } });
  if (prepared.kind === "problem") continue;
  const drawer = new FaultDrawer(prepared);
  const named = (faults: readonly FaultAt[]) =>
    faults.map(({ site, value }): Repaired => {
      if (site.branch >= 0) return { part: network.branches[site.branch].name, mode: site.mode, value };
      const [a, b] = prepared.set.bridges[site.bridge];
      return { nodes: [network.nodes[a], network.nodes[b]], mode: "bridged" };
    });
  const first = drawer.draw(random);
  const data = meterData(METER);
  const every: NumericReading[] = network.nodes.flatMap((from, n) =>
    n === network.reference ? [] : [{ quantity: "voltage", from, value: 0 }],
  );
  const repaired = named(first).flatMap((f) => ("part" in f ? [String(f.part).split(".")[0]] : []));
  const input: ProofInput = { circuit, meter: METER, repaired, mattered: [named(first)] };
  const start = performance.now();
  const set = proofSet(input);
  ms += performance.now() - start;
  if (set.kind === "problem") continue;
  c += 1;
  readings += set.readings.length;
  nodes += every.length;
  if (set.readings.length > 0.6 * every.length) beyond += 1;
  const points = set.readings.map((r) => r.measurement.reading);
  const options = { meter: data, bridges: bridgeCandidates(network), blunder: 0, counts: 6000 };
  const judge = (taken: readonly Reading[]) => {
    const verdict = proofVerdict(input, set, taken, []);
    if (verdict.kind === "problem") throw new Error(verdict.message);
    return verdict;
  };
  for (let p = 0; p <= PLANTED; p += 1) {
    const faults = p === 0 ? [] : drawer.draw(random);
    const taken = takeReadings(network, faults, [...every, ...points], options, random)?.map((t) => t.reading);
    if (!taken) continue;
    const [full, own] = [taken.slice(0, every.length), taken.slice(every.length)];
    const isShown = judge(full).rows.some((r) => r.index !== null && r.says === "disagrees");
    const found = judge(own);
    if (p === 0) {
      tally.good += 1;
      if (found.kind !== "repaired") tally.questioned += 1;
      if (isShown) tally.everyNodeQuestioned += 1;
      continue;
    }
    if (isShown) {
      tally.shown += 1;
      if (found.kind !== "repaired") tally.caught += 1;
      else missed.push(JSON.stringify(named(faults)));
    } else if (found.kind !== "repaired") tally.inHidden += 1;
  }
}
row("proof: readings beside reading every node", `${((100 * readings) / nodes).toFixed(1)} %`);
row("  circuits in which it takes more than 60 %", `${beyond} of ${CIRCUITS}`);
row(
  "  second faults that some node shows, caught",
  `${tally.caught} of ${tally.shown} (${((100 * tally.caught) / tally.shown).toFixed(2)} %)`,
);
row("  caught besides, that no node shows", `${tally.inHidden}`);
row(
  "  good repairs called in question",
  `${tally.questioned} of ${tally.good} (every node: ${tally.everyNodeQuestioned})`,
);
row("  planning one, mean", `${(ms / CIRCUITS).toFixed(0)} ms`);
for (const one of missed.slice(0, 10)) row("  missed", one);
