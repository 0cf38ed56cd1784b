import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit, designatorOf } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { prepare, type RankInput, rankFaults } from "../rank/index.ts";
import { meterData, type NumericReading } from "../record/index.ts";
import { drawCircuit, FaultDrawer, seededRandom, takeReadings } from "../simulate/index.ts";
import { examples } from "../test/examples.ts";
import { type PlainFault, plainReading } from "../test/plain/bench.ts";
import {
  afterwards,
  choicesOf,
  curveOf,
  fitOf,
  historyOf,
  readSupposed,
  type Supposed,
  signaturesOf,
  valueDistribution,
  whatFollows,
  wishedFaults,
  withSupposed,
  writeSupposed,
} from "./index.ts";

const circuitOf = (trail: string) => readTrail(trail).circuit as Circuit;
const EVERY_KIND =
  "BT1 12V ri=0.1: F1 1A + J1 + S1 + [A] R1 100 + [B] (LA1 12V 5W | K1 200 | RV1 10k at=30% wiper=[B]) + [C] RT1 1k + JT1 + [D] HR1 50";
const IDEAL = { input: Number.POSITIVE_INFINITY, burden: 0 };
const NO_DRAW = { factor: {} };
const plain = (f: Supposed): PlainFault =>
  "nodes" in f ? { nodes: f.nodes } : { part: f.part, mode: f.mode, value: f.value ?? 0 };

/** One of every fault that a circuit can have, each value somewhere in its reach. */
function everyFault(circuit: Circuit, share: number): Supposed[] {
  return [...choicesOf(buildNetwork(circuit))].flatMap(([part, choices]) =>
    choices.map(
      ({ mode, reach }): Supposed =>
        reach
          ? { part, mode, value: Number((reach.least * (reach.most / reach.least) ** share).toPrecision(4)) }
          : { part, mode },
    ),
  );
}

describe("faults in words", () => {
  const network = buildNetwork(circuitOf(EVERY_KIND));
  const read = (text: string) => {
    const found = readSupposed(text, network);
    return found.kind === "mistake" ? `${found.message} @${found.at}+${found.length}` : found.faults;
  };

  it("are read as a technician types them", () => {
    expect(read("R1 open")).toEqual([{ part: "R1", mode: "open" }]);
    expect(read("r1 100→2k")).toEqual([{ part: "R1", mode: "high", value: 2000 }]);
    expect(read("R1 2k; F1 blown")).toEqual([
      { part: "R1", mode: "high", value: 2000 },
      { part: "F1", mode: "open" },
    ]);
    expect(read("R1 -> 47 and LA1 shorted")).toEqual([
      { part: "R1", mode: "low", value: 47 },
      { part: "LA1", mode: "short" },
    ]);
    expect(read("J1 +5ohm")).toEqual([{ part: "J1", mode: "high", value: 5.02 }]);
    expect(read("BT1 weak 4ohm, S1 stuck open")).toEqual([
      { part: "BT1", mode: "weak", value: 4 },
      { part: "S1", mode: "stuckOpen" },
    ]);
    expect(read("BT1 9V")).toEqual([{ part: "BT1", mode: "low", value: 9 }]);
    expect(read("BT1 dead")).toEqual([{ part: "BT1", mode: "dead" }]);
    expect(read("A~D bridged")).toEqual([{ nodes: ["A", "D"], mode: "bridged" }]);
    expect(read("bridge A D")).toEqual([{ nodes: ["A", "D"], mode: "bridged" }]);
    expect(read("RV1 wiper open")).toEqual([{ part: "RV1.wiper", mode: "wiperOpen" }]);
    expect(read("R1=high:1820")).toEqual([{ part: "R1", mode: "high", value: 1820 }]);
    expect(read("R1 ×3")).toEqual([{ part: "R1", mode: "high", value: 300 }]);
    expect(read("R1 -20%")).toEqual([{ part: "R1", mode: "low", value: 80 }]);
    expect(read("S1 welded")).toEqual([{ part: "S1", mode: "stuckClosed" }]);
    expect(read("")).toEqual([]);
  });

  it("say what is wrong with them, and where", () => {
    expect(read("R1 open; R9 open")).toBe("there is no part R9 in this circuit @9+7");
    expect(read("F1 shorted")).toMatch(/a fuse is never shorted here: open, high @0\+10/);
    expect(read("R1")).toMatch(/what is wrong with R1\? open, high, low, shorted/);
    expect(read("R1 melted")).toMatch(/@0\+9/);
    expect(read("A~Z")).toMatch(/which two nodes/);
    expect(read("RV1 open")).toMatch(/say which of RV1.top and RV1.bottom is open/);
    expect(read("R1 open, R1 2k")).toMatch(/two ways at once @9\+5/);
    expect(read("R1 2V")).toMatch(/not in ohms/);
    expect(read("R1 0")).toMatch(/R1 cannot become “0”/);
    expect(read("R1 high 50")).toMatch(/50 is not high: R1 is drawn as 100/);
    expect(read("R1 open 2k")).toMatch(/2k is not open: R1 is drawn as 100/);
    expect(read("F1 low 0.01")).toMatch(/a fuse is never low here/);
  });

  it("are read back as they are written, whatever the circuit", () => {
    fc.assert(
      fc.property(fc.nat(9999), fc.double({ min: 0, max: 1, noNaN: true }), (seed, share) => {
        const circuits = [circuitOf(EVERY_KIND), drawCircuit(3 + (seed % 9), seededRandom(seed))];
        for (const circuit of circuits) {
          const network = buildNetwork(circuit);
          for (const fault of everyFault(circuit, share)) {
            const text = writeSupposed(fault, network);
            const back = readSupposed(text, network);
            expect(back, text).toMatchObject({ kind: "supposed" });
            const [found] = back.kind === "supposed" ? back.faults : [];
            expect({ ...found, value: 0 }, text).toEqual({ ...fault, value: 0 });
            if ("value" in fault && found && "value" in found)
              expect((found.value ?? 0) / (fault.value ?? 1), text).toBeCloseTo(1, 3);
          }
        }
      }),
      examples(30),
    );
  });
});

describe("the circuit afterwards", () => {
  it("has the volts of the faulted circuit solved the plain way, with up to three faults", () => {
    const random = seededRandom(5);
    let count = 0;
    for (let round = 0; round < 60; round += 1) {
      const circuit = round % 6 === 0 ? circuitOf(EVERY_KIND) : drawCircuit(4 + (round % 8), random);
      const network = buildNetwork(circuit);
      const all = everyFault(circuit, random.next());
      const some: Supposed[] = [];
      for (let n = 0; n <= round % 3; n += 1) {
        const fault = all[Math.floor(random.next() * all.length)];
        if (!some.some((f) => "part" in f && "part" in fault && designatorOf(f.part) === designatorOf(fault.part)))
          some.push(fault);
      }
      if (round % 4 === 3)
        some.push({ nodes: [network.nodes[1], network.nodes[network.nodes.length - 1]], mode: "bridged" });
      const after = afterwards(network, some);
      if (after.kind === "unsolved") continue;
      network.nodes.forEach((from, n) => {
        const volts = after.solution.volts[n];
        if (n === network.reference || from.includes(".") || Number.isNaN(volts)) return;
        const due = plainReading(circuit, { quantity: "voltage", from, value: 0 }, some.map(plain), NO_DRAW, IDEAL);
        expect(Math.abs(volts - due), `${from} under ${some.map((f) => writeSupposed(f, network))}`).toBeLessThan(
          1e-4 * (1 + Math.abs(due)),
        );
        count += 1;
      });
    }
    expect(count).toBeGreaterThan(150);
  });

  it("lets what is overloaded give way, the worst first, until the circuit holds", () => {
    // R2 shorted: 12 V over 0.2 (the fuse: 0.1 V at 0.5 A), 10 and 0.01 Ω; R1 takes 13.8 W of its 5: hot, but it holds.
    const amps = 12 / (0.2 + 10 + 0.01);
    const network = buildNetwork(circuitOf("BT1 12V ri=0: F1 0.5A + [A] R1 10 5W + [B] R2 100 2W"));
    const { gave, supposed } = whatFollows(network, [{ part: "R2", mode: "short" }]);
    expect(gave).toEqual([{ part: "F1", of: "current", value: expect.closeTo(amps, 6), rating: 0.5 }]);
    expect(supposed.map((f) => writeSupposed(f, network))).toEqual(["R2 shorted", "F1 open"]);
    const after = afterwards(network, supposed);
    expect(after.kind === "afterwards" && Math.abs(after.solution.amps[0])).toBeLessThan(1e-9);
    const before = afterwards(network, [{ part: "R2", mode: "short" }]);
    const loads = before.kind === "afterwards" ? before.loads.map((l) => l && l.value / l.rating) : [];
    expect(loads).toEqual([
      null,
      expect.closeTo(amps / 0.5, 6),
      expect.closeTo((amps * amps * 10) / 5, 6),
      expect.closeTo(0, 1),
    ]);
    // 7.2 V on two of 30 Ω: 1.73 W is 6.9 times what R2 bears; without it R1 has 9 V, 2.7 W, 5.4 times its own.
    const two = buildNetwork(circuitOf("BT1 12V ri=0: R0 10 50W + [A] (R1 30 0.5W | R2 30 0.25W)"));
    expect(whatFollows(two, []).gave.map(({ part, value }) => [part, Number(value.toFixed(3))])).toEqual([
      ["R2", 1.728],
      ["R1", 2.7],
    ]);
    // What is wrong already gives way like any other: 24 V over 50 Ω, 11.5 W of R1's quarter, which leaves it open.
    const low = buildNetwork(circuitOf("BT1 24V ri=0: R1 100 0.25W"));
    const burnt = whatFollows(low, [{ part: "R1", mode: "low", value: 50 }]);
    expect(burnt.gave).toMatchObject([{ part: "R1", of: "power", value: expect.closeTo(24 ** 2 / 50, 6) }]);
    expect(burnt.supposed).toEqual([{ part: "R1", mode: "open" }]);
    // One lamp of two in series shorted: the other has all 12 V on its 6 V, 3.5 times its power or so: it holds.
    const lamps = buildNetwork(circuitOf("BT1 12V ri=0: LA1 6V 3W + [A] LA2 6V 3W"));
    expect(whatFollows(lamps, [{ part: "LA1", mode: "short" }]).gave).toEqual([]);
    // With a fuse that both need, the short blows it and nothing else.
    const fused = buildNetwork(circuitOf("BT1 24V ri=0: F1 0.25A + [A] R1 100 50W + [B] R2 100 50W"));
    expect(whatFollows(fused, [{ nodes: ["A", "0"] as never, mode: "bridged" }]).gave.map((g) => g.part)).toEqual([
      "F1",
    ]);
  });

  it("numbers bridges after the branches", () => {
    const network = buildNetwork(circuitOf("BT1 9V: [A] R1 1k + [B] R2 1k + [C] R3 1k"));
    const { network: faulted } = withSupposed(network, [{ nodes: ["A", "C"] as never, mode: "bridged" }]);
    expect(faulted.branches.map((b) => b.name)).toEqual(["BT1", "R1", "R2", "R3", "A~C"]);
  });
});

describe("signatures", () => {
  const LOADED = { input: 1e7, burden: 1 };

  it("are what the meter would show under every fault, the plain way", () => {
    const random = seededRandom(31);
    for (const circuit of [circuitOf(EVERY_KIND), ...Array.from({ length: 8 }, (_, i) => drawCircuit(4 + i, random))]) {
      const found = signaturesOf({ circuit, readings: [] });
      if (found.kind === "problem") throw new Error(found.message);
      for (const { fault, values, deviations } of found.rows) {
        found.points.forEach(({ reading, healthy }, r) => {
          const due = plainReading(circuit, reading, [plain(fault)], NO_DRAW, LOADED);
          const what = `${reading.quantity} ${JSON.stringify(fault)}`;
          expect(Math.abs(values[r] - due), what).toBeLessThan(1e-4 * (1 + Math.abs(due)));
          const good = plainReading(circuit, reading, [], NO_DRAW, LOADED);
          if (Math.abs(due - good) > 1e-6) expect(Math.sign(deviations[r]), what).toBe(Math.sign(due - good));
          expect(Math.abs(deviations[r]) * healthy.plusMinus, what).toBeCloseTo(Math.abs(values[r] - healthy.value), 9);
        });
      }
    }
  });

  it("put together what no point tells apart, and say which points tell", () => {
    const circuit = circuitOf("BT1 9V: [A] R1 1k + [B] (R2 1k | R3 1k) + [C] R4 1k");
    const found = signaturesOf({ circuit, readings: [] });
    if (found.kind === "problem") throw new Error(found.message);
    const groupOf = (part: string, mode: string) =>
      found.rows.find(({ fault }) => "part" in fault && fault.part === part && fault.mode === mode)?.group;
    expect(groupOf("R2", "open")).toBe(groupOf("R3", "open"));
    expect(groupOf("R1", "open")).not.toBe(groupOf("R4", "open"));
    const numbers = found.rows.map((r) => r.group);
    expect(numbers).toEqual([...numbers].sort((a, b) => a - b));
    expect(found.rows.reduce((sum, r) => sum + r.share, 0)).toBeCloseTo(1, 9);
    const tells = Object.fromEntries(found.points.map((p) => ["from" in p.reading ? p.reading.from : "", p.tells]));
    expect(tells.B).toBeGreaterThan(tells.A);
  });
});

describe("one reading against one value", () => {
  // B of 10 V over R1 1 k and R2: 10·x/(1000 + x).
  const circuit = circuitOf("BT1 10V 0% ri=0: [A] R1 1k 1% + [B] R2 1k 1%");
  const point = (value: number): NumericReading => ({
    quantity: "voltage",
    from: "B" as never,
    value,
    plusMinus: 0.05,
  });

  it("follows the divider's law, and says between which values it agrees", () => {
    const curve = curveOf({ circuit, readings: [] }, point(3), true, "R2");
    if (curve.kind === "problem") throw new Error(curve.message);
    curve.xs.forEach((x, i) => {
      const loaded = (x * 1e7) / (x + 1e7);
      expect(curve.ys[i]).toBeCloseTo((10 * loaded) / (1000 + loaded), 6);
      // R1's ±1 % moves it by 10·x·1000/(1000 + x)² times a hundredth; the meter adds its 0.05.
      const tolerance = (((10 * x * 1000) / (1000 + x) ** 2) * 1) / 100;
      expect(curve.twos[i]).toBeCloseTo(Math.hypot(tolerance, 0.05), 3);
    });
    expect(curve.healthy.value).toBeCloseTo(5, 3);
    expect(curve.agrees).toHaveLength(1);
    for (const end of curve.agrees[0]) {
      const tolerance = (10 * end * 1000) / (1000 + end) ** 2 / 100;
      expect(Math.abs((10 * end) / (1000 + end) - 3) / Math.hypot(tolerance, 0.05)).toBeCloseTo(1, 1);
    }
    expect(curve.agrees[0][0]).toBeLessThan(428.6);
    expect(curve.agrees[0][1]).toBeGreaterThan(428.6);
    const never = curveOf({ circuit, readings: [] }, point(11), true, "R2");
    expect(never.kind === "curve" && never.agrees).toEqual([]);
  });

  it("finds the faults that would give a reading, values solved for", () => {
    const random = seededRandom(77);
    let count = 0;
    for (let round = 0; round < 25; round += 1) {
      const drawn = drawCircuit(4 + (round % 6), random);
      const prepared = prepare({ circuit: drawn, readings: [] });
      if (prepared.kind === "problem") continue;
      const network = buildNetwork(drawn);
      const all = everyFault(drawn, 0.3 + 0.4 * random.next());
      const fault = all[Math.floor(random.next() * all.length)];
      const inner = network.nodes.filter((n, k) => k !== network.reference && !n.includes("."));
      const from = inner[Math.floor(random.next() * inner.length)];
      const reading = { quantity: "voltage", from, value: 0 } as const;
      const due = plainReading(drawn, reading, [plain(fault)], NO_DRAW, { input: 1e7, burden: 1 });
      const good = plainReading(drawn, reading, [], NO_DRAW, { input: 1e7, burden: 1 });
      if (Math.abs(due - good) < 1e-3) continue;
      const wished = wishedFaults({ circuit: drawn, readings: [] }, { ...reading, value: due });
      if (!Array.isArray(wished)) throw new Error("problem");
      const own = wished.filter(
        (w) => "part" in w.fault && "part" in fault && w.fault.part === fault.part && w.fault.mode === fault.mode,
      );
      expect(own.length, `${writeSupposed(fault, network)} makes ${from} ${due}`).toBeGreaterThan(0);
      if ("value" in fault && fault.value !== undefined) {
        const value = fault.value;
        expect(
          own.some((w) => w.between[0] <= value * 1.001 && w.between[1] >= value * 0.999),
          writeSupposed(fault, network),
        ).toBe(true);
      }
      // Each that is offered does give it, the plain way.
      for (const w of wished) {
        const shows = plainReading(drawn, reading, [plain(w.fault)], NO_DRAW, { input: 1e7, burden: 1 });
        expect(Math.abs(shows - due), writeSupposed(w.fault, network)).toBeLessThan(w.shows.plusMinus * 1.2 + 1e-3);
      }
      count += 1;
    }
    expect(count).toBeGreaterThan(12);
  });
});

it("what is set, measured on a bench and ranked, leads or ties", () => {
  const random = seededRandom(8);
  let lost = 0;
  for (let round = 0; round < 30; round += 1) {
    const circuit = drawCircuit(4 + (round % 6), random);
    const network = buildNetwork(circuit);
    const prepared = prepare({ circuit, readings: [], priors: { doubleShare: 1 - 1e-9, healthy: 1e-9, blunder: 0 } });
    if (prepared.kind === "problem") continue;
    const faults = new FaultDrawer(prepared).draw(random);
    const points = network.nodes.flatMap((from, n): NumericReading[] =>
      n === network.reference || from.includes(".") ? [] : [{ quantity: "voltage", from, value: 0 }],
    );
    const options = { meter: meterData({}), bridges: prepared.set.bridges, blunder: 0, counts: 6000 };
    const taken = takeReadings(network, faults, points, options, random);
    if (!taken) continue;
    const input: RankInput = { circuit, readings: taken.map((t) => t.reading) };
    const ranking = rankFaults(input);
    if (ranking.kind === "problem") throw new Error(ranking.message);
    const set = new Set(faults.map(({ site }) => (site.branch < 0 ? "bridge" : network.branches[site.branch].name)));
    const named = (s: (typeof ranking.suspects)[number]) => s.faults.map((f) => ("nodes" in f ? "bridge" : f.part));
    const best = ranking.suspects[0].probability;
    // One of two that hides the other says as much as both: what is set leads where a part of it does.
    const own = ranking.suspects.find((s) => named(s).length > 0 && named(s).every((n) => set.has(n)));
    if (!own || own.probability < best / 3) lost += 1;
  }
  expect(lost).toBeLessThanOrEqual(1);
});

describe("would this explain the readings", () => {
  // Nothing mis-taken, one reading of its own limit: a plain Gaussian, tolerance of R1 (and R2 where it is good) and the meter.
  const circuit = circuitOf("BT1 10V 0% ri=0: [A] R1 1k 1% + [B] R2 1k 1%");
  const priors = { blunder: 0 };
  const law = (r1: number, r2: number) => {
    const loaded = (r2 * 1e7) / (r2 + 1e7);
    return (10 * loaded) / (r1 + loaded);
  };
  const logNormal = (y: number, mean: number, two: number) => {
    const s = two / 2;
    return -0.5 * ((y - mean) / s) ** 2 - Math.log(s) - 0.5 * Math.log(2 * Math.PI);
  };

  it("says how far each reading is off, and how many bits it speaks", () => {
    const reading: NumericReading = { quantity: "voltage", from: "B" as never, value: 6.6, plusMinus: 0.02 };
    const input: RankInput = { circuit, readings: [reading], priors };
    const fit = fitOf(input, [{ part: "R2", mode: "high", value: 2000 }]);
    if (fit.kind === "problem") throw new Error(fit.message);
    const swing = (r2: number, which: "r1" | "r2") =>
      which === "r1" ? (law(1010, r2) - law(990, r2)) / 2 : (law(1000, r2 * 1.01) - law(1000, r2 * 0.99)) / 2;
    const own = { mean: law(1000, 2000), two: Math.hypot(swing(2000, "r1"), 0.02) };
    const good = { mean: law(1000, 1000), two: Math.hypot(swing(1000, "r1"), swing(1000, "r2"), 0.02) };
    expect(fit.readings[0].value).toBeCloseTo(own.mean, 4);
    expect(fit.readings[0].limits).toBeCloseTo((6.6 - own.mean) / own.two, 1);
    const bits = (logNormal(6.6, own.mean, own.two) - logNormal(6.6, good.mean, good.two)) / Math.LN2;
    expect(fit.bits / bits).toBeCloseTo(1, 2);
    expect(fit.readings[0].bits).toBeCloseTo(fit.bits, 6);
    // Held against itself it says nothing; the other way round it says the opposite.
    expect(
      fitOf(input, [{ part: "R2", mode: "high", value: 2000 }], [{ part: "R2", mode: "high", value: 2000 }]),
    ).toMatchObject({ bits: 0 });
    const back = fitOf(input, [], [{ part: "R2", mode: "high", value: 2000 }]);
    expect(back.kind === "fit" && back.bits).toBeCloseTo(-fit.bits, 9);
  });

  it("takes bridges that nobody would have thought of, several faults, and OL", () => {
    const chain = circuitOf("BT1 9V ri=0: [A] R1 1k + [B] R2 1k + [C] R3 1k + [D] R4 1k");
    const read = (from: string, value: number): NumericReading => ({ quantity: "voltage", from: from as never, value });
    const far: Supposed = { nodes: ["A", "D"] as never, mode: "bridged" };
    const fit = fitOf({ circuit: chain, readings: [read("B", 9), read("D", 9)], priors }, [far]);
    if (fit.kind === "problem") throw new Error(fit.message);
    expect(fit.readings.map((r) => Number(r.value.toFixed(2)))).toEqual([9, 9]);
    expect(fit.readings.every((r) => Math.abs(r.limits) < 1)).toBe(true);
    const three = fitOf({ circuit: chain, readings: [read("B", 9)], priors }, [
      far,
      { part: "R1", mode: "open" },
      { part: "R3", mode: "short" },
    ]);
    expect(three.kind === "fit" && Math.abs(three.readings[0].limits)).toBeLessThan(1);
    const open: NumericReading = {
      quantity: "resistance",
      from: "B" as never,
      to: "C" as never,
      value: 2e7,
      beyond: "over",
    };
    const limits = (faults: Supposed[]) => {
      const found = fitOf({ circuit: chain, readings: [open], priors }, faults);
      return found.kind === "fit" ? found.readings[0].limits : Number.NaN;
    };
    expect(limits([{ part: "R2", mode: "open" }])).toBe(0);
    expect(limits([])).toBe(Number.POSITIVE_INFINITY);
  });
});

describe("questioning a suspect", () => {
  const circuit = circuitOf("BT1 9V 0% ri=0: [A] R1 1k 1% + [B] R2 1k 1% + [C] R3 1k 1%");
  const read = (from: string, value: number): NumericReading => ({
    quantity: "voltage",
    from: from as never,
    value,
    plusMinus: 0.02,
  });

  it("spreads a value as Bayes' rule has it", () => {
    // B of R2 = x, R1 = R3 = 1k: 9·(x + 1k)/(x + 2k); even in ln x above 1010.
    const input: RankInput = { circuit, readings: [read("B", 6.75)], priors: { blunder: 0 } };
    const found = valueDistribution(input, [{ part: "R2", mode: "high", value: 2000 }], 0);
    if (!found) throw new Error("no distribution");
    const density = [...found.xs].map((x) => {
      const mean = (9 * (x + 1000)) / (x + 2000);
      const swing = [1, 3].map((k) => {
        const at = (r: number) => (k === 1 ? (9 * (x + 1000)) / (x + 1000 + r) : (9 * (x + r)) / (x + 1000 + r));
        return (at(1010) - at(990)) / 2;
      });
      const two = Math.hypot(...swing, 0.02);
      return Math.exp(-0.5 * ((6.75 - mean) / (two / 2)) ** 2) / two;
    });
    const top = Math.max(...density);
    found.xs.forEach((x, i) => {
      expect(Math.abs(found.density[i] - density[i] / top), `at ${x}`).toBeLessThan(0.03);
    });
    expect(valueDistribution(input, [{ part: "R2", mode: "open" }], 0)).toBeNull();
  });

  it("follows how probability moved, and heeds what somebody knows of a part", () => {
    const readings = [read("A", 9), read("B", 9), read("C", 0)];
    const input: RankInput = { circuit, readings };
    const { steps, repairs } = historyOf(input);
    expect(steps).toHaveLength(4);
    const r2 = repairs.findIndex((r) => JSON.stringify(r) === '[{"part":"R2"}]');
    const over = steps.map((s) => s?.[r2] ?? Number.NaN);
    expect(over[3]).toBeGreaterThan(0.9);
    expect(over[0]).toBeLessThan(0.2);
    // With what was believed when there was nothing read: what is known of R2 now does not change what was said then.
    const pinned = { ...input, priors: { pinned: [{ part: "R2" }] } };
    const before = [{ priors: {} }, { priors: {} }];
    const of2 = (found: ReturnType<typeof historyOf>, n: number) =>
      found.steps[n]?.[found.repairs.findIndex((r) => JSON.stringify(r) === '[{"part":"R2"}]')] ?? Number.NaN;
    expect(of2(historyOf(pinned), 0)).toBeGreaterThan(2 * over[0]);
    expect(of2(historyOf(pinned, before), 0)).toBeCloseTo(over[0], 9);
    expect(of2(historyOf(pinned, before), 2)).toBeCloseTo(of2(historyOf(pinned), 2), 9);
    const of = (part: string, priors: RankInput["priors"]) => {
      const ranking = rankFaults({ circuit, readings: [read("A", 9), read("B", 9)], ...(priors ? { priors } : {}) });
      if (ranking.kind === "problem") throw new Error(ranking.message);
      return ranking.suspects.reduce(
        (s, x) => s + (x.faults.some((f) => "part" in f && f.part === part) ? x.probability : 0),
        0,
      );
    };
    // B at the supply's 9 V: R2 open or R3 open, the one as likely as the other.
    expect(of("R2", {}) / of("R3", {})).toBeCloseTo(1, 0);
    expect(of("R2", { excluded: [{ part: "R2", reason: "new" }] })).toBeLessThan(0.05);
    expect(of("R2", { pinned: [{ part: "R2" }] }) / of("R3", { pinned: [{ part: "R2" }] })).toBeGreaterThan(20);
  });
});
