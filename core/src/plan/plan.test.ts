import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, designatorOf } from "../circuit/index.ts";
import { pairKey } from "../configuration/index.ts";
import { readQuick, readTrail } from "../notation/index.ts";
import { faultsOf, type RankInput, type Weighing, weighToEnd } from "../rank/index.ts";
import { type Reading, SHIPPED_METERS } from "../record/index.ts";
import { seededRandom } from "../simulate/index.ts";
import { measurementsOn, type Offer, type Plan, planMeasurements, readingsToSettle, type Suggestion } from "./index.ts";
import { worthOf } from "./information.ts";

const VENT =
  "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 2% + [C] R4 330) + [D] R5 100 1%\n[B] R9 10k [D]";

function planFor(trail: string, lines: readonly string[], options = {}): { plan: Plan; weighing: Weighing } {
  const circuit = readTrail(trail).circuit as Circuit;
  const readings = lines.map((line): Reading => {
    const read = readQuick(line, circuit);
    if (read.kind !== "reading") throw new Error(line);
    return read.reading;
  });
  const input: RankInput = { circuit, readings };
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") throw new Error(weighing.message);
  const plan = planMeasurements(input, weighing, options);
  if (!plan) throw new Error("no plan");
  return { plan, weighing };
}

const place = ({ measurement }: Suggestion) =>
  !("reading" in measurement)
    ? `${measurement.kind} ${measurement.part}`
    : Object.values({ ...measurement.reading, value: "" })
        .join(" ")
        .trim();

/** Ways of being: class, probability, mean and deviation each. */
const ways = (...list: readonly (readonly [number, number, number, number])[]) => ({
  classes: list.map(([c]) => c),
  weights: list.map(([, p]) => p),
  mean: list.map(([, , m]) => m),
  deviation: list.map(([, , , d]) => d),
});

describe("what is on offer", () => {
  it("expects nothing of the same reading once more, whether the meter is named or not; of another meter it does", () => {
    const circuit = readTrail("BT1 12V 2%: [P] R1 100 5% + [B] (RT1 820 5% | RT2 1k 5%)").circuit as Circuit;
    const { meter } = SHIPPED_METERS[0];
    const again = (named: object) => {
      const taken = { quantity: "resistance", from: "B", to: "0", value: 505, step: 1, range: "2000ohm" };
      const input: RankInput = {
        circuit,
        readings: [{ ...taken, ...named } as Reading],
        meter,
        situation: "complaint",
      };
      const plan = planMeasurements(input, weighToEnd(input) as Weighing, { count: 400 });
      const same = plan?.suggestions.find(
        ({ measurement: m }) =>
          "reading" in m && m.reading.quantity === "resistance" && m.reading.from === "B" && !m.reading.lifted,
      );
      return same?.informationBits ?? 0;
    };
    expect(again({})).toBeLessThan(0.1);
    expect(again({ meter: "Handheld" })).toBeLessThan(0.1);
    expect(again({ meter: "spare" })).toBeGreaterThan(0.3);
  });

  it("names no two points twice, whichever way round, and a voltage against the reference once", () => {
    const circuit = readTrail(VENT).circuit as Circuit;
    const offered = measurementsOn(buildNetwork(circuit)).flatMap((m) => ("reading" in m ? [m.reading] : []));
    const volts = offered.filter((r) => r.quantity === "voltage");
    const places = volts.map((r) => pairKey(r.from, r.to ?? circuit.reference));
    expect(new Set(places).size).toBe(places.length);
  });

  it("is what tells a twentieth of a bit or more, and nothing that tells less beside it", () => {
    const bits = planFor(VENT, ["D 2.0"], { count: 100 }).plan.suggestions.map((s) => s.informationBits);
    expect(Math.min(...bits)).toBeGreaterThanOrEqual(0.05);
    // Some of what is on offer there tells between that and twice as much.
    expect(bits.filter((b) => b < 0.1).length).toBeGreaterThan(1);
  });

  it("says what the four leading suspects foretell, and the likeliest of each of the four leading repairs, the likeliest first", () => {
    for (const read of [["B 22.8"], ["D 2.0"], []]) {
      const { plan, weighing } = planFor(VENT, read);
      const predicted = plan.suggestions[0].predictions.map((p) => JSON.stringify(p.faults));
      const single = weighing.hypotheses.map((h) => faultsOf(weighing.prepared, h)).filter((f) => f.length < 2);
      const byPart = new Map<string, { name: string; sum: number }>();
      single.forEach((faults, i) => {
        const of = faults.map((f) => ("part" in f ? designatorOf(f.part) : f.nodes.join())).join();
        const known = byPart.get(of) ?? { name: JSON.stringify(faults), sum: 0 };
        byPart.set(of, { ...known, sum: known.sum + weighing.hypotheses[i].probability });
      });
      const leadRepairs = [...byPart.values()].sort((a, b) => b.sum - a.sum).slice(0, 3);
      expect(predicted).toEqual(expect.arrayContaining(leadRepairs.map((r) => r.name)));
      const four = weighing.hypotheses.slice(0, 4).map((h) => JSON.stringify(faultsOf(weighing.prepared, h)));
      expect(predicted.slice(0, 4)).toEqual(four);
      expect(predicted.length).toBeLessThanOrEqual(8);
    }
  });
});

describe("information", () => {
  it("is one bit where two even suspects part for good, none where they say the same or ask for the same", () => {
    expect(worthOf(ways([0, 0.5, 0, 1], [1, 0.5, 100, 1]))).toEqual({
      bits: expect.closeTo(1, 6),
      settles: expect.closeTo(1, 6),
    });
    expect(worthOf(ways([0, 0.5, 3, 1], [1, 0.5, 3, 1])).bits).toBeCloseTo(0, 9);
    expect(worthOf(ways([0, 0.5, 0, 1], [0, 0.5, 100, 1])).bits).toBeCloseTo(0, 9);
  });

  it("agrees with a fine sum over everything the meter might show, and so does the chance that it settles", () => {
    const list = [
      [0, 0.4, 0, 1],
      [1, 0.3, 1.5, 0.7],
      [2, 0.2, -2, 2],
      [0, 0.1, 6, 0.5],
    ] as const;
    const density = ([, p, m, d]: readonly [number, number, number, number], v: number) =>
      (p / (d * Math.sqrt(2 * Math.PI))) * Math.exp(-0.5 * ((v - m) / d) ** 2);
    let bits = 0;
    let settles = 0;
    const step = 0.002;
    for (let v = -15; v < 15; v += step) {
      const all = list.reduce((s, o) => s + density(o, v), 0);
      const byClass = [0, 1, 2].map((c) => list.filter(([k]) => k === c).reduce((s, o) => s + density(o, v), 0));
      const prior = [0.5, 0.3, 0.2];
      byClass.forEach((f, c) => {
        if (f > 1e-300) bits += f * Math.log2(f / (prior[c] * all)) * step;
      });
      if (Math.max(...byClass) >= 0.95 * all) settles += all * step;
    }
    const worth = worthOf(ways(...list));
    // Five nodes a way are good to a few hundredths of a bit, which is all that an order needs.
    expect(Math.abs(worth.bits - bits)).toBeLessThan(0.03);
    expect(Math.abs(worth.settles - settles)).toBeLessThan(0.12);
  });
});

describe("the plan", () => {
  it("asks where the two leading suspects part, and foretells what each would show", () => {
    const { plan } = planFor(VENT, ["A 23.97", "B 19.82", "D 1.95"]);
    const [first] = plan.suggestions;
    expect(place(first)).toMatch(/voltage.*C/);
    expect(first.informationBits).toBeGreaterThan(0.9);
    expect(first.informationBits).toBeLessThanOrEqual(plan.entropyBits);
    const [one, two] = first.predictions.map((p) => p.prediction);
    expect(Math.abs(one.value - two.value)).toBeGreaterThan(10 * (one.plusMinus + two.plusMinus));
    expect(readingsToSettle(plan, seededRandom(3))).toBe(1);
  });

  it("halves the suspects first when three lamps in a row are dark", () => {
    const { plan } = planFor("BT1 12V: F1 2A + [A] LA1 6 + [B] LA2 6 + [C] LA3 6", []);
    expect(place(plan.suggestions[0])).toMatch(/voltage (B|C)$/);
    const needed = readingsToSettle(plan, seededRandom(3)) as number;
    expect(needed).toBeGreaterThanOrEqual(2);
    expect(needed).toBeLessThanOrEqual(5);
  });

  it("orders by school", () => {
    const lines = ["A 23.97"];
    const bySchool = (school: string) => planFor(VENT, lines, { school }).plan.suggestions.map(place);
    expect(bySchool("swapOne")[0]).toMatch(/^swap /);
    expect(bySchool("fromSupply")[0]).toMatch(/voltage/);
    expect(bySchool("halfSplit")[0]).toMatch(/voltage/);
    const { suggestions } = planFor(VENT, lines).plan;
    const rate = suggestions.map((s) => s.informationBits / s.measurement.minutes);
    expect(rate).toEqual([...rate].sort((a, b) => b - a));
  });

  it("counts minutes: what is free to probe comes before what must be unsoldered", () => {
    const { plan } = planFor(VENT, ["A 23.97", "B 19.82", "D 1.95"], {
      minutes: { voltage: 60, ohms: 60, current: 60, lift: 0.1, swap: 90 },
    });
    expect(plan.suggestions[0].measurement.kind).toBe("lift");
  });

  it("puts together what only dismantling tells apart, and says how to split it", () => {
    // A hair more in the fuse or in the joint beside it: the same everywhere one can probe.
    const { plan } = planFor("BT1 12V ri=0.05: [P] R1 100 1% + [Q] R2 100 1%", ["P 11.97", "Q 5.985"]);
    for (const { members, split, probability } of plan.groups) {
      expect(probability).toBeGreaterThan(0);
      if (members.length > 1 && split) expect(split.kind).toBe("lift");
    }
    const together = plan.groups.find((g) => g.members.some((m) => m.length === 0));
    expect(together?.members.length).toBeGreaterThan(1);
  });

  it("promises what readings then give: the entropy falls by it on the average over what might be shown", () => {
    const circuit = readTrail("BT1 12V: F1 2A + [A] R1 100 + [B] R2 220 + [C] R3 330").circuit as Circuit;
    const input: RankInput = { circuit, readings: [], priors: { doubleShare: 0, blunder: 0 } };
    const weighing = weighToEnd(input);
    if (weighing.kind === "problem") throw new Error(weighing.message);
    const plan = planMeasurements(input, weighing, {}) as Plan;
    const random = seededRandom(6);
    const offer = plan.offers.find((x) => x.measurement.kind === "voltage") as Offer;
    const at = offer.outcome.kind === "reading" ? offer.outcome.at : -1;
    const entropy = (p: readonly number[]) => p.reduce((sum, q) => sum - (q > 0 ? q * Math.log2(q) : 0), 0);
    const groups = 1 + Math.max(...plan.classes);
    let left = 0;
    const DRAWS = 400;
    for (let draw = 0; draw < DRAWS; draw += 1) {
      const u = random.next();
      let before = 0;
      const truth =
        plan.outlooks.find((o) => {
          before += o.probability;
          return before >= u;
        }) ?? plan.outlooks[0];
      const value = truth.mean[at] + truth.deviation[at] * random.normal();
      const weights = plan.outlooks.map(
        (o) => (o.probability / o.deviation[at]) * Math.exp(-0.5 * ((value - o.mean[at]) / o.deviation[at]) ** 2),
      );
      const total = weights.reduce((a, b) => a + b, 0);
      const byGroup = new Array<number>(groups).fill(0);
      plan.outlooks.forEach((_, i) => {
        byGroup[plan.classes[i]] += weights[i] / total;
      });
      left += entropy(byGroup) / DRAWS;
    }
    const promised = plan.entropyBits - offer.informationBits;
    expect(Math.abs(left - promised), `${left} left, ${promised} promised`).toBeLessThan(0.15);
  });
});
