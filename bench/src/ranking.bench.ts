import type { Circuit, NodeName } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { gramInto } from "@hound/core/kernels";
import { readTrail } from "@hound/core/notation";
import { planMeasurements } from "@hound/core/plan";
import { type RankInput, rankFaults, rankingOf, weighFaults, weighToEnd } from "@hound/core/rank";
import type { NumericReading } from "@hound/core/record";
import { drawnInput, withJunctions } from "./cases.ts";
import { plainSingles } from "./plain.ts";
import { median, row, times } from "./timing.ts";

/** Times of the ranking beside a plain version of it; milliseconds, medians over drawn circuits (and the least of them). */
const SEEDS = [1, 2, 3, 4, 5];

function firstShown(input: RankInput): number {
  const start = performance.now();
  const steps = weighFaults(input);
  let step = steps.next();
  while (!step.done && step.value.kind === "singles") step = steps.next();
  if (!step.done && step.value.kind === "pairs") rankingOf(step.value.settle());
  return performance.now() - start;
}

const least = (list: readonly number[]) => Math.min(...list);

row("parts", "readings", "singles", "(least)", "plain", "ratio", "first shown", "all pairs", "(least)", "next reading");
for (const [parts, readings, rounds, ofPairs] of [
  [14, 8, 15, 7],
  [40, 20, 9, 3],
] as const) {
  const inputs = SEEDS.map((seed) => drawnInput(parts, readings, seed));
  // A worker ranks as its user types: it has done so a hundred times before long.
  for (let k = 0; k < 20; k += 1) for (const input of inputs) rankFaults(input, { pairs: false });
  const singles = inputs.map((input) => times(rounds, () => rankFaults(input, { pairs: false })));
  const plain = inputs.map((input) => median(times(2, () => plainSingles(input))));
  const shown = inputs.map((input) => median([firstShown(input), firstShown(input), firstShown(input)]));
  const pairs = inputs.map((input) => times(ofPairs, () => rankFaults(input)));
  const next = inputs.map((input) => {
    const weighing = weighToEnd(input, { pairs: false });
    return weighing.kind === "problem" ? Number.NaN : median(times(5, () => planMeasurements(input, weighing)));
  });
  const ratio = median(singles.map((s, i) => plain[i] / median(s)));
  row(
    `${parts}`,
    `${readings}`,
    median(singles.map(median)),
    least(singles.map(least)),
    median(plain),
    ratio,
    median(shown),
    median(pairs.map(median)),
    least(pairs.map(least)),
    median(next),
  );
}

// The same with four junctions in it, beside what was there before them.
row("");
row("20 parts, 8 readings", "singles", "(least)", "all pairs", "(least)");
for (const [name, junctions] of [
  ["resistors", 0],
  ["four junctions", 4],
] as const) {
  const inputs = SEEDS.map((seed) => drawnInput(20, 8, seed, withJunctions(junctions)));
  for (let k = 0; k < 10; k += 1) for (const input of inputs) rankFaults(input, { pairs: false });
  const singles = inputs.map((input) => times(9, () => rankFaults(input, { pairs: false })));
  const pairs = inputs.map((input) => times(3, () => rankFaults(input)));
  row(name, median(singles.map(median)), least(singles.map(least)), median(pairs.map(median)), least(pairs.map(least)));
}

row("");
row("parts", "singles", "times the size before");
let before = 0;
for (const parts of [10, 20, 40, 80, 160]) {
  const input = drawnInput(parts, 12, 3);
  const time = median(times(5, () => rankFaults(input, { pairs: false })));
  row(`${parts}`, time, before ? time / before : "");
  before = time;
}
const large = drawnInput(400, 60, 3);
row("400 parts, 60 readings", median(times(3, () => rankFaults(large, { pairs: false }))));

/** Five readings with a switch closed and five more of the same circuit: with it closed still, and opened. */
const SWITCHED =
  "BT1 24V ri=0.3: F1 1A + S1 + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 1% + [E] (R6 1k | R7 2k2 + [F] R8 3k3)";
const circuit = readTrail(SWITCHED).circuit as Circuit;
const volts = (values: readonly number[], state: Configuration) =>
  ["A", "B", "C", "D", "E"].map(
    (from, i): NumericReading => ({
      quantity: "voltage",
      from: from as NodeName,
      value: values[i],
      plusMinus: 0.1,
      state,
    }),
  );
const closed = volts([23.9, 17, 9, 3.2, 2], {});
const opened = volts([0.001, 0.001, 0.001, 0.001, 0.001], { switches: { S1: "open" } });
const timeOf = (readings: readonly NumericReading[]) => {
  const input = { circuit, readings };
  for (let k = 0; k < 10; k += 1) rankFaults(input);
  return median(times(9, () => rankFaults(input)));
};
const [still, moved] = [timeOf([...closed, ...closed]), timeOf([...closed, ...opened])];
row("");
row("switch left closed", still, "opened for half", moved, "ratio", moved / still);
row("peak memory", `${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB`);

/** Multiply-adds a second of J·Jᵀ, the sum that takes most of a ranking's multiply-adds, at a size that hides all else. */
function kernelRate(): number {
  const [n, p] = [64, 64];
  const j = new Float64Array(n * p).fill(1.1);
  const out = new Float64Array((n * (n + 1)) / 2);
  const rounds = 1000;
  const time = least(
    times(5, () => {
      for (let round = 0; round < rounds; round += 1) gramInto(j, n, p, out);
    }),
  );
  return (rounds * p * (n * (n + 1))) / 2 / (time / 1000);
}

/** The same in a loop of four independent sums: what plain JavaScript reaches here. */
function plainRate(): number {
  const n = 4096;
  const a = new Float64Array(n).fill(1.1);
  const b = new Float64Array(n).fill(0.9);
  let sink = 0;
  const rounds = 20_000;
  const time = least(
    times(3, () => {
      for (let round = 0; round < rounds; round += 1) {
        let [s0, s1, s2, s3] = [0, 0, 0, 0];
        for (let i = 0; i < n; i += 4) {
          s0 += a[i] * b[i];
          s1 += a[i + 1] * b[i + 1];
          s2 += a[i + 2] * b[i + 2];
          s3 += a[i + 3] * b[i + 3];
        }
        sink += s0 + s1 + s2 + s3;
      }
    }),
  );
  return sink === 0 ? 0 : (n * rounds) / (time / 1000);
}

for (const seed of [1, 4]) {
  const input = drawnInput(40, 20, seed);
  const time = least(times(20, () => rankFaults(input, { pairs: false })));
  const weighing = weighToEnd(input, { pairs: false });
  if (weighing.kind === "problem") continue;
  const { integrator, numericCount: n } = weighing.prepared;
  const { predictions, variances, covariances, densities } = integrator.work;
  const P = integrator.predictor.parameters.length;
  const { network } = weighing.prepared.set;
  const order = network.nodes.length;
  // The network's inverse; a prediction: ten multiply-adds a reading; a sensitivity: six, and one for its square or n/2
  // for its products; a density: a factor, its inverse and the precision.
  const needed =
    order ** 3 +
    predictions * 10 * n +
    variances * 7 * P +
    covariances * n * P * (6 + n / 2) +
    (densities * n ** 3) / 2;
  row("");
  row(
    "40 parts, 20 readings, singles:",
    `${predictions} predictions, ${variances} variances, ${covariances} covariances, ${densities} densities`,
  );
  row("multiply-adds the method needs", needed);
  for (const [what, rate] of [
    ["of the kernels' rate here", kernelRate()],
    ["of plain JavaScript's rate here", plainRate()],
  ] as const)
    row(what, `${((100 * needed) / (time / 1000) / rate).toFixed(1)} % of ${(rate / 1e9).toFixed(2)}e9/s`);
}
