import { describe, expect, it } from "vitest";
import type { Circuit, Kind } from "../circuit/index.ts";
import { leadingRepair, proofOf } from "../judgement/index.ts";
import { readQuick, readTrail } from "../notation/index.ts";
import { planMeasurements } from "../plan/index.ts";
import { faultsOf, weighToEnd } from "../rank/index.ts";
import { type Meter, meterData, type NumericReading, type Reading } from "../record/index.ts";
import { adviceFor, deadLoad, deadLoadsOf, deadSignOf, openSum, questionsOf, toldAt } from "./index.ts";

const CHAIN = "BT1 12V ri=0.1: R1 1k 1% + [A] R2 1k 1% + [B] R3 1k 1%";

function benchOf(trail: string, lines: readonly string[], meter: Meter = {}) {
  const circuit = readTrail(trail).circuit as Circuit;
  const read = (line: string): Reading => {
    const found = readQuick(line, circuit, undefined, { meter });
    if (found.kind !== "reading") throw new Error(line);
    return found.reading;
  };
  const input = { circuit, readings: lines.map(read), meter };
  const weighing = weighToEnd(input);
  if (weighing.kind === "problem") throw new Error(weighing.message);
  return { circuit, network: weighing.prepared.network, input, weighing, read };
}

function asked(trail: string, lines: readonly string[], line: string, meter: Meter = {}) {
  const { network, input, weighing, read } = benchOf(trail, lines, meter);
  return questionsOf(input, weighing.hypotheses, network, read(line) as NumericReading);
}

describe("a slip is asked about", () => {
  // Twelve volts over three equal parts: 8 V at A, 4 V at B, 4 mA.
  it.each([
    ["sign", ["B 4.00"], "A -8.00", { value: 8 }],
    ["thousand", ["B 4.00"], "A 8.00mV", { value: 8 }],
    ["ten", ["B 4.00"], "A 0.80", { value: 8 }],
    ["zero", ["B 4.00", "R3 3.98mA"], "A 0.00", undefined],
    ["beyond", ["B 4.00"], "A 31.6", undefined],
    ["voltsAsAmps", ["A 8.00"], "R2 4.01A", { quantity: "voltage", from: "A", to: "B", value: 4.01 }],
    ["ammeterAcross", ["A 8.00", "B 4.00"], "R2 5.99mA", undefined],
    ["sameNode", ["A 8.00", "B 4.00"], "A-B 0.2ohm", undefined],
    ["aboveOwn", ["A 8.00", "B 4.00"], "A-B 1.34kohm", undefined],
    ["wholeSupply", ["A 8.00", "B 4.00"], "R2 11.99V", { quantity: "voltage", from: "+", value: 11.99 }],
  ] as const)("%s", (kind, before, line, instead) => {
    const [first] = asked(CHAIN, before, line);
    expect(first?.kind).toBe(kind);
    if (instead) expect(first.instead).toMatchObject(instead);
    else expect(first.instead).toBeUndefined();
  });

  it("amperes given as volts", () => {
    // 30 mA through 100, 200 and 100 Ω: 6 V across the middle one.
    const chain = CHAIN.replace("R2 1k", "R2 2k").replaceAll(/(\d)k/g, "$100");
    const [first] = asked(chain, ["A 9.00", "B 3.00"], "R2 30.0mV");
    expect(first).toMatchObject({ kind: "ampsAsVolts", instead: { quantity: "current", through: "R2", value: 0.03 } });
  });

  it("fingers on both tips, and leads that were not nulled", () => {
    const high = "BT1 12V ri=0.1: R1 100k 1% + [A] R2 47k 1% + [B] R3 47k 1%";
    // 47 kΩ beside a body of 100 kΩ.
    expect(asked(high, [], "A-B 32.0kohm")[0]?.kind).toBe("fingers");
    const low = "BT1 12V ri=0.1: R1 100 1% + [A] R2 2.2 1% + [B] R3 100 1%";
    const fine = { leads: { ohms: 0.4 }, resistance: { accuracy: { percent: 0.1, counts: 2 }, offset: 0.005 } };
    const [leads] = asked(low, [], "A-B 2.61ohm", fine);
    expect(leads).toMatchObject({ kind: "leads", instead: { value: 2.21, nulled: true } });
  });

  it("which way a current flows, where its size alone leaves that open and nobody said", () => {
    const bridge = (other: string) => `BT1 12V: (R1 1k + [A] R2 ${other} | R3 1k + [B] R4 1k)\n[A] R5 100 [B]`;
    // R2 may have more or less than the kilohm that balances: 0.8 mA flow either way.
    const [open] = asked(bridge("?"), [], "R5 0.80mA");
    expect(open).toMatchObject({ kind: "direction", flows: { from: "A", to: "B" }, instead: { value: -8e-4 } });
    expect(asked(bridge("?"), [], "R5 +0.80mA")).toEqual([]);
    expect(asked(bridge("?"), [], "R5 -0.80mA")).toEqual([]);
    expect(asked(bridge("?"), ["A 6.48", "B 6.40"], "R5 0.80mA")).toEqual([]);
    // 8 V behind 667 Ω against 6 V behind 500 Ω and 100 Ω: 1.58 mA from A to B, and not the other way.
    expect(asked(bridge("2k"), [], "R5 1.58mA")).toEqual([]);
    expect(asked(bridge("2k").replace("[A] R5 100 [B]", "[B] R5 100 [A]"), [], "R5 1.58mA")[0]?.kind).toBe("direction");
    // Out of the plus goes without saying.
    expect(asked(CHAIN, [], "BT1 4.00mA")).toEqual([]);
  });

  it("not where a live suspect foretells the reading as well", () => {
    expect(asked(CHAIN, [], "A 8.00")).toEqual([]);
    expect(asked(CHAIN, ["B 0.00"], "A 12.0")).toEqual([]);
    expect(asked(CHAIN, ["A 12.0"], "B 0.00")).toEqual([]);
    expect(asked(CHAIN, ["A 8.00", "B 4.00"], "R2 3.98mA")).toEqual([]);
    // A sensor may have any ohms: more than it has at rest are no slip. A resistor's are.
    const bare = (part: string) => asked(`BT1 12V: R1 1k 1% + [A] ${part} [0]`, [], "A 3.3kohm").map((q) => q.kind);
    expect(bare("R2 2k")).toContain("aboveOwn");
    expect(bare("RT1 2k")).not.toContain("aboveOwn");
    // R2 has climbed to four times its value, by what was read: more ohms than its own are no question then.
    expect(asked(CHAIN, ["A 10.0", "B 2.00", "R2 8.01V"], "A-B 4.00kohm")).toEqual([]);
  });
});

it("the three leading suspects say what they foretell at a point, the likeliest first", () => {
  const { input, weighing, read } = benchOf(CHAIN, ["B 0.00"]);
  const told = toldAt(input, weighing, read("A 0") as NumericReading);
  const leading = weighing.hypotheses.slice(0, 3).map((h) => faultsOf(weighing.prepared, h));
  expect(told?.leading.map((l) => l.faults)).toEqual(leading);
});

describe("what may come", () => {
  it("is of a current all that a short would bring, however rare, until a reading rules it out", () => {
    // A new build: 24 V over 2 kΩ and 10 Ω. A short of R1 drives 2.4 A.
    const trail = "BT1 24V ri=0: [A] R1 2k 5% + [B] R2 10 5% 100W";
    const toldOf = (lines: string[]) => {
      const { input, read } = benchOf(trail, lines);
      const priors = { healthy: 0.99 };
      const built = weighToEnd({ ...input, priors });
      if (built.kind === "problem") throw new Error(built.message);
      return toldAt({ ...input, priors }, built, read("R2 0A") as NumericReading);
    };
    expect(toldOf([])?.highest).toBeGreaterThan(2.2);
    expect(toldOf(["B 0.12"])?.highest).toBeLessThan(0.2);
  });

  it("has of ohms the range that shows what is likely, though an open would be over all of them", () => {
    const { network, input, weighing, read } = benchOf("BT1 12V: [A] R1 8 5% + [B] R2 8 5%", ["A 12.0", "B 6.00"]);
    const point = read("A-B 0ohm") as NumericReading;
    const told = toldAt(input, weighing, point);
    if (!told) throw new Error("nothing is told");
    expect(adviceFor(network, point, {}, told)).toMatchObject({ range: { span: 200 }, finer: null, isOver: false });
  });
});

describe("a sum that a reading closes", () => {
  const { network, read } = benchOf(CHAIN, []);
  const meter = meterData();
  const before = ["A 8.00", "B 4.00", "A-B 4.01"].map((l) => read(l) as NumericReading);

  it("is asked about where it does not come out, and the reading named that is off", () => {
    const sum = openSum(network, before.slice(0, 2), read("A-B 4.60") as NumericReading, meter);
    expect(sum?.closure.kind).toBe("loop");
    // 4.60 − (8.00 − 4.00)
    expect(Math.abs(sum?.closure.residual ?? 0)).toBeCloseTo(0.6, 9);
    const off = openSum(network, before, read("R3 4.60V") as NumericReading, meter);
    expect(off?.suspect).toMatchObject({ from: "B", value: 4.6 });
  });

  it("is no matter where it does, or where the circuit stood otherwise", () => {
    expect(openSum(network, before.slice(0, 2), before[2], meter)).toBeNull();
    const lifted = { ...(read("A-B 4.60") as NumericReading), state: { lifted: ["R1"] } };
    expect(openSum(network, before.slice(0, 2), lifted, meter)).toBeNull();
  });
});

describe("procedures", () => {
  const LANTERN = "BT1 6V ri=0.2: F1 1A + [A] S1 + [B] LA1 6V 3W";
  const planned = (trail: string, lines: readonly string[]) => {
    const { network, input, weighing } = benchOf(trail, lines);
    const plan = planMeasurements(input, weighing);
    if (!plan) throw new Error("no plan");
    return { network, plan, readings: input.readings };
  };

  it("for a dead load go without a meter from looks to one change at a time, lead by lead, what tells most in a minute first", () => {
    const { network, plan, readings } = planned(LANTERN.replace("[B]", "[B] W1 + [C]"), []);
    expect(deadLoadsOf(network)).toEqual(["LA1"]);
    const steps = deadLoad(network, plan, readings, "LA1");
    const kinds = steps.map((s) => s.measurement.kind);
    const looks = kinds.filter((k) => k === "look").length;
    expect(looks).toBeGreaterThan(0);
    expect(kinds.slice(0, looks)).toEqual(Array(looks).fill("look"));
    const changes = steps.slice(looks);
    for (const { measurement } of changes) expect(["alone", "swap"]).toContain(measurement.kind);
    const swapped = changes.flatMap(({ measurement: m }) => (m.kind === "swap" ? [m.part] : []));
    expect([...swapped].sort()).toEqual(["BT1", "F1", "LA1", "S1", "W1"]);
    const pace = changes.map((s) => s.informationBits / s.measurement.minutes);
    expect(pace).toEqual([...pace].sort((a, b) => b - a));
    const swap = steps.find((s) => s.measurement.kind === "swap");
    const cured = swap?.outcomes.find((o) => o.of.kind === "cured");
    const not = swap?.outcomes.find((o) => o.of.kind === "notCured");
    expect(cured?.leads[0]).toMatchObject({ repair: [{ part: "LA1" }] });
    expect(cured?.leads[0].probability).toBeGreaterThan(0.9);
    expect(not?.leads[0].repair).not.toEqual([{ part: "LA1" }]);
    for (const { outcomes, measurement } of steps)
      if (measurement.kind !== "voltage") expect(outcomes.reduce((s, o) => s + o.probability, 0)).toBeCloseTo(1, 1);
  });

  it("say of each load what one sees while it does nothing", () => {
    expect(["lamp", "coil", "load", "wire"].map((kind) => deadSignOf(kind as Kind))).toEqual([
      ...["dark", "silent", "cold", null],
    ]);
  });

  it("leave out what tells nothing any more, and tick what was done", () => {
    const { network, plan, readings } = planned(LANTERN, ["LA1 dark", "B 6.00"]);
    const steps = deadLoad(network, plan, readings, "LA1");
    expect(steps.map((s) => s.measurement.kind)).not.toContain("swap");
    const again = planned(LANTERN, ["LA1 dark"]);
    const dark = deadLoad(again.network, again.plan, again.readings, "LA1");
    expect(dark.filter((s) => s.isDone).map((s) => s.measurement.kind)).toEqual(["look"]);
    expect(dark.filter((s) => s.measurement.kind === "swap").length).toBeGreaterThan(1);
  });

  it("prove the leading suspect by the one measurement that tells it from all others", () => {
    const { plan, readings } = planned(CHAIN, ["BT1 12.0V", "A 10.3", "B 5.14"]);
    const [proof] = proofOf(plan, readings, leadingRepair(plan)).steps;
    expect(plan.repairs.shares[0].repair).toMatchObject([{ part: "R1" }]);
    const suspect = proof?.outcomes.find((o) =>
      o.of.kind === "reads" ? o.of.side === "suspect" : o.of.kind === "cured",
    );
    expect(suspect?.leads[0]).toMatchObject({ repair: [{ part: "R1" }] });
    expect(suspect?.leads[0].probability).toBeGreaterThan(0.8);
  });
});
