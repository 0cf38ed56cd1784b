import { buildNetwork } from "@hound/core/circuit";
import { expectChart, type Window } from "@hound/core/rank";
import { drawCircuit, monteCarlo, seededRandom } from "@hound/core/simulate";
import { solveNetwork } from "@hound/core/solve";
import { withJunctions } from "./cases.ts";
import { median, row, times } from "./timing.ts";

/**
 * Monte Carlo of 10,000 draws, against the same draws each solved afresh (timed on 200 of them);
 * milliseconds, medians over drawn circuits.
 */
const DRAWS = 10_000;
const AFRESH = 200;

function drawAll(network: ReturnType<typeof buildNetwork>, draws = DRAWS) {
  const run = monteCarlo(network, draws, seededRandom(1));
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

/**
 * Windows of the chart of circuits with junctions, as drawn and as a line would have them, against the middle 95.4 of a
 * hundred of thousands of draws: how many ends are off by more than a fifth of the width. Milliseconds of a chart besides.
 */
const CIRCUITS = Number(process.env.HOUND_CIRCUITS ?? 60);
const SAMPLE = 4000;
const UNSEEN = 2e-6;

const counts = { figures: 0, drawn: 0, off: 0, offAsLine: 0 };
const timesOfCharts: number[] = [];
for (let seed = 1; seed <= CIRCUITS; seed += 1) {
  const random = seededRandom(seed);
  const circuit = withJunctions(2 + (seed % 4))(drawCircuit(5 + (seed % 9), random), random);
  const network = buildNetwork(circuit);
  const start = performance.now();
  const chart = expectChart(network);
  timesOfCharts.push(performance.now() - start);
  if (!chart) continue;
  const samples = drawAll(network, SAMPLE);
  const [N, B] = [network.nodes.length, network.branches.length];
  const hold = ({ value, two, drawn }: Window, of: (draw: number) => number) => {
    const rising = Array.from({ length: SAMPLE }, (_, d) => of(d)).sort((a, b) => a - b);
    const [low, high] = [0.02275, 0.97725].map((q) => rising[Math.round(q * (SAMPLE - 1))]);
    const isOff = (own: { low: number; high: number }) =>
      Math.max(Math.abs(own.low - low), Math.abs(own.high - high)) > 0.2 * (high - low) + UNSEEN;
    const line = { low: value - two, high: value + two };
    counts.figures += 1;
    if (drawn) counts.drawn += 1;
    if (isOff(drawn?.likely ?? line)) counts.off += 1;
    if (isOff(line)) counts.offAsLine += 1;
  };
  network.nodes.forEach((_, n) => {
    const { volts } = samples;
    if (n !== network.reference) hold(chart.nodes[n], (d) => volts[d * N + n] - volts[d * N + network.reference]);
  });
  network.branches.forEach(({ kind }, k) => {
    if (kind !== "supply") hold(chart.branches[k].amps, (d) => samples.amps[d * B + k]);
  });
}
row("");
row("windows", "drawn", "off", "off as lines", "a chart", "slowest");
const { figures, drawn, off, offAsLine } = counts;
row(`${figures}`, `${drawn}`, `${off}`, `${offAsLine}`, median(timesOfCharts), Math.max(...timesOfCharts));
