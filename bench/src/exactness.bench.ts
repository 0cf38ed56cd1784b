import { seededRandom } from "@hound/core/simulate";
import { CASE_KINDS, type CaseKind, type Comparison, compare, drawCase } from "@hound/core/test";
import { median, row } from "./timing.ts";

/**
 * The ranking against importance sampling of every hypothesis that counts, on random circuits of 4 to 8 parts, with laws,
 * priors, looks, consequences and slips written again: Kullback–Leibler divergence in nats, by what cases are about. Where
 * sampling itself is not sure (relative error above 15 %), the case is left out and counted.
 * `HOUND_CASES=40 HOUND_SAMPLES=1000 HOUND_KINDS=plain,slips`.
 */
const CASES = Number(process.env.HOUND_CASES ?? 20);
const SAMPLES = Number(process.env.HOUND_SAMPLES ?? 800);
const KINDS = (process.env.HOUND_KINDS?.split(",") as CaseKind[] | undefined) ?? CASE_KINDS;
const UNSURE = 0.15;

row("cases about", "cases", "mean", "median", "worst", "same first", "unsure");
for (const kind of KINDS) {
  // Cases have a stream of their own: what the samples take does not change which come next.
  const random = seededRandom(40 + CASE_KINDS.indexOf(kind));
  const found: Comparison[] = [];
  let unsure = 0;
  while (found.length < CASES && unsure < 2 * CASES) {
    const parts = 3 + Math.floor(random.next() * 5);
    const readings = kind === "many slips" ? 5 + Math.floor(random.next() * 3) : 3 + Math.floor(random.next() * 4);
    const one = compare(drawCase(random, parts, readings, kind), SAMPLES, seededRandom(1000 + found.length + unsure));
    if (one.error > UNSURE) unsure += 1;
    else found.push(one);
    const isOff = one.divergence > Number(process.env.HOUND_WORST) || !one.sameFirst;
    if (process.env.HOUND_WORST && one.error <= UNSURE && isOff)
      row(one.divergence, JSON.stringify(one.shares.filter((s) => Math.abs(s.own - s.reference) > 0.003)));
  }
  const divergences = found.map((f) => f.divergence);
  const mean = divergences.reduce((s, d) => s + d, 0) / found.length;
  const same = found.filter((f) => f.sameFirst).length;
  row(kind, `${found.length}`, mean, median(divergences), Math.max(...divergences), `${same}`, `${unsure}`);
}
