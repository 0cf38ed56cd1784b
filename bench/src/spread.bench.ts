import { buildNetwork } from "@hound/core/circuit";
import { drawCircuit, monteCarlo, seededRandom } from "@hound/core/simulate";
import { solveNetwork } from "@hound/core/solve";
import { median, row, times } from "./timing.ts";

/**
 * Monte Carlo of 10,000 draws, against the same draws each solved afresh (timed on 200 of them);
 * milliseconds, medians over drawn circuits.
 */
const DRAWS = 10_000;
const AFRESH = 200;

function drawAll(network: ReturnType<typeof buildNetwork>) {
  const run = monteCarlo(network, DRAWS, seededRandom(1));
  for (let step = run.next(); ; step = run.next()) if (step.done) return step.value;
}

row("parts", "10,000 draws", "afresh, the same", "ratio");
for (const parts of [5, 10, 20, 40]) {
  const networks = [1, 2, 3].map((seed) => buildNetwork(drawCircuit(parts, seededRandom(seed))));
  const fast = median(networks.map((n) => median(times(3, () => drawAll(n)))));
  const slow = median(
    networks.map((n) =>
      median(
        times(2, () => {
          for (let i = 0; i < AFRESH; i += 1) solveNetwork(n);
        }),
      ),
    ),
  );
  const same = (slow * DRAWS) / AFRESH;
  row(`${parts}`, fast, same, same / fast);
}
