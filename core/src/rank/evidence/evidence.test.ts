import fc from "fast-check";
import { CholeskyDecomposition, Matrix } from "ml-matrix";
import { describe, expect, it } from "vitest";
import { priorData } from "../../faults/index.ts";
import { gramInto, normalTail, Spreads } from "../../kernels/index.ts";
import { seededRandom } from "../../simulate/index.ts";
import { decimals, lists } from "../../test/arbitrary/numbers.ts";
import { examples } from "../../test/examples.ts";
import { Evidence } from "./evidence.ts";
import type { Reader } from "./reader.ts";
import { SLIP_COUNT } from "./slips.ts";

const SPAN = 50;
const ROUNDING = 1e-6 / Math.sqrt(12);
/** A reading whose limit was written beside it: it holds for what was shown, but a thousandth of it was rounded. */
const readerOf = (y: number, sigma: number, beyond: "over" | "under" | "none" = "none", isCurrent = false): Reader => {
  const rounding = ROUNDING;
  const own = sigma ** 2;
  return {
    y,
    sigma,
    rounding,
    own,
    ownAt: [own, own, own + (1000 * rounding) ** 2],
    span: SPAN,
    isCurrent,
    beyond,
    hasLeads: false,
  };
};

interface Case {
  readonly y: readonly number[];
  readonly mean: readonly number[];
  readonly sigma: readonly number[];
  /** Readings × parameters. */
  readonly j: readonly (readonly number[])[];
}

/** Readings that a prediction makes, but for up to as many as `slipped` (readings and new values) that were mis-taken. */
function taken(slipped: number, largest = 4): fc.Arbitrary<Case> {
  const sizes = fc.integer({ min: 1, max: largest });
  return sizes.chain((n) =>
    fc
      .record({
        mean: lists(n, -9, 9),
        sigma: lists(n, 0.05, 0.5),
        j: fc.array(lists(3, -1, 1), { minLength: n, maxLength: n }),
        pull: lists(3, -2, 2),
        noise: lists(n, -2, 2),
        slips: fc.array(
          fc.tuple(fc.nat(n - 1), fc.constantFrom(-1, 1000, 1 / 1000, 0, null), decimals(-SPAN / 2, SPAN / 2)),
          {
            maxLength: slipped,
          },
        ),
      })
      .map(({ mean, sigma, j, pull, noise, slips }) => {
        const y = mean.map((v, i) => v + j[i].reduce((s, d, p) => s + d * pull[p], 0) + sigma[i] * noise[i]);
        for (const [i, factor, anything] of slips) y[i] = factor === null ? anything : y[i] * factor;
        return { y, mean, sigma, j };
      }),
  );
}

/** The same with readings that have nothing to do with the prediction. */
const cases: fc.Arbitrary<Case> = fc
  .tuple(taken(0), lists(4, -9, 9))
  .map(([c, y]) => ({ ...c, y: y.slice(0, c.y.length) }));

function packed({ j }: Case): Float64Array {
  const n = j.length;
  const out = new Float64Array((n * (n + 1)) / 2);
  gramInto(Float64Array.from(j.flat()), n, j[0].length, out);
  return out;
}

const evidenceOf = ({ y, sigma }: Case, blunder: number) =>
  new Evidence(
    y.map((v, i) => readerOf(v, sigma[i])),
    priorData({ blunder }),
  );

/** log N(y; mean, C) with ml-matrix. */
function logNormal(off: readonly number[], c: Matrix): number {
  if (off.length === 0) return 0;
  const cholesky = new CholeskyDecomposition(c);
  const solved = cholesky.solve(Matrix.columnVector([...off])).to1DArray();
  const logDet = 2 * cholesky.lowerTriangularMatrix.diagonal().reduce((s, v) => s + Math.log(v), 0);
  return -0.5 * (off.reduce((s, d, i) => s + d * solved[i], 0) + logDet + off.length * Math.log(2 * Math.PI));
}

/** The mixture the long way: every way of taking up to three readings wrongly, each its own Gaussian. */
function enumerated({ y, mean, sigma, j }: Case, blunder: number, most: number): number {
  const { sign, unit, zero, other } = priorData().blunderKinds;
  const kinds = [
    { k: 1, log: Math.log1p(-blunder) },
    { k: -1, log: Math.log(blunder * sign) },
    { k: 1000, log: Math.log((blunder * unit) / 2) - Math.log(1000) },
    { k: 1 / 1000, log: Math.log((blunder * unit) / 2) + Math.log(1000) },
    { k: 0, log: 0 },
  ];
  const n = y.length;
  const logs: number[] = [];
  const walk = (chosen: readonly number[]) => {
    if (chosen.filter((kind) => kind > 0).length > most) return;
    if (chosen.length < n) {
      for (let kind = 0; kind < kinds.length; kind += 1) walk([...chosen, kind]);
      return;
    }
    // A slip that would not show (the sign of a reading of nothing) is none.
    if (chosen.some((kind, i) => (kind === 1 || kind === 2) && Math.abs(y[i] / kinds[kind].k - y[i]) <= sigma[i]))
      return;
    if (chosen.some((kind, i) => kind === 3 && Math.abs(y[i]) <= ROUNDING)) return;
    const kept = [...chosen.keys()].filter((i) => chosen[i] < 4);
    let log = 0;
    for (const i of chosen.keys()) {
      if (chosen[i] < 4) log += kinds[chosen[i]].log;
      else {
        const lost = (blunder * zero * Math.exp(-0.5 * (y[i] / sigma[i]) ** 2)) / (sigma[i] * Math.sqrt(2 * Math.PI));
        log += Math.log(lost + (blunder * other) / SPAN);
      }
    }
    const off = kept.map((i) => y[i] / kinds[chosen[i]].k - mean[i]);
    const c = Matrix.zeros(kept.length, kept.length);
    kept.forEach((a, p) => {
      kept.forEach((b, q) => {
        c.set(p, q, j[a].reduce((s, v, l) => s + v * j[b][l], 0) + (a === b ? sigma[a] ** 2 : 0));
      });
    });
    logs.push(log + logNormal(off, c));
  };
  walk([]);
  const top = Math.max(...logs);
  return top + Math.log(logs.reduce((s, l) => s + Math.exp(l - top), 0));
}

describe("the density of readings", () => {
  it("is the Gaussian by Cholesky where nothing is mis-taken", () => {
    fc.assert(
      fc.property(cases, (c) => {
        const matrix = new Matrix(
          c.j.map((a, p) =>
            c.j.map((b, q) => a.reduce((s, v, l) => s + v * b[l], 0) + (p === q ? c.sigma[p] ** 2 : 0)),
          ),
        );
        const exact = logNormal(
          c.y.map((v, i) => v - c.mean[i]),
          matrix,
        );
        const own = evidenceOf(c, 0).density(Float64Array.from(c.mean), [packed(c)], new Spreads(c.y.length), 3);
        expect(Math.abs(own - exact)).toBeLessThan(1e-7 * (1 + Math.abs(exact)));
      }),
    );
  });

  it.each([
    // What the greedy growth of sets and the reach of scaled slips leave out: most where nothing fits anything.
    ["two slips at most", taken(2), 3, 0.002],
    ["three slips", taken(3), 3, 0.1],
    ["three slips among seven", taken(3, 7), 3, 0.1],
    ["readings that have nothing to do with the prediction", cases, 2, 0.05],
  ] as const)("sums what an enumeration of every slip of every reading sums: %s", (_, source, largest, dust) => {
    fc.assert(
      fc.property(source, fc.integer({ min: 1, max: largest }), (c, most) => {
        const own = evidenceOf(c, 0.02).density(Float64Array.from(c.mean), [packed(c)], new Spreads(c.y.length), most);
        const exact = enumerated(c, 0.02, most);
        // Beyond 10⁴ standard deviations nothing is told from worse.
        fc.pre(exact > -1e6);
        expect(Math.abs(own - exact)).toBeLessThan(dust);
      }),
      examples(300),
    );
  });

  it("finds two mis-taken readings that hide each other", () => {
    // All four move together; two shifted alike look like the two that were not.
    const c: Case = {
      y: [5, 5.01, 7.99, 8],
      mean: [5, 5, 5, 5],
      sigma: [0.02, 0.02, 0.02, 0.02],
      j: [[0.3], [0.3], [0.3], [0.3]],
    };
    const evidence = evidenceOf(c, 0.01);
    const density = evidence.density(Float64Array.from(c.mean), [packed(c)], new Spreads(4), 2);
    expect(Math.abs(density - enumerated(c, 0.01, 2))).toBeLessThan(0.002);
    expect([...evidence.likeliestSlips()].sort()).toEqual([2, 3]);
  });

  it("has room for every way of taking every reading wrongly, however many there are", () => {
    const random = seededRandom(8);
    for (const n of [2, 9, 10, 11, 40, 120]) {
      // Slips are as likely as not, readings coarse and near nothing: hardly any set can be passed over.
      const y = Array.from({ length: n }, () => (random.next() < 0.3 ? 0 : 20 * random.next() - 10));
      const c: Case = {
        y,
        mean: y.map(() => 10 * random.next() - 5),
        sigma: y.map(() => 2 + random.next()),
        j: y.map(() => [3, random.normal()]),
      };
      const evidence = evidenceOf(c, 0.4);
      const density = () => evidence.density(Float64Array.from(c.mean), [packed(c)], new Spreads(n), 3);
      const first = density();
      expect(first).toBeGreaterThan(-1e4);
      expect(density()).toBe(first);
      const shares = new Float64Array(n * SLIP_COUNT);
      evidence.addSlips(1, shares);
      expect(shares.every((p) => p >= 0 && p <= 1 + 1e-9)).toBe(true);
    }
  });

  it("keeps its digits beside a reading that is off by a unit, in whatever order they come", () => {
    const c: Case = {
      y: [4.931, 4929, 0.0066, 4.69],
      mean: [4.95, 4.95, 0.0065, 4.7],
      sigma: [0.013, 0.013, 0.0001, 0.013],
      j: [
        [0.05, 0],
        [0.05, 0.001],
        [0, 0.0002],
        [0.04, 0.01],
      ],
    };
    const turned: Case = {
      y: [...c.y].reverse(),
      mean: [...c.mean].reverse(),
      sigma: [...c.sigma].reverse(),
      j: [...c.j].reverse(),
    };
    const of = (one: Case) =>
      evidenceOf(one, 0.02).density(Float64Array.from(one.mean), [packed(one)], new Spreads(4), 3);
    expect(Math.abs(of(c) - of(turned))).toBeLessThan(1e-6);
    expect(Math.abs(of(c) - enumerated(c, 0.02, 3))).toBeLessThan(0.002);
  });

  it("never lies above the bound from variances alone, silent current readings included", () => {
    const sizes = fc.tuple(fc.integer({ min: 1, max: 3 }), decimals(-3, 3), fc.boolean());
    fc.assert(
      fc.property(cases, sizes, (c, [most, stretch, silent]) => {
        const y = silent ? c.y.map((v, i) => (i < 2 ? 0 : v)) : c.y;
        const readers = y.map((v, i) => readerOf(v, c.sigma[i], "none", silent && i < 2));
        const evidence = new Evidence(readers, priorData({ blunder: 0.05 }));
        const spreads = new Spreads(y.length);
        spreads.next(1 / 12).set(y.map((_, i) => stretch * (i + 1)));
        const mean = Float64Array.from(c.mean);
        const diagonal = Float64Array.from(c.j, (row) => row.reduce((s, v) => s + v * v, 0));
        const density = evidence.density(mean, [packed(c)], spreads, most);
        const tolerances = { varianceOf: (r: number) => diagonal[r], usual: diagonal };
        expect(evidence.bound(mean, tolerances, spreads, most)).toBeGreaterThanOrEqual(density - 1e-9);
        // From the few readings that look worst it is a bound too, wherever it says more than that the floor is missed.
        for (const floor of [density - 30, density - 0.1, density + 10])
          expect(evidence.bound(mean, tolerances, spreads, most, floor)).toBeGreaterThanOrEqual(
            Math.min(density - 1e-9, floor - 1),
          );
      }),
      examples(200),
    );
  });

  it("tells which reading was mis-taken, in shares that add up", () => {
    const c: Case = { y: [5, 5.01, -5], mean: [5, 5, 5], sigma: [0.1, 0.1, 0.1], j: [[0.1], [0.1], [0.1]] };
    const evidence = evidenceOf(c, 0.01);
    evidence.density(Float64Array.from(c.mean), [packed(c)], new Spreads(3), 3);
    const shares = new Float64Array(3 * SLIP_COUNT);
    evidence.addSlips(1, shares);
    expect(evidence.likeliestSlips()).toEqual([2]);
    const ofReading = (i: number) => shares.slice(i * SLIP_COUNT, (i + 1) * SLIP_COUNT).reduce((s, v) => s + v, 0);
    expect(ofReading(2)).toBeGreaterThan(0.999);
    expect(ofReading(2)).toBeLessThanOrEqual(1 + 1e-9);
    expect(shares[2 * SLIP_COUNT]).toBeGreaterThan(0.9);
  });

  it("takes OL and a beep as what lies beyond the limit", () => {
    const of = (beyond: "over" | "under", mean: number) =>
      new Evidence([readerOf(30, 1, beyond)], priorData({ blunder: 0 })).density(
        Float64Array.of(mean),
        [Float64Array.of(0)],
        new Spreads(1),
        3,
      );
    expect(Math.exp(of("over", 30))).toBeCloseTo(0.5, 6);
    expect(Math.exp(of("over", 40))).toBeCloseTo(1, 6);
    expect(Math.exp(of("under", 29))).toBeCloseTo(normalTail(1), 6);
    expect(of("under", 1e30)).toBeLessThan(-10);
  });

  it("knows the normal tail", () => {
    for (const [t, p] of [
      [0, 0.5],
      [1, 0.8413447],
      [-1.96, 0.0249979],
      [3, 0.9986501],
    ])
      expect(normalTail(t)).toBeCloseTo(p, 6);
  });
});
