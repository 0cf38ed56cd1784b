import { describe, expect, it } from "vitest";
import type { Circuit } from "../circuit/index.ts";
import { habitsOf } from "../faults/index.ts";
import { readTrail } from "../notation/index.ts";
import { Habits, type Priors, type Reading } from "../record/index.ts";
import { type RankInput, rankFaults, rankingOf, weighToEnd, withoutHabits } from "./index.ts";

const circuit = readTrail("BT1 12V: R1 100 + [A] R2 100 + [B] J1").circuit as Circuit;
const ranked = (input: Partial<RankInput>) => {
  const ranking = rankFaults({ circuit, readings: [], ...input });
  if (ranking.kind === "problem") throw new Error(ranking.message);
  return ranking;
};
const share = (input: Partial<RankInput>, name: string) =>
  ranked(input).suspects.find(
    (s) => s.faults.length === 1 && "part" in s.faults[0] && `${s.faults[0].part} ${s.faults[0].mode}` === name,
  )?.probability ?? 0;

describe("habits", () => {
  it("make what happened to this very circuit likelier, by Dirichlet counts worked out by hand", () => {
    // Weights by the tables: supply 10, two resistors 1 each, connector 10, a bridge for each pair that shares a neighbour
    // and no part: + and B, A and 0.
    const all = 10 + 2 * 1 + 10 + 2 * 0.3;
    const weight = 1 * 0.5;
    const single = 0.98 * 0.92;
    const count = 3;
    // Two faults, this one and the rest, for each number of counts that the tables may stand for.
    const s = weight / all;
    const believed = [8, 25, 80, 250, 800, 2500].map((k, i) => {
      const evidence = (k * s * (k * s + 1) * (k * s + 2)) / (k * (k + 1) * (k + 2));
      return { p: [0.05, 0.1, 0.15, 0.2, 0.25, 0.25][i] * evidence, mean: (k * s + count) / (k + count) };
    });
    const total = believed.reduce((sum, b) => sum + b.p, 0);
    const expected = believed.reduce((sum, b) => sum + (b.p / total) * b.mean, 0);
    const habits: Priors = { failed: [{ part: "R2", mode: "open", count }] };
    expect(share({ priors: { doubleShare: 0.08 } }, "R2 open")).toBeCloseTo(single * (weight / all), 2);
    expect(share({ habits, priors: { doubleShare: 0 } }, "R2 open")).toBeCloseTo(0.98 * expected, 6);
  });

  it("of other circuits count for kinds, of this one for its parts, and nothing twice", () => {
    const habits = Habits.parse({
      settings: { revision: 0, adjust: [{ kind: "lamp", mode: "open", count: 2 }] },
      jobs: 5,
      kinds: [
        { kind: "connector", mode: "high", count: 4 },
        { kind: "fuse", mode: "open", count: 1 },
      ],
      expected: { connector: 1.5, resistor: 1.5 },
      circuits: [
        {
          expected: { connector: 0.5, resistor: 1 },
          circuit: "mine",
          name: "",
          jobs: 3,
          kinds: [{ kind: "connector", mode: "high", count: 3 }],
          parts: [{ part: "J1", mode: "high", count: 3 }],
        },
      ],
    });
    const mine = habitsOf(habits, "mine");
    const other = habitsOf(habits, "other");
    expect(mine.failed).toEqual([{ part: "J1", mode: "high", count: 3 }]);
    expect(other.failed).toBeUndefined();
    // Gamma with twenty counts of the table's rate: found and twenty over expected and twenty.
    expect(mine.rates?.connector).toBeCloseTo((10 * (20 + 1)) / (20 + 1), 9);
    expect(other.rates?.connector).toBeCloseTo((10 * (20 + 4)) / (20 + 1.5), 9);
    expect(mine.rates?.lamp).toBeCloseTo((20 * (20 + 2)) / 20, 9);
    expect(mine.rates?.resistor).toBeCloseTo((1 * 20) / (20 + 0.5), 9);
    expect(mine.modes?.connector?.high).toBeCloseTo((40 * 0.4 + 1) / 41, 9);
    expect(habitsOf({ ...habits, settings: { ...habits.settings, isOn: false } }, "mine")).toEqual({});
  });

  it("are told by what the ranking would be without them", () => {
    // Half the supply is missing at A, R1 gone high or R2 gone low would both do it.
    const readings: Reading[] = [{ quantity: "voltage", from: "A", value: 1.1, plusMinus: 0.05 }];
    const habits: Priors = { failed: [{ part: "R2", mode: "low", count: 12 }] };
    const weighing = weighToEnd({ circuit, readings, habits });
    if (weighing.kind === "problem") throw new Error(weighing.message);
    const shift = withoutHabits(weighing);
    const plain = ranked({ readings });
    const lead = rankingOf(weighing).repairs[0];
    expect(shift?.lead).toEqual(lead);
    const same = plain.repairs.find((r) => JSON.stringify(r.repair) === JSON.stringify(lead.repair));
    expect(shift?.without).toBeCloseTo(same?.probability ?? 0, 2);
    expect(shift?.leadWithout.repair).toEqual(plain.repairs[0].repair);
    expect(shift?.leadWithout.probability).toBeCloseTo(plain.repairs[0].probability, 2);
    const without = weighToEnd({ circuit, readings });
    expect(without.kind === "problem" ? null : withoutHabits(without)).toBeNull();
  });

  it("come after what was said of the job itself", () => {
    const habits: Priors = { rates: { connector: 500 } };
    const own = share({ habits, priors: { rates: { connector: 10 } } }, "J1 open");
    expect(own).toBeCloseTo(share({}, "J1 open"), 9);
    expect(share({ habits }, "J1 open")).toBeGreaterThan(2 * own * 0.9);
  });
});
