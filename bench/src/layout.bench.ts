import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { layoutBoard } from "@hound/core/layout";
import { readTrail } from "@hound/core/notation";
import { fewestHops, linearCircuits } from "@hound/core/test";
import fc from "fast-check";
import { median, row, times } from "./timing.ts";

/**
 * Hops of the board against the fewest that any order of the nodes allows with rows packed as tightly as the board
 * packs them, for networks of up to eight nodes; and how long a layout takes as networks grow.
 */
const CASES = 300;

row("parts", "networks", "hops, mean", "fewest, mean", "as few or fewer");
for (const most of [8, 11, 14]) {
  const networks = fc
    .sample(linearCircuits({ most }), { numRuns: CASES, seed: 5 })
    .map(buildNetwork)
    .filter((n) => n.nodes.length <= 8);
  const pairs = networks.map((n) => ({ ours: layoutBoard(n).hopCount, fewest: fewestHops(n) }));
  const mean = (pick: (p: (typeof pairs)[number]) => number) => pairs.reduce((s, p) => s + pick(p), 0) / pairs.length;
  const asFew = pairs.filter((p) => p.ours <= p.fewest).length;
  row(
    `${most}`,
    `${pairs.length}`,
    mean((p) => p.ours),
    mean((p) => p.fewest),
    `${((100 * asFew) / pairs.length).toFixed(0)} %`,
  );
}

row("");
row("parts", "layout, ms");
for (const most of [10, 20, 40, 80]) {
  const [network] = fc.sample(linearCircuits({ most }), { numRuns: 1, seed: 2 }).map(buildNetwork);
  row(`${network.branches.length}`, median(times(5, () => layoutBoard(network))));
}

row("");
row("parts in a ladder", "layout, ms");
for (const rungs of [13, 100]) {
  const parts = Array.from(
    { length: rungs },
    (_, i) => `R${3 * i + 1} 10 + [N${i}] (R${3 * i + 2} 1k | R${3 * i + 3} 2k2)`,
  );
  const trail = `BT1 9V: ${parts.join(" + ")}\n[N1] R901 5 [N${rungs - 2}]`;
  const network = buildNetwork(readTrail(trail).circuit as Circuit);
  row(`${network.branches.length}`, median(times(5, () => layoutBoard(network))));
}
