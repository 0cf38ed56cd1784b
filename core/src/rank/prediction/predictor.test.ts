import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, type NodeName } from "../../circuit/index.ts";
import { readQuick, readTrail } from "../../notation/index.ts";
import type { NumericReading, Reading } from "../../record/index.ts";
import { seededRandom } from "../../simulate/index.ts";
import { share } from "../../test/examples.ts";
import { plainReading } from "../../test/plain/bench.ts";
import { METER, PLAIN_METER } from "../../test/plain/compare.ts";
import { plainSingles } from "../../test/plain/prior.ts";
import { nameOfSite } from "../answer/describe.ts";
import { cornersOf, expectReadings } from "../answer/expected.ts";
import { logSumExp } from "../evidence/gaussian.ts";
import { faultsAt } from "../hypotheses/cells.ts";
import { prepare } from "../prepare.ts";
import { Stress } from "./stress.ts";

/** Circuits with everything that makes an update hard: filaments, limits, potentiometers, open switches, islands. */
const TRAILS = [
  "BT1 12V ri=0.1: F1 5A + [A] (LA1 12V 5W | R1 22 + [B] LA2 6V 3W) + [C] R2 1.5",
  "PS1 12V ri=0.05 limit=1A: [P] (R1 22 | R2 33 + [A] S1 open + [B] R3 10) + [C] R4 3.3",
  "PS1 12V ri=0.05 limit=0.4A: [P] R1 22 + [A] PS2 9V ri=0.1 limit=0.25A + [B] (R2 47 | R3 10 + [C] R4 33)",
  "BT1 9V: [P] RV1 1k at=30% wiper=[W] + [Q] R1 100\n[W] R2 470 [0]",
  "BT1 9V ri=0.4: [P] (R1 1k + [L] R2 1k2 | R3 1k + [M] R4 1k2)\n[L] R5 4k7 [M]\n[M] R6 680 + BT2 6V ri=0.4 + [N] R7 220 [L]",
  "BT1 24V: S1 + [A] R1 100 + [B] M1 24V 12W + [C] R2 10",
];

/** An ammeter left in a branch, and a coarse voltmeter left across two nodes. */
const LEFT_IN = (through: string, from: NodeName) => ({
  meters: [
    { through, ohms: 2 },
    { from, ohms: 5000 },
  ],
});

function readingsOn(circuit: Circuit): NumericReading[] {
  const nodes = [...new Set(circuit.parts.flatMap((p) => [p.from, p.to]))].filter((n) => n !== circuit.reference);
  const through = circuit.parts.filter((p) => p.kind !== "potentiometer").map((p) => p.designator);
  return [
    ...nodes.map((from): NumericReading => ({ quantity: "voltage", from, value: 1 })),
    ...through.map((part): NumericReading => ({ quantity: "current", through: part, value: 1 })),
    { quantity: "resistance", from: nodes[0], to: nodes[1], value: 1 },
    { quantity: "voltage", from: nodes[1], value: 1, state: { lifted: [through[1]] } },
    { quantity: "voltage", from: nodes[1], value: 1, state: LEFT_IN(through[1], nodes[0]) },
    { quantity: "current", through: through[0], value: 1, state: LEFT_IN(through[1], nodes[0]) },
  ];
}

function preparedOn(trail: string) {
  const circuit = readTrail(trail).circuit as Circuit;
  const prepared = prepare({ circuit, readings: readingsOn(circuit) });
  if (prepared.kind === "problem") throw new Error(prepared.message);
  return prepared;
}

describe("a prediction", () => {
  it.each(TRAILS)("equals a fresh solution, its sensitivities too, under single and double faults: %s", (trail) => {
    const { prior, integrator } = preparedOn(trail);
    const { predictor } = integrator;
    const random = seededRandom(4);
    const n = prior.singles.length;
    const tried = [
      ...prior.singles,
      ...Array.from({ length: share(60) }, () =>
        prior.pair(Math.floor(random.next() * n), Math.floor(random.next() * n)),
      ),
    ];
    for (const hypothesis of tried) {
      if (!hypothesis) continue;
      const faults = faultsAt(hypothesis.sites, [random.next(), random.next()]);
      const { y, j } = predictor.predict(faults, "sensitivities");
      const fresh = predictor.newOutcome();
      predictor.predictAfresh(faults, true, fresh);
      const what = JSON.stringify(faults.map((f) => [f.site.branch, f.site.mode, f.value]));
      const size = Math.max(...fresh.y.filter((v) => Math.abs(v) < 1e20).map(Math.abs));
      fresh.y.forEach((value, r) => {
        if (Math.abs(value) >= 1e20) expect(y[r], what).toBe(value);
        else expect(Math.abs(y[r] - value), `${what} reading ${r}`).toBeLessThan(1e-5 * size);
      });
      fresh.j.forEach((value, k) => {
        const r = Math.floor(k / predictor.parameters.length);
        if (Math.abs(fresh.y[r]) >= 1e20) return;
        expect(Math.abs(j[k] - value), `${what} sensitivity ${k}`).toBeLessThan(1e-3 * Math.abs(value) + 1e-5 * size);
      });
    }
  });

  it("has the variances of its own sensitivities, whether they were worked out or not", () => {
    const random = seededRandom(9);
    const quick = [0, 0];
    for (const trail of [
      ...TRAILS,
      "BT1 9V ri=0.4: [P] (R1 1k + [L] R2 1k2 | R3 1k + [M] R4 1k2) + [Q] R6 10\n[L] R5 4k7 [M]",
    ]) {
      const { prior, integrator, set } = preparedOn(trail);
      const { predictor } = integrator;
      const gains = set.probes.map((p) => p.error.gain);
      const P = predictor.parameters.length;
      const outcome = predictor.newOutcome();
      const { trace, y } = outcome;
      const n = prior.singles.length;
      const any = () => Math.floor(random.next() * n);
      const pairs = Array.from({ length: share(80) }, () => prior.pair(any(), any()));
      for (const { sites } of [...prior.singles, ...pairs.filter((p) => p !== null)]) {
        const faults = faultsAt(sites, [random.next(), random.next()]);
        if (predictor.predict(faults, "variances", outcome).held === "variances") quick[sites.length - 1] += 1;
        // The first few are summed over the parameters, the others made of what was summed once.
        const variances = Array.from({ length: 6 }, () => {
          trace.diagonal.fill(Number.NaN, 0, trace.isFew ? undefined : 0);
          return Array.from(trace.diagonal, (_, r) => predictor.varianceOf(outcome, r));
        });
        const whole = predictor.predict(faults, "sensitivities");
        const what = JSON.stringify(faults.map((f) => [f.site.branch, f.site.mode, f.value]));
        whole.y.forEach((value, r) => {
          if (Number.isNaN(value)) expect(y[r], what).toBeNaN();
          else expect(y[r], what).toBe(value);
        });
        const sums = Array.from(trace.diagonal, (_, r) =>
          whole.j.subarray(r * P, (r + 1) * P).reduce((sum, d) => sum + d * d, (y[r] * gains[r]) ** 2),
        );
        // What is worked out from sums may leave dust where sensitivities cancel: of the largest there is.
        const dust = 1e-9 * Math.max(...sums.filter(Number.isFinite), 1e-12);
        for (const [r, sum] of sums.entries())
          for (const { [r]: variance } of variances)
            expect(Math.abs(variance - sum), `${what} reading ${r}`).toBeLessThan(1e-7 * sum + dust);
      }
    }
    expect(quick[0]).toBeGreaterThan(40);
    expect(quick[1]).toBeGreaterThan(40);
  });

  it.each(TRAILS)("is what a plain solution gives, filaments, limits and tracks included: %s", (trail) => {
    const circuit = readTrail(trail).circuit as Circuit;
    const points = readingsOn(circuit).map((r): NumericReading => ({ ...r, plusMinus: 0.1 }));
    const prepared = prepare({ circuit, readings: points, meter: METER });
    if (prepared.kind === "problem") throw new Error(prepared.message);
    const { prior, integrator } = prepared;
    const states = points.map((r) => r.state ?? {});
    for (const single of prior.singles) {
      const faults = faultsAt(single.sites, [0.4]);
      const { y } = integrator.predictor.predict(faults, "values");
      const name = nameOfSite(prepared, single.sites[0]);
      const plain = plainSingles(circuit, states).find((s) => s.name === name);
      if (!plain) throw new Error(name);
      const shown = points.map((p) => plainReading(circuit, p, [plain.faultAt(0.4)], { factor: {} }, PLAIN_METER));
      const size = Math.max(...shown.filter((v) => Math.abs(v) < 1e9).map(Math.abs));
      shown.forEach((value, i) => {
        const own = y[i];
        if (Math.abs(value) > 1e9) expect(own, name).toBeGreaterThan(1e9);
        else expect(Math.abs(own - value), `${name} reading ${i}`).toBeLessThan(2e-5 * size + 1e-9);
      });
    }
  });

  it("moves a track as one, and its wiper by one in two hundred: unloaded, the ratio hardly moves", () => {
    const circuit = readTrail("BT1 10V 0% ri=0: [P] RV1 10k 20% at=40% wiper=[W]").circuit as Circuit;
    const at = (from: string): NumericReading => ({ quantity: "voltage", from: from as NodeName, value: 0 });
    const ideal = { voltage: { inputResistance: "ideal" as const } };
    const [w] = expectReadings(buildNetwork(circuit), [at("W")], ideal) ?? [];
    // 60 % of 10 V, and two standard deviations of half a percent of the track each.
    expect(w.value).toBeCloseTo(6, 6);
    expect(w.plusMinus).toBeCloseTo(0.1, 3);
    const corners = cornersOf(buildNetwork(circuit), at("W"));
    expect(corners).toEqual([expect.closeTo(5.9, 3), expect.closeTo(6.1, 3)]);
    // Through the track as a whole: all of its tolerance.
    const amps: NumericReading = { quantity: "current", through: "RV1.top", value: 0 };
    const [i] = expectReadings(buildNetwork(circuit), [amps], { current: { burdenResistance: 0 } }) ?? [];
    expect(i.plusMinus / i.value).toBeCloseTo(0.2, 3);
  });

  it("leaves nothing behind: the healthy prediction is the same before and after", () => {
    for (const trail of TRAILS) {
      const { prior, integrator } = preparedOn(trail);
      const { predictor } = integrator;
      const before = predictor.predict([], "sensitivities");
      const [y, j] = [before.y.slice(), before.j.slice()];
      for (const { sites } of prior.singles) predictor.predict(faultsAt(sites, [0.5]), "sensitivities");
      const after = predictor.predict([], "sensitivities");
      for (const { y: own, j: ownJ } of [before, after]) {
        expect(own).toEqual(y);
        expect(ownJ).toEqual(j);
      }
    }
  });
});

describe("stress on neighbours", () => {
  it("agrees between update and fresh solution, and never lets current through what is open", () => {
    for (const trail of TRAILS) {
      const { prior, set, pairs, network } = preparedOn(trail);
      const stress = new Stress(set, pairs);
      for (const { sites } of prior.singles) {
        const faults = faultsAt(sites, [0.7]);
        const amps = stress.amps(faults, 0, [...set.network.branches.keys()]);
        if (!amps) throw new Error("unsolvable");
        expect([...amps].every(Number.isFinite)).toBe(true);
        for (const { site } of faults)
          if (site.branch >= 0 && stress.lawOf(site.branch, faults, 0).kind === "open")
            expect(Math.abs(amps[site.branch])).toBeLessThan(1e-9);
        // What flows into a node flows out of it, bridges aside.
        if (sites[0].bridge >= 0) continue;
        const sums = new Float64Array(network.nodes.length);
        network.branches.forEach(({ from, to }, k) => {
          sums[from] -= amps[k];
          sums[to] += amps[k];
        });
        const most = Math.max(...amps.map(Math.abs), 1e-3);
        for (const sum of sums) expect(Math.abs(sum), `${trail} ${JSON.stringify(faults)}`).toBeLessThan(1e-6 * most);
      }
    }
  });
});

describe("sums of logarithms", () => {
  it("adds in logarithms without overflow", () => {
    expect(logSumExp([1000, 1000])).toBeCloseTo(1000 + Math.LN2, 9);
    expect(logSumExp([-1e9, 0])).toBe(0);
    expect(logSumExp([])).toBe(Number.NEGATIVE_INFINITY);
  });
});

describe("observations", () => {
  const rank = (trail: string, lines: readonly string[]) => {
    const circuit = readTrail(trail).circuit as Circuit;
    const readings = lines.map((line) => (readQuick(line, circuit) as { reading: Reading }).reading);
    const prepared = prepare({ circuit, readings });
    if (prepared.kind === "problem") throw new Error(prepared.message);
    const { prior, integrator, network } = prepared;
    const massOf = (part: string, mode: string) => {
      const found = prior.singles.find(
        ({ sites: [s] }) => s.branch >= 0 && network.branches[s.branch].name === part && s.mode === mode,
      );
      if (!found) throw new Error(`${part} ${mode}`);
      return integrator.integrate(found, Number.NEGATIVE_INFINITY).logMass;
    };
    return { massOf, healthy: integrator.integrate(prior.healthy, Number.NEGATIVE_INFINITY).logMass };
  };
  const LAMP = "BT1 12V: F1 2A + [A] LA1 12V 5W";

  it("of a lamp follow its power: an open, a dead or a weak supply, each in its degree", () => {
    const dark = rank(LAMP, ["LA1 dark"]);
    const lit = rank(LAMP, ["LA1 lit"]);
    expect(dark.massOf("LA1", "open") - dark.healthy).toBeGreaterThan(lit.massOf("LA1", "open") - lit.healthy + 5);
    expect(lit.healthy).toBeGreaterThan(dark.healthy + 3);
    const dim = rank(LAMP, ["LA1 dim"]);
    expect(dim.massOf("BT1", "low") - dim.healthy).toBeGreaterThan(lit.massOf("BT1", "low") - lit.healthy + 1);
  });

  it("of a fuse are what they say, but for an eye that may be mistaken", () => {
    const blown = rank(LAMP, ["F1 blown"]);
    const intact = rank(LAMP, ["F1 intact"]);
    const odds = blown.massOf("F1", "open") - intact.massOf("F1", "open");
    expect(odds).toBeGreaterThan(4);
    expect(odds).toBeLessThan(7);
  });

  it("of a part alone on the supply ask that part and the supply only", () => {
    const alone = rank(LAMP, ["LA1 alone lit"]);
    const dark = rank(LAMP, ["LA1 alone dark"]);
    // F1 is not in that circuit: its fault is neither here nor there.
    const before = rank(LAMP, []);
    const moved = (x: typeof alone, part: string, mode: string) =>
      x.massOf(part, mode) - x.healthy - before.massOf(part, mode) + before.healthy;
    expect(Math.abs(moved(alone, "F1", "open"))).toBeLessThan(0.01);
    expect(moved(alone, "LA1", "open")).toBeLessThan(-3);
    expect(moved(dark, "BT1", "dead")).toBeGreaterThan(3);
  });

  it("of a loose part make its contact modes ten times as likely", () => {
    const trail = "BT1 12V: J1 + [A] J2 + [B] R1 100";
    const [before, loose] = [rank(trail, []), rank(trail, ["J1 loose"])];
    const ratio = (x: typeof loose) => x.massOf("J1", "open") - x.massOf("J2", "open");
    expect(ratio(loose) - ratio(before)).toBeCloseTo(Math.log(10), 6);
  });
});
