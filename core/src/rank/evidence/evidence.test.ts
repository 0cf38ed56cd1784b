import fc from "fast-check";
import { CholeskyDecomposition, Matrix } from "ml-matrix";
import { describe, expect, it } from "vitest";
import { priorData } from "../../faults/index.ts";
import { gramInto, normalTail, Spreads } from "../../kernels/index.ts";
import type { Priors } from "../../record/index.ts";
import { seededRandom } from "../../simulate/index.ts";
import { decimals, lists } from "../../test/arbitrary/numbers.ts";
import { examples } from "../../test/examples.ts";
import { Evidence } from "./evidence.ts";
import type { Reader } from "./reader.ts";
import { SLIP_COUNT, SLIPS } from "./slips.ts";

const SPAN = 50;
const ROUNDING = 1e-6 / Math.sqrt(12);
/** Slips by a factor. */
const FACTORS = [-1, 1000, 1 / 1000, 10, 1 / 10];
/** A reading whose limit was written beside it belongs to the number as written: y/k has that limit over k. */
const readerOf = (y: number, sigma: number, more: Partial<Reader> = {}): Reader => ({
  y,
  sigma,
  rounding: ROUNDING,
  own: sigma ** 2,
  ownAt: FACTORS.map((k) => (sigma / k) ** 2),
  span: SPAN,
  isOff: false,
  quantity: "voltage",
  beyond: "none",
  hasLeads: false,
  place: 0,
  like: "",
  at: "",
  ...more,
});

interface Case {
  readonly y: readonly number[];
  readonly mean: readonly number[];
  readonly sigma: readonly number[];
  /** Readings × parameters. */
  readonly j: readonly (readonly number[])[];
}

/** Readings that a prediction makes, but for up to as many as `slipped` (readings and new values) that were mis-taken. */
function taken(slipped: number, largest = 4, moved = 1): fc.Arbitrary<Case> {
  const sizes = fc.integer({ min: 1, max: largest });
  return sizes.chain((n) =>
    fc
      .record({
        mean: lists(n, -9, 9),
        sigma: lists(n, 0.05, 0.5),
        j: fc.array(lists(3, -moved, moved), { minLength: n, maxLength: n }),
        pull: lists(3, -2, 2),
        noise: lists(n, -2, 2),
        slips: fc.array(fc.tuple(fc.nat(n - 1), fc.constantFrom(...FACTORS, 0, null), decimals(-SPAN / 2, SPAN / 2)), {
          maxLength: slipped,
        }),
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

/** @param apart how many other entries lie between two readings: with none they may be each other's */
const evidenceOf = ({ y, sigma }: Case, habits: number | Priors, apart = 1) =>
  new Evidence(
    y.map((v, i) => readerOf(v, sigma[i], { place: i * (apart + 1), at: `${i}` })),
    priorData(typeof habits === "number" ? { blunder: habits } : habits),
  );

/** log N(y; mean, C) with ml-matrix. */
function logNormal(off: readonly number[], c: Matrix): number {
  if (off.length === 0) return 0;
  const cholesky = new CholeskyDecomposition(c);
  const solved = cholesky.solve(Matrix.columnVector([...off])).to1DArray();
  const logDet = 2 * cholesky.lowerTriangularMatrix.diagonal().reduce((s, v) => s + Math.log(v), 0);
  return -0.5 * (off.reduce((s, d, i) => s + d * solved[i], 0) + logDet + off.length * Math.log(2 * Math.PI));
}

const USUAL_KINDS = { sign: 0.4, unit: 0.2, decimal: 0.1, zero: 0.2, other: 0.1 };

/** The mixture the long way: every way of taking up to three readings wrongly, each its own Gaussian. */
function enumerated(
  { y, mean, sigma, j }: Case,
  blunder: number,
  most: number,
  shares: Partial<typeof USUAL_KINDS> = USUAL_KINDS,
): number {
  const { sign = 0, unit = 0, decimal = 0, zero = 0, other = 0 } = shares;
  const kinds = [
    { k: 1, log: Math.log1p(-blunder) },
    { k: -1, log: Math.log(blunder * sign) },
    { k: 1000, log: Math.log((blunder * unit) / 2) - Math.log(1000) },
    { k: 1 / 1000, log: Math.log((blunder * unit) / 2) + Math.log(1000) },
    { k: 10, log: Math.log((blunder * decimal) / 2) - Math.log(10) },
    { k: 1 / 10, log: Math.log((blunder * decimal) / 2) + Math.log(10) },
    { k: 0, log: 0 },
  ];
  const none = kinds.length - 1;
  const n = y.length;
  const logs: number[] = [];
  const walk = (chosen: readonly number[]) => {
    if (chosen.filter((kind) => kind > 0).length > most) return;
    if (chosen.length < n) {
      for (let kind = 0; kind < kinds.length; kind += 1) walk([...chosen, kind]);
      return;
    }
    // A slip that would not show (the sign of a reading of nothing) is none.
    const isHidden = (kind: number, i: number) =>
      kind === 3 ? Math.abs(y[i]) <= ROUNDING : Math.abs(y[i] / kinds[kind].k - y[i]) <= sigma[i];
    if (chosen.some((kind, i) => kind > 0 && kind < none && isHidden(kind, i))) return;
    const kept = [...chosen.keys()].filter((i) => chosen[i] < none);
    let log = 0;
    for (const i of chosen.keys()) {
      if (chosen[i] < none) log += kinds[chosen[i]].log;
      else {
        const lost = (blunder * zero * Math.exp(-0.5 * (y[i] / sigma[i]) ** 2)) / (sigma[i] * Math.sqrt(2 * Math.PI));
        log += Math.log(lost + (blunder * other) / SPAN);
      }
    }
    const off = kept.map((i) => y[i] / kinds[chosen[i]].k - mean[i]);
    const c = Matrix.zeros(kept.length, kept.length);
    kept.forEach((a, p) => {
      kept.forEach((b, q) => {
        c.set(
          p,
          q,
          j[a].reduce((s, v, l) => s + v * j[b][l], 0) + (a === b ? (sigma[a] / kinds[chosen[a]].k) ** 2 : 0),
        );
      });
    });
    logs.push(log + logNormal(off, c));
  };
  walk([]);
  const top = Math.max(...logs);
  return top + Math.log(logs.reduce((s, l) => s + Math.exp(l - top), 0));
}

/** What a case foretells. */
const told = (c: Case) => ({
  mean: Float64Array.from(c.mean),
  covariances: [packed(c)],
  spreads: new Spreads(c.y.length),
});

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
        const own = evidenceOf(c, 0).density(told(c), 3).log;
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
        const own = evidenceOf(c, 0.02).density(told(c), most).log;
        const exact = enumerated(c, 0.02, most);
        // Beyond 10⁴ standard deviations nothing is told from worse.
        fc.pre(exact > -1e6);
        expect(Math.abs(own - exact)).toBeLessThan(dust);
      }),
      examples(300),
    );
  });

  it("finds three slips of kinds that leave no trace of others, where nothing else can have happened", () => {
    const blunderKinds = { sign: 0.6, unit: 0.4 };
    const c: Case = {
      y: [-9, 8000, -7, 6, 5, 4, 3, 2, 1, 7, 6.5, 4.5],
      mean: [9, 8, 7, 6, 5, 4, 3, 2, 1, 7, 6.5, 4.5],
      sigma: new Array(12).fill(0.02),
      j: [9, 8, 7, 6, 5, 4, 3, 2, 1, 7, 6.5, 4.5].map((v) => [0.01 * v]),
    };
    const evidence = evidenceOf(c, { blunder: 0.02, blunderKinds });
    const { log: own, likeliest } = evidence.explained(told(c), 3);
    expect([...likeliest].sort()).toEqual([0, 1, 2]);
    // The three slips put right, at their price; everything else is far below.
    const right: Case = { ...c, y: [...c.mean] };
    const plain = evidenceOf(right, { blunder: 0.02, blunderKinds }, 1);
    const good = plain.density(told(c), 0).log;
    const price = 2 * Math.log(0.6 / 0.98) + Math.log(0.2 / 0.98) - Math.log(1000) + 3 * Math.log(0.02);
    // Written limits are a thousandth as wide for what was shown a thousand times too large.
    expect(own - (good + price)).toBeGreaterThan(-0.05);
    expect(own - (good + price)).toBeLessThan(1);
  });

  it("lets two readings taken one after the other be each other's", () => {
    // What the two alone do not show (the others pin down what moves them together) is not looked for.
    const pairs = fc.tuple(taken(0, 4, 0.02), fc.nat(2), fc.boolean());
    fc.assert(
      fc.property(pairs, ([c, at, isExchanged]) => {
        const n = c.y.length;
        const swap = <T>(list: readonly T[]) =>
          isExchanged && at + 1 < n ? list.map((_, i) => list[i === at ? at + 1 : i === at + 1 ? at : i]) : list;
        const here = { ...c, y: swap(c.y), sigma: swap(c.sigma) };
        const blunder = 0.05;
        const own = evidenceOf(here, blunder, 0).density(told(c), 3).log;
        // Each figure keeps its own limit; the points change places.
        const turned = (k: number): Case => {
          const turn = <T>(list: readonly T[]) =>
            list.map((v, i) => (i === k ? list[k + 1] : i === k + 1 ? list[k] : v));
          return { ...here, mean: turn(c.mean), j: turn(c.j) };
        };
        const ways = Array.from(
          { length: n - 1 },
          (_, k) => Math.log(blunder / 10) + enumerated(turned(k), blunder, 2),
        );
        const none = Math.log(1 - ((n - 1) * blunder) / 10) + enumerated(here, blunder, 3);
        const top = Math.max(none, ...ways);
        const exact = top + Math.log([none, ...ways].reduce((s, l) => s + Math.exp(l - top), 0));
        fc.pre(exact > -1e6);
        // An exchange is looked for where the two gain by it as they stand, not only with a slip of one besides.
        expect(Math.abs(own - exact)).toBeLessThan(0.4);
      }),
      examples(200),
    );
    const c: Case = { y: [1.82, 20], mean: [20, 1.8], sigma: [0.05, 0.05], j: [[0.1], [0.02]] };
    const evidence = evidenceOf(c, 0.01, 0);
    const { slips: shares } = evidence.explained(told(c), 3);
    for (const i of [0, 1]) expect(shares[i * SLIP_COUNT + SLIPS.indexOf("exchanged")]).toBeGreaterThan(0.99);
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
    const { log, likeliest } = evidence.explained(told(c), 2);
    expect(Math.abs(log - enumerated(c, 0.01, 2))).toBeLessThan(0.002);
    expect([...likeliest].sort()).toEqual([2, 3]);
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
      const density = () => evidence.density(told(c), 3).log;
      const first = density();
      expect(first).toBeGreaterThan(-1e4);
      expect(density()).toBe(first);
      const { log, slips } = evidence.explained(told(c), 3);
      expect(log).toBe(first);
      expect(slips.every((p) => p >= 0 && p <= 1 + 1e-9)).toBe(true);
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
    const of = (one: Case) => evidenceOf(one, 0.02).density(told(one), 3).log;
    expect(Math.abs(of(c) - of(turned))).toBeLessThan(1e-6);
    expect(Math.abs(of(c) - enumerated(c, 0.02, 3))).toBeLessThan(0.002);
  });

  it("never lies above the bound from variances alone, silent current readings included", () => {
    const sizes = fc.tuple(fc.integer({ min: 1, max: 3 }), decimals(-3, 3), fc.boolean());
    fc.assert(
      fc.property(cases, sizes, (c, [most, stretch, silent]) => {
        const y = silent ? c.y.map((v, i) => (i < 2 ? 0 : v)) : c.y;
        const readers = y.map((v, i) =>
          readerOf(v, c.sigma[i], { place: i, quantity: silent && i < 2 ? "current" : "voltage" }),
        );
        const evidence = new Evidence(readers, priorData({ blunder: 0.05 }));
        const spreads = new Spreads(y.length);
        spreads.next(1 / 12).set(y.map((_, i) => stretch * (i + 1)));
        const mean = Float64Array.from(c.mean);
        const diagonal = Float64Array.from(c.j, (row) => row.reduce((s, v) => s + v * v, 0));
        const density = evidence.density({ mean, covariances: [packed(c)], spreads }, most).log;
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

  it("lets a blown fuse of the meter spoil all currents that read nothing at the price of one, and one alone no cheaper", () => {
    const [blunder, sigma] = [0.01, 0.001];
    const of = (currents: number) => {
      const y = [0, 0, 0].slice(0, currents);
      const readers = y.map((v, i) => readerOf(v, sigma, { place: 2 * i, at: `${i}`, quantity: "current" }));
      const evidence = new Evidence(readers, priorData({ blunder }));
      // Each should be fifty milliamperes: no Gaussian reaches so far.
      const mean = Float64Array.from(y, () => 0.05);
      const tolerance = new Float64Array((currents * (currents + 1)) / 2);
      return evidence.density({ mean, covariances: [tolerance], spreads: new Spreads(currents) }, 3).log;
    };
    // No contact at nothing, or anything else.
    const atNothing = 1 / (sigma * Math.sqrt(2 * Math.PI));
    const { zero, other } = USUAL_KINDS;
    const one = blunder * (zero * atNothing + other / SPAN);
    expect(of(1)).toBeCloseTo(Math.log(one), 6);
    expect(of(2)).toBeCloseTo(Math.log(one ** 2 + blunder * zero * atNothing ** 2), 6);
    expect(of(3)).toBeCloseTo(Math.log(one ** 3 + blunder * zero * atNothing ** 3), 6);
  });

  it("tells which reading was mis-taken, in shares that add up", () => {
    const c: Case = { y: [5, 5.01, -5], mean: [5, 5, 5], sigma: [0.1, 0.1, 0.1], j: [[0.1], [0.1], [0.1]] };
    const evidence = evidenceOf(c, 0.01);
    const { slips: shares, likeliest } = evidence.explained(told(c), 3);
    expect(likeliest).toEqual([2]);
    const ofReading = (i: number) => shares.slice(i * SLIP_COUNT, (i + 1) * SLIP_COUNT).reduce((s, v) => s + v, 0);
    expect(ofReading(2)).toBeGreaterThan(0.999);
    expect(ofReading(2)).toBeLessThanOrEqual(1 + 1e-9);
    expect(shares[2 * SLIP_COUNT]).toBeGreaterThan(0.9);
  });

  it("takes OL and a beep as what lies beyond the limit", () => {
    const of = (beyond: "over" | "under", mean: number, blunder = 0) =>
      new Evidence([readerOf(30, 1, { beyond, quantity: "resistance", isOff: true })], priorData({ blunder })).density(
        { mean: Float64Array.of(mean), covariances: [Float64Array.of(0)], spreads: new Spreads(1) },
        3,
      ).log;
    expect(Math.exp(of("over", 30))).toBeCloseTo(0.5, 6);
    expect(Math.exp(of("over", 40))).toBeCloseTo(1, 6);
    expect(Math.exp(of("under", 29))).toBeCloseTo(normalTail(1), 6);
    expect(of("under", 1e30)).toBeLessThan(-10);
    // An ohmmeter that touches nothing shows OL, and never a beep; whatever else happened may be either.
    expect(Math.exp(of("over", -1e6, 0.1))).toBeCloseTo(0.1 * (0.2 + 0.05), 9);
    expect(Math.exp(of("under", 1e6, 0.1))).toBeCloseTo(0.1 * 0.05, 9);
    expect(Math.exp(of("over", 1e6, 0.1))).toBeCloseTo(0.9 + 0.1 * (0.7 + 0.2 + 0.05), 9);
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
