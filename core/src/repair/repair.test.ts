import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { afterChange, type Configuration } from "../configuration/index.ts";
import { limitOf } from "../measure/index.ts";
import { readQuick, readTrail } from "../notation/index.ts";
import { meterData, type NumericReading, type Reading, type Repaired, takenSo } from "../record/index.ts";
import { drawCircuit, seededRandom } from "../simulate/index.ts";
import { type PlainFault, plainReading } from "../test/plain/bench.ts";
import { coverOf } from "./cover.ts";
import {
  checkOf,
  isGoodPart,
  type ProofInput,
  type ProofSet,
  proofSet,
  proofVerdict,
  repairSteps,
  replacementsFor,
  stepsDone,
  worstCases,
} from "./index.ts";

const circuitOf = (trail: string) => readTrail(trail).circuit as Circuit;
const VENT = "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 1%";

describe("what a part has to bear", () => {
  it("is the worst over levers, wipers and tolerances, not what is drawn", () => {
    // 10 V ± 1 % over 100 Ω ± 1 %: V²/R grows by 2 · 1 % + 1 %, to first order.
    const worst = worstCases(circuitOf("BT1 10V 1% ri=0: S1 open + [A] R1 100 1%"));
    expect(worst.get("R1")?.watts).toBeCloseTo(1.03, 3);
    expect(worst.get("R1")?.amps).toBeCloseTo(0.102, 3);
    // With the wiper at the end the whole supply is across R1.
    const turned = worstCases(circuitOf("BT1 10V 0% ri=0: [P] RV1 1k at=50% wiper=[W]\n[W] R1 1k 0% [0]"));
    expect(turned.get("R1")?.volts).toBeGreaterThan(9.9);
    // A rheostat behind an open switch: closed, and turned to nothing.
    const both = worstCases(circuitOf("BT1 12V 0% ri=0: S1 open + [A] R1 10 0% + [B] RV1 100 0% wiper=[0]"));
    expect(both.get("R1")?.watts).toBeGreaterThan(13.5);
    // Each of nine switches has its lamp; only all of them closed load the one resistor that feeds them.
    const lamps = Array.from({ length: 9 }, (_, i) => `[A] S${i + 1} open + R${i + 2} 100 0% [0]`).join("\n");
    const many = worstCases(circuitOf(`BT1 10V 0% ri=0: R1 1 0% + [A] RV1 10k 0% at=50%\n${lamps}`));
    expect(many.get("R1")?.amps).toBeCloseTo(10 / (1 + 1 / (9 / 100.02 + 1 / 10000)), 2);
  });

  it("decides the rating to buy, with a warning where the drawing's own is too small", () => {
    const of = (trail: string, part: string) => {
      const circuit = circuitOf(trail);
      return replacementsFor(circuit, buildNetwork(circuit), [part])[0];
    };
    // 1.03 W at worst: half used needs 2.06 W, and 3 W is sold.
    expect(of("BT1 10V 1% ri=0: R1 100 1% 1W", "R1").load).toMatchObject({
      least: 3,
      drawn: 1,
      isTooSmall: true,
      isExceeded: true,
    });
    expect(of("BT1 10V 1% ri=0: R1 100 1% 3W", "R1").load).toMatchObject({ isTooSmall: false, isExceeded: false });
    // 0.1 A through the fuse, a little more at worst: three quarters of it used.
    expect(of("BT1 10V 1% ri=0: F1 0.125A + R1 100 1%", "F1").load).toMatchObject({ of: "current", isTooSmall: true });
    expect(of("BT1 10V 1% ri=0: F1 0.125A + LA1 12V 1W", "F1")).toMatchObject({ startsHard: true });
    expect(of("BT1 12V ri=0: LA1 12V 5W", "LA1")).toMatchObject({ rated: { volts: 12, watts: 5 }, value: null });
    expect(of("BT1 10V 1% ri=0: AM1 + R1 100", "AM1").load).toBeNull();
    expect(of("BT1 18V ri=0: LA1 12V 5W", "LA1").load).toMatchObject({ of: "volts", isExceeded: true });
    // 24 V backwards and a little, half used: 60 V is sold; ten volts on a capacitor, four fifths used: 16 V.
    expect(of("BT1 24V 1% ri=0: (R1 100 | D1 rev)", "D1")).toMatchObject({ stands: 60, value: null });
    expect(of("BT1 10V 1% ri=0: (R1 100 | C1 100u 6.3V)", "C1")).toMatchObject({ stands: 16, load: null });
    expect(of("BT1 10V 1% ri=0: R1 100 + LED1", "LED1").stands).toBeNull();
    expect(of("BT1 10V ri=0: R1 100 + ZD1 5V1 rev", "ZD1").value).toMatchObject({ unit: "V", nominal: 5.1 });
    const string = "BT1 24V: LA1 6V 0.3A + [A] LA2 6V 0.3A + [B] LA3 6V 0.3A + [C] LA4 6V 0.3A";
    expect(of(string, "LA2").load).toMatchObject({ of: "volts", isExceeded: false, isTooSmall: false });
  });

  it("gives standard values, alone and two together, where the value is none that is sold", () => {
    const circuit = circuitOf("BT1 9V: R1 940 + R2 470");
    const [odd, usual] = replacementsFor(circuit, buildNetwork(circuit), ["R1", "R2"]);
    expect(odd.nearest).toBe(910);
    expect(odd.pairs[0]).toMatchObject({ ohms: 940, kind: "series", a: 470, b: 470 });
    expect(usual).toMatchObject({ nearest: null, pairs: [] });
  });
});

it("a new part is measured before it goes in: its tolerance and the meter's limit together", () => {
  const meter = meterData({ resistance: { percent: 1, counts: 0, offset: 0 } } as never);
  const [, r1] = circuitOf("BT1 9V: R1 1k 5% + F1 1A + LA1 12V 6W + PS1 5V").parts;
  const check = checkOf(r1, meter);
  if (!check) throw new Error("no check");
  expect(check.low).toBeLessThanOrEqual(950);
  expect(check.low).toBeGreaterThan(930);
  expect(check.high).toBeGreaterThanOrEqual(1050);
  expect(check.high).toBeLessThan(1070);
  expect([940, 1000, 1100].map((ohms) => isGoodPart(check, ohms) || ohms)).toEqual([
    check.low <= 940 ? true : 940,
    true,
    1100,
  ]);
  const [, , f1, la1] = circuitOf("BT1 9V: R1 1k + F1 1A + LA1 12V 6W").parts;
  expect(isGoodPart(checkOf(f1, meter) as never, 0.1)).toBe(true);
  expect(isGoodPart(checkOf(f1, meter) as never, 50)).toBe(false);
  // A small fuse has ohms of its own: 0.1 V at 32 mA are 3 Ω, and up to twice that is one as well.
  const [, small] = circuitOf("BT1 9V: F1 0.032A + R1 1k").parts;
  expect([3, 6, 12].map((ohms) => isGoodPart(checkOf(small, meter) as never, ohms))).toEqual([true, true, false]);
  // 24 Ω hot is about 2 Ω cold.
  expect(isGoodPart(checkOf(la1, meter) as never, 2)).toBe(true);
  // A dead short and a poor plug are none, on the meter that ships: ±(0.8 % + 3 digits of 0.1 Ω).
  const usual = meterData(undefined);
  const [, lamp, plug] = circuitOf("BT1 9V: LA1 6V 0.3A + J1 + R1 1k").parts;
  const shown = (part: typeof lamp, ohms: number) => isGoodPart(checkOf(part, usual) as never, ohms);
  expect([0, 0.1, 0.3, 1.7, 20].map((ohms) => shown(lamp, ohms))).toEqual([false, false, false, true, false]);
  expect([0, 0.3, 0.6].map((ohms) => shown(plug, ohms))).toEqual([true, true, false]);
  expect(isGoodPart(checkOf(la1, meter) as never, 24)).toBe(false);
});

it("the steps take power off first, ask for what blew a fuse, and undo what was done for a test", () => {
  const circuit = circuitOf(VENT);
  const standing: Configuration = {
    lifted: ["R3"],
    swapped: ["R1"],
    values: { R2: 2000 },
    added: [{ from: "C", ohms: 5 }],
    out: ["R4"],
    off: ["BT1"],
    meters: [{ from: "B" }, { from: "A", to: "D" }, { through: "R2" }],
  };
  const keys = repairSteps(circuit, [{ part: "R1" }, { nodes: ["A", "D"] }], standing).map((s) => s.key);
  expect(keys).toEqual([
    "off",
    "check R1",
    "fit R1",
    "restore lifted R3",
    "restore out R4",
    "restore value R2",
    "restore off BT1",
    "restore meteredAcross B-",
    "restore meteredAcross A-D",
    "restore metered R2",
    "restore added C-",
    "clear A~D",
    "on",
    "try",
    "prove",
  ]);
  expect(repairSteps(circuit, [{ part: "F1" }], {}).map((s) => s.key)).toContain("cause F1");
  expect(repairSteps(circuit, [{ part: "F1" }, { part: "R1" }], {}).map((s) => s.key)).not.toContain("cause F1");
  // Each step that changes the circuit does just that.
  let now = standing;
  for (const { change } of repairSteps(circuit, [{ part: "R1" }, { nodes: ["A", "D"] }], standing))
    if (change) now = afterChange(now, change);
  expect(now).toEqual({ swapped: ["R1"], cleared: [["A", "D"]] });
});

it("what a test put in already is not fitted again; what was ticked stays done, and power off is next only where it is due", () => {
  const circuit = circuitOf(VENT);
  const next = (standing: Configuration, done: string[] = [], parts = ["R1"]) => {
    const steps = repairSteps(
      circuit,
      parts.map((part) => ({ part })),
      standing,
    );
    const found = stepsDone(steps, standing, { done, checks: {} }, false);
    return steps.find((s) => !found.has(s.key))?.key;
  };
  expect(next({})).toBe("off");
  expect(next({ swapped: ["R1"] })).toBe("try");
  expect(next({ swapped: ["R1"], lifted: ["R3"] })).toBe("off");
  expect(next({ swapped: ["R1"] }, [], ["R1", "R2"])).toBe("off");
  expect(next({}, ["off"])).toBe("check R1");
  expect(next({ swapped: ["R1"] }, ["off", "check R1"])).toBe("on");
  expect(next({ swapped: ["F1"] }, [], ["F1"])).toBe("cause F1");
});

function planned(input: ProofInput): ProofSet {
  const set = proofSet(input);
  if (set.kind === "problem") throw new Error(set.message);
  return set;
}

describe("the readings that prove a repair", () => {
  const IDEAL = { input: 1e7, burden: 1 };
  const volts = (circuit: Circuit, reading: Reading, faults: readonly PlainFault[]) =>
    plainReading(circuit, reading as never, faults, { factor: {} }, IDEAL);

  it("show every open and short that any node shows plainly, by the plain reference, with fewer readings than nodes", () => {
    const random = seededRandom(7);
    let readings = 0;
    let nodes = 0;
    const missed: string[] = [];
    for (let c = 0; c < 12; c += 1) {
      const circuit = drawCircuit(8 + (c % 6), random);
      const network = buildNetwork(circuit);
      const set = planned({ circuit, repaired: [], mattered: [] });
      const points = network.nodes
        .filter((n) => n !== circuit.reference)
        .map((from): Reading => ({ quantity: "voltage", from, value: 0 }));
      readings += set.readings.length;
      nodes += points.length;
      const faults = circuit.parts.flatMap((p): PlainFault[] =>
        p.kind === "resistor"
          ? [
              { part: p.designator, mode: "open", value: 0 },
              { part: p.designator, mode: "short", value: 0 },
            ]
          : [],
      );
      // A window is never narrower than what the meter alone leaves.
      for (const { healthy } of set.readings)
        expect(healthy.plusMinus).toBeGreaterThan(0.005 * Math.abs(healthy.value));
      const healthyAt = new Map(points.map((p) => [JSON.stringify(p), volts(circuit, p, [])]));
      for (const fault of faults) {
        // A quarter of what there is moves no tolerance and no meter.
        const isPlain = points.some(
          (p) => Math.abs(volts(circuit, p, [fault]) - (healthyAt.get(JSON.stringify(p)) as number)) > 0.25 * 12,
        );
        if (!isPlain) continue;
        const isShown = set.readings.some(({ measurement: { reading }, healthy }) => {
          const off = volts(circuit, reading, [fault]) - volts(circuit, reading, []);
          return Math.abs(off) > 1.5 * healthy.plusMinus;
        });
        if (!isShown) missed.push(`${c}: ${JSON.stringify(fault)}`);
      }
    }
    expect(missed).toEqual([]);
    expect(readings).toBeLessThanOrEqual(0.6 * nodes);
  });

  it("have windows of the meter alone where nothing of the circuit may vary", () => {
    const set = planned({
      circuit: circuitOf("BT1 10V 0% ri=0: [A] R1 1k 0% + [B] R2 1k 0%"),
      repaired: [],
      mattered: [],
    });
    for (const { measurement, healthy } of set.readings) {
      const reading = { ...measurement.reading, value: healthy.value } as NumericReading;
      expect(healthy.plusMinus).toBeCloseTo(limitOf(reading, meterData()), 9);
    }
    expect(set.readings.length).toBeGreaterThan(0);
  });

  it("contain one that shows what mattered, by current where no voltage does", () => {
    // A stiff supply: what hangs beside the lamp moves no node.
    const circuit = circuitOf("PS1 12V 0.5% ri=0: [A] (R1 100 | R2 10k)");
    const mattered: Repaired[][] = [[{ part: "R2", mode: "open" }]];
    const without = planned({ circuit, repaired: ["R2"], mattered: [] });
    expect(without.readings.every((r) => r.measurement.kind === "voltage")).toBe(true);
    expect(without.unseen.map((u) => JSON.stringify(u.fault)).join()).toMatch(/"R2","mode":"open"/);
    const set = planned({ circuit, repaired: ["R2"], mattered });
    expect(set.readings.map((r) => r.measurement.kind)).toContain("current");
    expect(set.unseen.some((u) => "part" in u.fault && u.fault.part === "R2" && u.fault.mode === "open")).toBe(false);
  });
});

describe("the verdict on a repair", () => {
  const circuit = circuitOf(VENT);
  const input: ProofInput = { circuit, repaired: ["R3"], mattered: [[{ part: "R3", mode: "open" }]] };
  const steps = [{ part: "R3" }];
  const set = planned(input);
  const swapped = afterChange({}, { part: "R3", change: "swapped" });
  const line = (text: string, standing: Configuration): Reading => {
    const read = readQuick(text, circuit, undefined, { standing });
    if (read.kind !== "reading") throw new Error(text);
    return takenSo(read.reading, standing);
  };
  const before = ["A 23.97", "B 19.99", "D 1.82", "C 1.82"].map((l) => line(l, {}));
  /** The planned readings as a bench with these faults shows them, by the plain reference. */
  const taken = (faults: readonly PlainFault[]) =>
    set.readings.map(({ measurement: { reading } }) => {
      const value = plainReading(circuit, reading as never, faults, { factor: {} }, { input: 1e7, burden: 1 });
      return takenSo({ ...reading, value: Number(value.toPrecision(4)), step: 0.01 }, swapped);
    });
  const judged = (readings: readonly Reading[]) => {
    const verdict = proofVerdict(input, set, [...before, ...readings], steps);
    if (verdict.kind === "problem") throw new Error(verdict.message);
    return verdict;
  };

  it("counts only readings taken with the new part in, and says which are missing", () => {
    expect(judged([])).toMatchObject({ kind: "open", taken: 0 });
    expect(judged(taken([]).slice(1))).toMatchObject({ kind: "open", taken: set.readings.length - 1 });
    expect(judged(taken([]).slice(1)).rows.filter((r) => r.index === null)).toHaveLength(1);
    // The leads the other way round, or the reference named: the same points all the same.
    const turned = taken([]).map((r): Reading => {
      if (r.quantity !== "voltage") return r;
      return r.to === undefined ? { ...r, to: circuit.reference } : { ...r, from: r.to, to: r.from, value: -r.value };
    });
    expect(judged(turned)).toMatchObject({ kind: "repaired", taken: set.readings.length });
    const lifted = taken([]).map((r) => ({ ...r, state: { ...r.state, lifted: ["R5"] } }) as Reading);
    expect(judged(lifted)).toMatchObject({ kind: "open", taken: 0 });
  });

  it("is repaired where all agree", () => {
    const verdict = judged(taken([]));
    expect(verdict).toMatchObject({ kind: "repaired", agree: set.readings.length, suspect: null });
    expect(verdict.healthy).toBeGreaterThan(0.5);
  });

  it("is not settled where something else is wrong, or the new part is", () => {
    for (const fault of [
      { part: "R1", mode: "high", value: 400 },
      { part: "R3", mode: "open", value: 0 },
      { part: "R3", mode: "high", value: 4700 },
    ]) {
      const verdict = judged(taken([fault]));
      expect(verdict.kind, JSON.stringify(fault)).toBe("notSettled");
      expect(verdict.agree).toBeLessThan(verdict.taken);
    }
    expect(judged(taken([{ part: "R3", mode: "high", value: 4700 }])).suspect?.faults[0]).toBeDefined();
  });

  it("is doubtful where each reading may pass and together they look like a fault", () => {
    // R1 at 1.6 times its value: no reading is off by more than the tolerances of all four may put it there.
    const chain = circuitOf("BT1 24V 5%: [A] R1 1k 10% + [B] R2 1k 10% + [C] R3 1k 10% + [D] R4 1k 10%");
    const own: ProofInput = { circuit: chain, repaired: ["R3"], mattered: [] };
    const points = planned(own);
    const faults = [{ part: "R1", mode: "high", value: 1600 }];
    const readings = points.readings.map(({ measurement: { reading } }): Reading => {
      const value = plainReading(chain, reading as never, faults, { factor: {} }, { input: 1e7, burden: 1 });
      return { ...reading, value: Number(value.toPrecision(4)), step: 0.01 };
    });
    const verdict = proofVerdict(own, points, readings, []);
    expect(verdict).toMatchObject({ kind: "doubtful", agree: readings.length });
    expect(verdict.kind === "problem" ? 1 : verdict.healthy).toBeLessThan(0.5);
  });
});

describe("a set that sees all", () => {
  /** Three points; the first two hang together by `tie`, the third is dear. */
  const chosen = (tie: number, z: readonly number[]) =>
    coverOf(
      {
        columns: [0, 1, 2],
        cost: [1, 1, 9],
        rows: [{ weight: 1, z: Float64Array.from(z) }],
        counted: 1,
        correlation: Float64Array.from([1, tie, 0, tie, 1, 0, 0, 0, 1]),
        count: 3,
      },
      [2],
    ).sort();

  it("counts a reading by what those before it do not foretell", () => {
    // zᵀC⁻¹z of (2.5, −2.5) is 12.5 apart from each other, and 1,250 where 0.99 ties them.
    expect(chosen(0.99, [2.5, -2.5, 8])).toEqual([0, 1]);
    expect(chosen(0, [2.5, -2.5, 8])).toEqual([2]);
    // Tied the other way round they are one opinion.
    expect(chosen(0.99, [2.5, 2.5, 8])).toEqual([2]);
  });

  it("leaves out what the others make up for, and what is in it whatever happens stays", () => {
    expect(chosen(0, [9, 9, 9])).toEqual([0]);
    const rows = [{ weight: 1, z: Float64Array.from([9, 9]) }];
    const showing = {
      columns: [0],
      cost: [1, 4],
      rows,
      counted: 1,
      correlation: Float64Array.from([1, 0, 0, 1]),
      count: 2,
    };
    expect(coverOf(showing, [0], [1])).toEqual([1]);
  });
});
