import { planMeasurements } from "@hound/core/plan";
import { type RankInput, rankFaults, rankingOf, weighFaults, weighToEnd } from "@hound/core/rank";
import { drawnInput } from "./cases.ts";
import { plainSingles } from "./plain.ts";
import { median, row, times } from "./timing.ts";

/** Times of the ranking beside a plain version of it; milliseconds, medians over drawn circuits (and the least of them). */
const SEEDS = [1, 2, 3, 4, 5];

function firstShown(input: RankInput): number {
  const start = performance.now();
  const step = weighFaults(input).next();
  if (!step.done) rankingOf(step.value.settle());
  return performance.now() - start;
}

const least = (list: readonly number[]) => Math.min(...list);

row("parts", "readings", "singles", "(least)", "plain", "ratio", "first shown", "all pairs", "(least)", "next reading");
for (const [parts, readings, rounds, ofPairs] of [
  [14, 8, 15, 7],
  [40, 20, 9, 3],
] as const) {
  const inputs = SEEDS.map((seed) => drawnInput(parts, readings, seed));
  for (const input of inputs) rankFaults(input, { pairs: false });
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

row("");
row("parts", "singles", "times the size before");
let before = 0;
for (const parts of [10, 20, 40, 80, 160]) {
  const input = drawnInput(parts, 12, 3);
  const time = median(times(5, () => rankFaults(input, { pairs: false })));
  row(`${parts}`, time, before ? time / before : "");
  before = time;
}
row("peak memory", `${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB`);

/** Multiply-adds a second in a loop of four independent sums: what plain JavaScript reaches here. */
function multiplyAddRate(): number {
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

const input = drawnInput(40, 20, 1);
const time = least(times(9, () => rankFaults(input, { pairs: false })));
const weighing = weighToEnd(input, { pairs: false });
if (weighing.kind === "weighing") {
  const { integrator, numericCount: n } = weighing.prepared;
  const { predictions, covariances, densities } = integrator.work;
  const P = integrator.predictor.parameters.length;
  // A prediction: five multiply-adds for each sensitivity; a covariance: half of n²·P; a density: a factor and its inverse.
  const needed = predictions * 5 * n * P + (covariances * n * n * P) / 2 + (densities * n ** 3) / 3;
  const rate = multiplyAddRate();
  row("");
  row(
    "40 parts, 20 readings, singles:",
    `${predictions} predictions, ${covariances} covariances, ${densities} densities`,
  );
  row("multiply-adds the method needs", needed);
  row(
    "of the rate measured here",
    `${((100 * needed) / (time / 1000) / rate).toFixed(1)} % of ${(rate / 1e9).toFixed(2)}e9/s`,
  );
}
