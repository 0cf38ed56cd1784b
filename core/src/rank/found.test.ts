import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { bridgeCandidates, type Site } from "../faults/index.ts";
import { meterData, type Priors } from "../record/index.ts";
import { drawCircuit, FaultDrawer, type Random, seededRandom, takeReadings } from "../simulate/index.ts";
import { everyPoint } from "../test/arbitrary/circuits.ts";
import { prepare } from "./prepare.ts";
import { type Weighing, weighToEnd } from "./ranking.ts";

const PRIORS: Priors = { healthy: 0.02 };

interface Hidden {
  readonly circuit: Circuit;
  readonly truth: readonly Site[];
  readonly weighing: Weighing;
}

/** The bench hides a fault in a circuit and reads every point of it with an ordinary meter; some of them twice. */
function hide(random: Random, parts: number, { doubles = 0, blunder = 0 } = {}): Hidden {
  for (;;) {
    const circuit = drawCircuit(parts, random);
    const network = buildNetwork(circuit);
    const prepared = prepare({ circuit, readings: [], priors: { ...PRIORS, healthy: 1e-6, doubleShare: doubles } });
    if (prepared.kind === "problem") continue;
    const faults = new FaultDrawer(prepared).draw(random);
    const options = { meter: meterData({}), bridges: bridgeCandidates(network), blunder, counts: 6000 };
    const taken = takeReadings(network, faults, everyPoint(circuit), options, random);
    if (!taken) continue;
    const readings = taken.map((t) => t.reading);
    const weighing = weighToEnd({ circuit, readings, priors: { ...PRIORS, blunder: Math.max(0.01, blunder) } });
    if (weighing.kind === "problem") continue;
    return { circuit, truth: faults.map((f) => f.site), weighing };
  }
}

const key = (sites: readonly Site[]) =>
  sites
    .map((s) => (s.branch < 0 ? `bridge ${s.bridge}` : `${s.branch} ${s.mode}`))
    .sort()
    .join(" & ");

const shareOf = ({ truth, weighing }: Hidden) =>
  weighing.hypotheses.filter((h) => key(h.hypothesis.sites) === key(truth)).reduce((s, h) => s + h.probability, 0);

const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length;

describe("a fault that the bench has hidden", () => {
  it("is found from readings of every point: mostly first, and never written off", () => {
    const random = seededRandom(41);
    const shares = Array.from({ length: 40 }, (_, n) => shareOf(hide(random, 4 + (n % 5))));
    // What a random circuit does not show at all (a part in parallel with a wire) keeps its prior share.
    expect(mean(shares)).toBeGreaterThan(0.5);
    expect(shares.filter((p) => p > 0.3).length).toBeGreaterThan(24);
    for (const p of shares) expect(p).toBeGreaterThan(1e-4);
  });

  it("is found among slips: one reading in twelve mis-taken hides few of them", () => {
    const random = seededRandom(43);
    const clean: number[] = [];
    const slipped: number[] = [];
    for (let n = 0; n < 16; n += 1) {
      clean.push(shareOf(hide(random, 5)));
      slipped.push(shareOf(hide(random, 5, { blunder: 0.08 })));
    }
    expect(mean(slipped)).toBeGreaterThan(0.6 * mean(clean));
    for (const p of slipped) expect(p).toBeGreaterThan(1e-5);
  });

  it("is found with another beside it, and one alone does not claim what only both explain", () => {
    const random = seededRandom(47);
    const hidden = Array.from({ length: 16 }, (_, n) => hide(random, 4 + (n % 3), { doubles: 1 }));
    const shares = hidden.map(shareOf);
    expect(mean(shares)).toBeGreaterThan(0.2);
    for (const [n, { truth, weighing }] of hidden.entries()) {
      expect(truth).toHaveLength(2);
      // Where the pair is not believed, some part of it, or of what looks the same from outside, is.
      const touched = weighing.hypotheses
        .filter(({ hypothesis: { sites } }) => sites.some((s) => truth.some((t) => t.branch === s.branch)))
        .reduce((s, h) => s + h.probability, 0);
      expect(touched, `case ${n}`).toBeGreaterThan(0.01);
    }
  });
});
