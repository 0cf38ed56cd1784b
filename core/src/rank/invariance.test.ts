import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Circuit, Part } from "../circuit/index.ts";
import type { NumericReading, Priors } from "../record/index.ts";
import { seededRandom } from "../simulate/index.ts";
import { decimals } from "../test/arbitrary/numbers.ts";
import { examples } from "../test/examples.ts";
import { type CaseKind, drawCase } from "../test/plain/drawCase.ts";
import { type RankInput, type Ranking, rankFaults, rankingOf, weighFaults } from "./index.ts";

type NumericCase = { readonly circuit: Circuit; readonly readings: readonly NumericReading[]; readonly priors: Priors };

/** What must not change a ranking, whatever the circuit: drawn cases, with and without mis-taken readings. */
const cases = fc
  .tuple(
    fc.nat(1e6),
    fc.integer({ min: 3, max: 6 }),
    fc.integer({ min: 2, max: 6 }),
    fc.constantFrom<CaseKind>("plain", "slips"),
  )
  .map(([seed, parts, count, kind]): NumericCase => {
    const { circuit, readings, priors } = drawCase(seededRandom(seed), parts, count, kind);
    return { circuit, readings: readings as NumericReading[], priors };
  });

function rank(input: RankInput): Ranking {
  const ranking = rankFaults(input);
  if (ranking.kind === "problem") throw new Error(ranking.message);
  return ranking;
}

const nameOf = ({ faults }: Ranking["suspects"][number]) =>
  faults
    .map((f) => ("nodes" in f ? [...f.nodes].sort().join("-") : `${f.part} ${f.mode}`))
    .sort()
    .join(" & ");

const shares = (ranking: Ranking) => new Map(ranking.suspects.map((s) => [nameOf(s), s.probability]));

/** Every suspect that counts has the same probability in both, within `dust`. */
function expectSame(one: Ranking, other: Ranking, dust = 1e-6) {
  const [a, b] = [shares(one), shares(other)];
  for (const name of new Set([...a.keys(), ...b.keys()]))
    expect(Math.abs((a.get(name) ?? 0) - (b.get(name) ?? 0)), name || "nothing").toBeLessThan(dust);
}

/** Rankings made by turns, a step each, looking at each step (which asks the same evidence and predictor once more). */
function oneStepEach(inputs: readonly RankInput[]): Ranking[] {
  const steps = inputs.map((input) => weighFaults(input));
  const done = new Map<number, Ranking>();
  while (done.size < inputs.length) {
    for (const [k, step] of steps.entries()) {
      if (done.has(k)) continue;
      const { done: isDone, value } = step.next();
      if (isDone) {
        if (value.kind === "problem") throw new Error(value.message);
        done.set(k, rankingOf(value));
      } else if (value.kind === "pairs") rankingOf(value.settle());
    }
  }
  return [...done.entries()].sort(([a], [b]) => a - b).map(([, ranking]) => ranking);
}

const withReadings = (drawn: NumericCase, readings: readonly NumericReading[]): NumericCase => ({ ...drawn, readings });

describe("a ranking", () => {
  it("is of probabilities: none negative, all together one, the same for readings", () => {
    fc.assert(
      fc.property(cases, (drawn) => {
        const { suspects, readings, healthyButMistaken } = rank(drawn);
        for (const { probability } of suspects) expect(probability).toBeGreaterThanOrEqual(0);
        expect(suspects.reduce((sum, s) => sum + s.probability, 0)).toBeCloseTo(1, 9);
        for (const { blunderProbability: p } of readings) expect(p >= 0 && p <= 1 + 1e-9, `${p}`).toBe(true);
        expect(healthyButMistaken >= 0 && healthyButMistaken <= 1 + 1e-9).toBe(true);
      }),
      examples(25),
    );
  });

  it("is the same while another is being made: what they share to work in, they do not share to keep in", () => {
    fc.assert(
      fc.property(cases, cases, (one, two) => {
        const alone = [oneStepEach([one])[0], oneStepEach([two])[0]];
        expect(oneStepEach([one, two])).toEqual(alone);
      }),
      examples(10),
    );
  });

  it("does not care in what order readings were taken", () => {
    fc.assert(
      fc.property(cases, (drawn) => {
        // Borderline cells are split or not by their last digits.
        expectSame(rank(drawn), rank(withReadings(drawn, [...drawn.readings].reverse())), 1e-5);
      }),
      examples(20),
    );
  });

  it("takes a voltage between swapped ends for its negative", () => {
    const swapped = (r: NumericReading, reference: string): NumericReading =>
      r.quantity === "voltage" ? { ...r, from: r.to ?? (reference as typeof r.from), to: r.from, value: -r.value } : r;
    fc.assert(
      fc.property(cases, (drawn) => {
        const turned = drawn.readings.map((r) => swapped(r, drawn.circuit.reference));
        expectSame(rank(drawn), rank(withReadings(drawn, turned)));
      }),
      examples(20),
    );
  });

  it("learns nothing from a reading whose limits are wide open, where none is mis-taken", () => {
    fc.assert(
      fc.property(cases, ({ circuit, readings }) => {
        const vague = { ...readings[0], value: readings[0].value * 3 + 1, plusMinus: 1e9 };
        const priors: Priors = { healthy: 0.05, blunder: 0 };
        expectSame(
          rank({ circuit, readings, priors }),
          rank({ circuit, readings: [...readings, vague], priors }),
          1e-5,
        );
      }),
      examples(20),
    );
  });

  it("takes two readings of one point for one of their mean that is √2 as sure, where none is mis-taken", () => {
    const sure: Priors = { healthy: 0.05, blunder: 0 };
    fc.assert(
      fc.property(cases, decimals(-1, 1), (drawn, apart) => {
        const readings = drawn.readings.slice(0, 3).map((r) => ({ ...r, plusMinus: 0.02 * Math.abs(r.value) + 0.01 }));
        const twice = readings.flatMap((r) => [
          { ...r, value: r.value + (apart * r.plusMinus) / 2 },
          { ...r, value: r.value - (apart * r.plusMinus) / 2 },
        ]);
        const once = readings.map((r) => ({ ...r, plusMinus: r.plusMinus / Math.SQRT2 }));
        const { circuit } = drawn;
        expectSame(
          rank({ circuit, readings: once, priors: sure }),
          rank({ circuit, readings: twice, priors: sure }),
          1e-4,
        );
      }),
      examples(20),
    );
  });

  it("knows resistors by their ratios: volts say the same of all of them ten times as large", () => {
    const priors: Priors = { healthy: 0.05, rates: { bridge: 0 } };
    const meter = { voltage: { inputResistance: "ideal" as const }, current: { burdenResistance: 0 } };
    const scaled = (circuit: Circuit, factor: number): Circuit => ({
      ...circuit,
      parts: circuit.parts.flatMap((p): Part[] => {
        if (p.kind === "supply") return [{ ...p, internalOhms: 5 * factor }];
        const ohms = "resistance" in p && p.resistance.by === "ohms" ? p.resistance.ohms : 47;
        const { designator, from, to } = p;
        return [
          { designator, from, to, kind: "resistor", tolerance: 0.05, resistance: { by: "ohms", ohms: ohms * factor } },
        ];
      }),
    });
    fc.assert(
      fc.property(cases, (drawn) => {
        const run = (factor: number) =>
          rank({
            circuit: scaled(drawn.circuit, factor),
            readings: drawn.readings.filter((r) => r.quantity === "voltage").map((r) => ({ ...r, plusMinus: 0.05 })),
            priors,
            meter,
          });
        // A short is 10 mΩ, whatever it shorts, which must be too little to tell.
        expectSame(run(5), run(50), 5e-3);
      }),
      examples(20),
    );
  });
});
