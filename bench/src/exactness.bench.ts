import { seededRandom } from "@hound/core/simulate";
import { compare, drawCase } from "@hound/core/test";
import { median, row } from "./timing.ts";

/**
 * The ranking against importance sampling of every hypothesis that counts, on random circuits of 4 to 8 parts: Kullback–
 * Leibler divergence in nats. Where sampling itself is not sure (relative error above 15 %), the case is left out and
 * counted. Numbers after the name: cases, samples (`HOUND_CASES=60 HOUND_SAMPLES=1500`).
 */
const CASES = Number(process.env.HOUND_CASES ?? 60);
const SAMPLES = Number(process.env.HOUND_SAMPLES ?? 1000);
const UNSURE = 0.15;

row("mis-taken", "cases", "mean", "median", "worst", "same first", "unsure");
for (const [blunder, seed] of [
  [0, 5],
  [0.06, 9],
] as const) {
  // Cases have a stream of their own: what the samples take does not change which come next.
  const random = seededRandom(seed);
  const found = [];
  let unsure = 0;
  while (found.length < CASES) {
    const parts = 3 + Math.floor(random.next() * 5);
    const drawn = drawCase(random, parts, 3 + Math.floor(random.next() * 4), blunder);
    const one = compare(drawn, SAMPLES, seededRandom(1000 * seed + found.length + unsure));
    if (one.error > UNSURE) unsure += 1;
    else found.push(one);
  }
  const divergences = found.map((f) => f.divergence);
  const mean = divergences.reduce((s, d) => s + d, 0) / found.length;
  const same = found.filter((f) => f.sameFirst).length;
  row(blunder, `${CASES}`, mean, median(divergences), Math.max(...divergences), `${same}`, `${unsure}`);
}
