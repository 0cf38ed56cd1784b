import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { type RankInput, weighToEnd } from "../rank/index.ts";
import { follow } from "../test/stories/follow.ts";
import {
  type Draws,
  type Measurement,
  type Offer,
  type Plan,
  planMeasurements,
  readingsToSettle,
  SCHOOLS,
  type School,
  type Suggestion,
} from "./index.ts";

const LAMP = "BT1 12V: F1 1A + [A] S1 + [B] LA1 12V 5W + [C] R1 10 5%";

function planned(trail: string, lines: readonly string[], more: Partial<RankInput> = {}, options = {}) {
  const input = { ...follow({ trail, lines }), ...more };
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") throw new Error(weighing.message);
  const plan = planMeasurements(input, weighing, options) as Plan;
  return { input, weighing, plan };
}

const offerOf = ({ offers }: Plan, kind: Measurement["kind"], part: string) => {
  const found = offers.find(
    ({ measurement: m }) => m.kind === kind && ("part" in m ? m.part : JSON.stringify(m.reading)).includes(part),
  );
  if (!found) throw new Error(`${kind} ${part}`);
  return found;
};

const entropy = (...p: readonly number[]) => p.reduce((s, q) => s - (q > 0 ? q * Math.log2(q) : 0), 0);

describe("what a measurement is worth", () => {
  it("of a swap: how sure its answer is, whatever asks for another repair", () => {
    const { plan } = planned(LAMP, ["A 11.9", "C 0.0"]);
    const total = plan.outlooks.reduce((s, o) => s + o.probability, 0);
    for (const part of ["LA1", "S1"]) {
      const cured = plan.outlooks.reduce((s, o) => {
        const { repair } = plan.repairs.shares[plan.repairs.ofHypothesis[o.hypothesis]];
        return s + (JSON.stringify(repair) === JSON.stringify([{ part }]) ? o.probability : 0);
      }, 0);
      const share = cured / total;
      const yes = share * 0.99 + (1 - share) * 0.01;
      // One in a hundred swaps misleads, either way.
      expect(offerOf(plan, "swap", part).informationBits).toBeCloseTo(entropy(yes, 1 - yes) - entropy(0.01, 0.99), 6);
    }
  });

  it("of a reading: what is left of it where one in three is mis-taken", () => {
    const trail = "BT1 10V 1% ri=0: [A] R1 1k 1% + [B] R2 1k 1%";
    const at = (blunder: number) => offerOf(planned(trail, [], { priors: { blunder } }).plan, "voltage", '"B"');
    const [careful, hasty] = [at(1e-6), at(1 / 3)];
    expect(hasty.informationBits / careful.informationBits).toBeCloseTo(2 / 3, 2);
    expect(hasty.settles).toBeLessThan(careful.settles);
  });

  it("of a look that was had already: next to nothing, had twice nothing, until the circuit stands otherwise", () => {
    const { plan } = planned(LAMP, ["LA1 dark"]);
    const told = offerOf(plan, "look", "LA1");
    expect(told.informationBits).toBeGreaterThan(0);
    expect(told.informationBits).toBeLessThan(0.01);
    // It is foretold all the same: what was seen wrong is looked at again.
    expect(told.looks?.map((l) => l.seen)).toEqual(told.looks?.map(() => "dark"));
    expect(offerOf(planned(LAMP, ["LA1 dark", "LA1 dark"]).plan, "look", "LA1").informationBits).toBe(0);
    // A look at the part held to the supply is another look, and so is one with the switch moved or at another part.
    expect(offerOf(plan, "alone", "LA1").informationBits).toBeGreaterThan(0.1);
    expect(offerOf(plan, "look", "F1").informationBits).toBeGreaterThan(0.1);
    const swapped = planned(LAMP, ["LA1 dark"], {}, { standing: { swapped: ["F1"] } });
    expect(offerOf(swapped.plan, "look", "LA1").informationBits).toBeGreaterThan(0.1);
    // What the plan is told of how the circuit stands goes before what the job says.
    const input = { standing: { swapped: ["F1"] } };
    expect(offerOf(planned(LAMP, ["LA1 dark"], input).plan, "look", "LA1").informationBits).toBeGreaterThan(0.1);
    const back = planned(LAMP, ["LA1 dark"], input, { standing: {} });
    expect(offerOf(back.plan, "look", "LA1").informationBits).toBeLessThan(0.01);
  });

  it("foretells what each leading suspect would show to the eye", () => {
    const { plan } = planned(LAMP, ["A 0.0"]);
    const { looks = [], predictions } = offerOf(plan, "look", "F1");
    expect(predictions).toEqual([]);
    const seenUnder = (part: string) => looks.find((l) => l.faults.some((f) => "part" in f && f.part === part))?.seen;
    expect(seenUnder("F1")).toBe("blown");
    expect(seenUnder("BT1")).toBe("intact");
  });

  it("foretells a reading as its mean and two standard deviations over the ways a suspect may be", () => {
    const { plan, weighing } = planned("BT1 10V 1% ri=0: [A] R1 1k 1% + [B] R2 1k 1%", ["B 6.2"]);
    const offer = offerOf(plan, "current", "R1");
    if (offer.outcome.kind !== "reading") throw new Error("no reading");
    const { at } = offer.outcome;
    offer.predictions.forEach(({ prediction }, number) => {
      const own = plan.outlooks.filter((o) => o.hypothesis === number);
      const sum = own.reduce((s, o) => s + o.probability, 0);
      const mean = own.reduce((s, o) => s + (o.probability / sum) * o.mean[at], 0);
      const variance = own.reduce(
        (s, o) => s + (o.probability / sum) * (o.deviation[at] ** 2 + (o.mean[at] - mean) ** 2),
        0,
      );
      expect(prediction.value).toBeCloseTo(mean, 12);
      expect(prediction.plusMinus / (2 * Math.sqrt(variance))).toBeCloseTo(1, 6);
    });
    expect(weighing.hypotheses.length).toBeGreaterThan(4);
  });

  it("says which lifted lead splits a group best, and nothing where none tells a hundredth of a bit", () => {
    const { plan } = planned("BT1 10V ri=0: [A] R1 1k + [B] (R2 1k | R3 1k)", ["A 10.00", "B 0.00"]);
    const splitOf = (part: string) => {
      const isIn = (m: (typeof plan.groups)[number]["members"][number]) =>
        m.length === 1 && "part" in m[0] && m[0].part === part && m[0].mode === "short";
      return plan.groups.find((g) => g.members.some(isIn))?.split;
    };
    // R2 shorted looks the same whether R3 beside it is open or not: a lead of R3 lifted tells, and the other way round.
    expect(splitOf("R2")).toMatchObject({ kind: "lift", reading: { lifted: "R3" } });
    expect(splitOf("R3")).toMatchObject({ kind: "lift", reading: { lifted: "R2" } });
    const [first] = plan.groups;
    expect(first.members.map((m) => m.length)).toEqual([1, 2]);
    // Whether the battery is weak behind an open circuit no lifted lead tells.
    expect(first.split).toBeNull();
    expect(first.probability).toBeCloseTo(0.71, 1);
  });
});

const suggestion = (measurement: Measurement, informationBits: number, settles = 0): Suggestion => ({
  measurement,
  informationBits,
  settles,
  predictions: [],
});
const volts = (from: string, bits: number, to?: string, minutes = 0.5) =>
  suggestion(
    {
      kind: "voltage",
      minutes,
      reading: { quantity: "voltage", from: from as never, ...(to ? { to: to as never } : {}), value: 0 },
    },
    bits,
  );
const swap = (part: string, bits: number, minutes = 6) => suggestion({ kind: "swap", part, minutes }, bits);

describe("the orders of the schools", () => {
  const network = buildNetwork(
    readTrail("BT1 9V: R1 1k + [A] R2 1k + [B] R3 1k + [C] R4 1k + [D] R5 1k + [E] R6 1k").circuit as Circuit,
  );
  const list = [
    volts("E", 0.5),
    volts("B", 0.002),
    swap("R9", 1.5),
    volts("C", 0.3),
    volts("D", 0.2, "E"),
    volts("D", 0.4),
    swap("R8", 0.1),
    volts("A", 0.1),
  ];
  const order = (school: School, of: readonly Suggestion[] = list) =>
    SCHOOLS[school]
      .order(of, network)
      .map(({ measurement: m }) => ("part" in m ? m.part : Object.values(m.reading).slice(1, -1).join("-")));

  it("halves what is in question: the middle between the first and the last voltage that tells anything", () => {
    // A is one part from the supply, E five: C in the middle, then D and D-E, then the ends; what tells little by its bits.
    expect(order("halfSplit")).toEqual(["C", "D", "D-E", "E", "A", "R9", "R8", "B"]);
  });

  it("goes from the supply outward", () => {
    expect(order("fromSupply")).toEqual(["A", "C", "D", "D-E", "E", "R9", "R8", "B"]);
  });

  it("swaps one at a time, the likeliest first, and reads only when nothing is left to swap", () => {
    expect(order("swapOne")).toEqual(["R9", "R8", "E", "D", "C", "D-E", "A", "B"]);
  });

  it("goes by bits a minute, and by minutes to the end once the end is near; what tells nothing last", () => {
    expect(order("information")).toEqual(["E", "D", "C", "D-E", "R9", "A", "R8", "B"]);
    const near = [
      { ...swap("dear", 0.9), settles: 0.9 },
      volts("A", 0.005),
      volts("B", 0.009),
      { ...volts("C", 0.3), settles: 0.2 },
    ];
    // Least is 0.5/0.2 = 2.5 minutes: C takes 0.5 + 0.8 · 2.5, the swap 6 + 0.1 · 2.5; the rest by bits a minute.
    expect(order("information", near)).toEqual(["C", "dear", "B", "A"]);
  });
});

describe("how many more readings", () => {
  /** Offers that tell two equally likely suspects apart by one standard deviation each, and draws that show the mean's `off`. */
  const plan = (count: number, minutes = 0.5): Plan => {
    const outlooks = [0, 1].map((hypothesis) => ({
      hypothesis,
      probability: 0.5,
      mean: Float64Array.from({ length: count }, () => hypothesis),
      deviation: new Float64Array(count).fill(1),
      looks: new Float64Array(0),
    }));
    const offers = Array.from(
      { length: count },
      (_, at): Offer => ({
        ...volts(`N${at}`, 0.17, undefined, minutes),
        outcome: { kind: "reading", at },
      }),
    );
    return {
      suggestions: [],
      groups: [],
      repairs: { shares: [], ofHypothesis: Int32Array.of(0, 1) },
      entropyBits: 1,
      outlooks: outlooks as unknown as Plan["outlooks"],
      classes: Int32Array.of(0, 1),
      offers,
    };
  };
  const showing = (off: number): Draws => ({ next: () => 0.25, normal: () => off });

  it("is as many as odds of nineteen to one take", () => {
    // The mean itself shows: each reading makes the odds √e; ln 19 = 2.94, so the sixth is enough.
    expect(readingsToSettle(plan(10), showing(0))).toBe(6);
    // Half a deviation towards the other says nothing; one away from it makes the odds e^1.5: two are enough.
    expect(readingsToSettle(plan(10), showing(0.5))).toBeNull();
    expect(readingsToSettle(plan(10), showing(-1))).toBe(2);
  });

  it("is as many as are enough in about nine of ten ways it may go, not in half of them", () => {
    /** One continuation in `slow` takes six readings, the others two. */
    const mixed = (slow: number): Draws => {
      let begun = 0;
      return {
        next: () => {
          begun += 1;
          return 0.25;
        },
        normal: () => (begun % slow === 0 ? 0 : -1),
      };
    };
    expect(readingsToSettle(plan(10), mixed(6))).toBe(6);
    expect(readingsToSettle(plan(10), mixed(12))).toBe(2);
  });

  it("is not told where what is on offer runs out before, or more than eight would be needed", () => {
    expect(readingsToSettle(plan(5), showing(0))).toBeNull();
    expect(readingsToSettle(plan(6), showing(0))).toBe(6);
    expect(readingsToSettle(plan(14), showing(0.17))).toBeNull();
    expect(readingsToSettle(plan(14), showing(0.1))).toBe(8);
  });
});
