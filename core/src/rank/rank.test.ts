import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readQuick, readTrail } from "../notation/index.ts";
import { isDiodeTest, type NumericReading, type Priors, type Reading } from "../record/index.ts";
import { seededRandom } from "../simulate/index.ts";
import { everyPoint } from "../test/arbitrary/circuits.ts";
import { IS_DEEP, share } from "../test/examples.ts";
import { plainReading } from "../test/plain/bench.ts";
import { compare, METER, PLAIN_METER } from "../test/plain/compare.ts";
import { CASE_KINDS, type CaseKind, drawCase } from "../test/plain/drawCase.ts";
import { plainSingles } from "../test/plain/prior.ts";
import { DEFAULT_RESOLUTION } from "./evidence/resolution.ts";
import { faultsAt } from "./hypotheses/cells.ts";
import { nameOfSite, type Ranking, type RankProblem, rankFaults, type Weighed, weighFaults } from "./index.ts";
import { prepare } from "./prepare.ts";

const KINDS_OF_CASES: readonly CaseKind[] = ["configurations", "junctions", "plain", "relays"];

const VENT =
  "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 1% 0.5W\n[B] R9 10k 5% [D]";

const circuitOf = (trail: string): Circuit => {
  const { circuit, mistakes } = readTrail(trail);
  if (!circuit) throw new Error(mistakes.map((m) => m.message).join("; "));
  return circuit;
};

function rank(trail: string, lines: readonly string[], priors?: Priors): Ranking {
  const circuit = circuitOf(trail);
  const readings = lines.map((line): Reading => {
    const read = readQuick(line, circuit);
    if (read.kind !== "reading") throw new Error(`${line}: ${read.kind === "mistake" ? read.message : read.kind}`);
    return read.reading;
  });
  const ranking = rankFaults({ circuit, readings, priors });
  if (ranking.kind === "problem") throw new Error(ranking.message);
  return ranking;
}

/** `R3 open`, `nothing`, `R3 open & F1 open`, with probability. */
const say = (ranking: Ranking) =>
  ranking.suspects.map((s) => ({
    name: [
      s.faults.map((f) => ("nodes" in f ? f.nodes.join("-") : `${f.part} ${f.mode}`)).join(" & ") || "nothing",
      ...(s.meter ? [`false ${s.meter.quantity}`] : []),
    ].join(", "),
    p: s.probability,
    fault: s.faults[0],
    suspect: s,
  }));

const of = (ranking: Ranking, name: string) => say(ranking).find((s) => s.name === name)?.p ?? 0;

/** Volts that no diode test shows. */
const OL_VOLTS = 100;

/** Every two points by the diode test, either way round, and every part by itself. */
function tested({ parts }: Circuit): NumericReading[] {
  const test = { quantity: "voltage", test: "diode", value: 0 } as const;
  const alone = parts.flatMap(({ designator, kind, from, to }) =>
    kind === "supply"
      ? []
      : [
          { ...test, from, to, lifted: designator },
          { ...test, from: to, to: from, lifted: designator },
        ],
  );
  const ways = parts.flatMap(({ from, to }) => [
    { ...test, from, to },
    { ...test, from: to, to: from },
  ]);
  // Readings of one point are taken together: each is there once.
  return [...ways.filter((a, i) => ways.findIndex((b) => a.from === b.from && a.to === b.to) === i), ...alone];
}

describe("the ranking", () => {
  it("finds an open branch, and what could be mistaken for it", () => {
    const [first, second, ...rest] = say(rank(VENT, ["A 23.97", "B 19.82", "D 1.95"]));
    expect([first.name, second.name].sort()).toEqual(["R3 open", "R4 open"]);
    expect(first.p).toBeCloseTo(second.p, 6);
    expect(first.p + second.p).toBeGreaterThan(0.9);
    expect(rest.every((s) => s.p < 0.03)).toBe(true);
    const [told] = say(rank(VENT, ["A 23.97", "B 19.82", "D 1.95", "C 1.95"]));
    expect(told.name).toBe("R3 open");
    expect(told.p).toBeGreaterThan(0.9);
  });

  it("estimates what a part has drifted to, with its middle 80 %", () => {
    const found = say(rank("BT1 10V ri=0: [A] R1 1k 1% + [B] R2 1k 1%", ["A 10.00", "B 6.667"]));
    const [first, other] = found.filter((s) => s.suspect.faults.length === 1);
    expect(found[0].name).toBe("R2 high");
    expect([first.name, other.name]).toEqual(["R2 high", "R1 low"]);
    for (const { fault } of [first, other]) {
      if ("nodes" in fault || fault.value === undefined) throw new Error("no value");
      const truth = fault.part === "R2" ? 2000 : 500;
      expect(Math.abs(fault.value / truth - 1)).toBeLessThan(0.02);
      expect(fault.low).toBeLessThan(truth);
      expect(fault.high).toBeGreaterThan(truth);
    }
  });

  it("says that nothing is wrong when nothing is, and sums to one", () => {
    const healthy = { healthy: 0.5 };
    const ranking = rank(VENT, ["A 23.99", "B 16.91", "C 8.86", "D 3.217"], healthy);
    expect(say(ranking)[0].name).toBe("nothing");
    expect(say(ranking)[0].p).toBeGreaterThan(0.85);
    expect(ranking.suspects.reduce((s, x) => s + x.probability, 0)).toBeCloseTo(1, 9);
    const blank = rank(VENT, []);
    // A little more than the 98 % that is shared out goes to faults that blow a fuse.
    expect(of(blank, "nothing")).toBeCloseTo(0.02, 2);
    expect(of(blank, "F1 open") / of(blank, "R1 open")).toBeCloseTo((10 * 0.95) / 0.5, 6);
  });

  it("suspects the reading, not the circuit, when one contradicts all others", () => {
    const lines = ["A 23.99", "B 16.91", "C 8.86", "D 3.217"];
    for (const [wrong, slip] of [
      ["B -16.91", "sign"],
      ["B 16.91mV", "milli"],
      ["B 0.000", "zero"],
    ]) {
      const ranking = rank(
        VENT,
        lines.map((l) => (l.startsWith("B") ? wrong : l)),
        { healthy: 0.3 },
      );
      expect(say(ranking)[0].name).toBe("nothing");
      expect(ranking.readings[1]).toMatchObject({ index: 1, slip });
      expect(ranking.readings[1].blunderProbability).toBeGreaterThan(0.9);
      expect(ranking.healthyButMistaken).toBeGreaterThan(0.9);
      expect(ranking.readings[0].blunderProbability).toBeLessThan(0.05);
    }
  });

  it("suspects the meter's own fuse where every current reads nothing", () => {
    const lines = ["A 23.99", "B 16.91", "D 3.217", "R1 0.000mA", "R2 0.000mA", "R5 0.000mA"];
    const ranking = rank(VENT, lines, { healthy: 0.3 });
    expect(say(ranking)[0].name).toBe("nothing");
    for (const index of [3, 4, 5]) {
      const verdict = ranking.readings.find((r) => r.index === index);
      expect(verdict).toMatchObject({ slip: "zero" });
      expect(verdict?.blunderProbability).toBeGreaterThan(0.9);
    }
  });

  it("sees two faults where one does not do", () => {
    const trail = "BT1 12V ri=0.1: [P] (R1 1k 1% + [B] R2 1k 1% | R3 2k 1% + [D] R4 1k 1% | R5 3k 1% + [E] R6 1k 1%)";
    const ranking = rank(trail, ["P 11.99", "B 12.0", "D 8.00", "E 3.0", "R4 2.00mA"]);
    expect(say(ranking)[0].name).toBe("R2 open & R4 high");
    // Whatever else explains B, it takes a second fault besides R4's.
    const both = say(ranking).filter((x) => x.name.endsWith("& R4 high"));
    expect(both.reduce((sum, x) => sum + x.p, 0)).toBeGreaterThan(0.99);
  });

  it("looks for what blew the fuse", () => {
    const trail = "BT1 12V ri=0.05: [P] F1 1A + [A] (LA1 12V 5W | R1 22 5% + [B] R2 33 5%)";
    const ranking = rank(trail, ["P 12.0", "A 0.000", "F1 blown", "A-0 0.1ohm"]);
    const [first] = say(ranking);
    expect(first.name).toBe("LA1 short & F1 open");
    expect(first.suspect.consequence).toBe(true);
  });

  it("takes what the eye saw, OL, a beep and the configuration into account", () => {
    const lamps = "BT1 12V: [P] (LA1 12V 5W | S1 + [A] LA2 12V 5W)";
    expect(say(rank(lamps, ["LA1 dark", "LA2 lit"]))[0].name).toBe("LA1 open");
    const sw = say(rank(lamps, ["LA1 lit", "LA2 dark"]))
      .slice(0, 2)
      .map((s) => s.name);
    expect(sw).toContain("LA2 open");
    expect(of(rank(lamps, ["LA1 lit", "LA2 dark", "S1 lifted beep"]), "S1 stuckOpen")).toBeLessThan(0.02);
    expect(say(rank(lamps, ["LA1 lit", "LA2 dark", "S1 lifted OL"]))[0].name).toBe("S1 stuckOpen");
    // A known-good part in place of the suspect, and still the same: it was not that one.
    const circuit = circuitOf(VENT);
    const reading = (state?: object): Reading[] =>
      ["B 19.82", "D 1.95"].map((l) => {
        const read = readQuick(l, circuit);
        return {
          ...(read.kind === "reading" ? read.reading : ({} as Reading)),
          ...(state ? { state } : {}),
        } as Reading;
      });
    const swapped = rankFaults({ circuit, readings: [...reading(), ...reading({ swapped: ["R3"] })] });
    if (swapped.kind === "problem") throw new Error(swapped.message);
    expect(say(swapped)[0].name).toBe("R4 open");
    expect(of(swapped, "R3 open")).toBeLessThan(0.01);
  });

  it("predicts, under any fault and however the circuit stands, what a plain solution gives", () => {
    const random = seededRandom(12);
    for (let round = 0; round < share(24); round += 1) {
      const { circuit, readings } = drawCase(random, 4 + (round % 5), 3, KINDS_OF_CASES[round % KINDS_OF_CASES.length]);
      const states = [{}, ...readings.map((r) => r.state ?? {})];
      const points = [...everyPoint(circuit), ...tested(circuit).filter((_, i) => IS_DEEP || i % 3 === round % 3)].map(
        (p, i) => ({
          ...p,
          state: states[i % states.length],
        }),
      );
      const prepared = prepare({ circuit, readings: points, meter: METER, situation: "newBuild" });
      if (prepared.kind === "problem") throw new Error(prepared.message);
      const { prior, integrator } = prepared;
      const singles = plainSingles(circuit, states, true);
      const check = (hypothesis: { sites: (typeof prior.singles)[number]["sites"] } | null) => {
        if (!hypothesis) return;
        const at = [random.next(), random.next()];
        const faults = faultsAt(hypothesis.sites, at);
        const own = integrator.predictor.predict(faults, "values").y;
        const names = hypothesis.sites.map((s) => nameOfSite(prepared, s));
        let next = 0;
        const plain = names.map((name) => {
          const found = singles.find((s) => s.name === name);
          if (!found) throw new Error(name);
          return found.faultAt(found.hasValue ? at[next++] : 0);
        });
        // What a misplaced part is within its tolerance is drawn with the fault.
        plain.forEach((f, i) => {
          if ("part" in f && f.mode === "misplaced") Object.assign(f, { value: faults[i].value });
        });
        const shown = points.map((p) => plainReading(circuit, p, plain, { factor: {} }, PLAIN_METER));
        const sizeOf = (quantity: string) =>
          Math.max(...shown.map((v, i) => (points[i].quantity === quantity && Math.abs(v) < 1e3 ? Math.abs(v) : 0)));
        const sizes = { voltage: sizeOf("voltage"), current: sizeOf("current"), resistance: 0 };
        shown.forEach((value, i) => {
          const size = Math.max(sizes[points[i].quantity], Math.abs(value));
          // A milliampere through what blocks is beyond any display, and what it drops in a contact is below it; where all is
          // dead, ten nanoamperes or nanovolts are.
          const seen = (v: number) => (isDiodeTest(points[i]) ? Math.min(v, OL_VOLTS) : v);
          const off = Math.abs(seen(own[i]) - seen(value));
          expect(off, `${names} at ${JSON.stringify(points[i])}: ${own[i]} ${value}`).toBeLessThan(
            1e-5 * size + (isDiodeTest(points[i]) ? 1e-4 : 1e-8),
          );
        });
      };
      for (const single of prior.singles) check(single);
      const any = () => Math.floor(random.next() * prior.singles.length);
      for (let n = 0; n < share(40); n += 1) check(prior.pair(any(), any()));
    }
  });

  it("knows how every reading moves with every part, faulted or not", () => {
    const random = seededRandom(31);
    for (let round = 0; round < share(12) + 2; round += 1) {
      const { circuit } = drawCase(random, 6, 1, round % 2 === 0 ? "plain" : "junctions");
      const points = everyPoint(circuit);
      const prepared = prepare({ circuit, readings: points, meter: METER, situation: "newBuild" });
      if (prepared.kind === "problem") throw new Error(prepared.message);
      const { prior, integrator, network } = prepared;
      const { predictor } = integrator;
      const P = predictor.parameters.length;
      for (const mode of new Set(prior.singles.map(({ sites }) => sites[0].mode))) {
        if (mode === "bridged" || mode === "misplaced") continue;
        const ofMode = prior.singles.filter(({ sites }) => sites[0].mode === mode);
        const { sites } = ofMode[Math.floor(random.next() * ofMode.length)];
        const faults = faultsAt(sites, [0.4]);
        const { j } = predictor.predict(faults, "sensitivities");
        const name = network.branches[sites[0].branch].name;
        const plain = [{ part: name, mode, value: faults[0].value }];
        const afresh = predictor.newOutcome();
        predictor.predictAfresh(faults, true, afresh);
        predictor.parameters.forEach((parameter, p) => {
          const step = 1e-5;
          const { part, name: moved } = network.branches[parameter.branch];
          const at = (factor: number) =>
            points.map((r) => plainReading(circuit, r, plain, { factor: { [moved]: factor } }, PLAIN_METER));
          const [up, down] = [at(1 + step), at(1 - step)];
          up.forEach((value, i) => {
            const slope = ((value - down[i]) / (2 * step)) * (part.tolerance / 2);
            const said = `${name} ${mode}: ${JSON.stringify(points[i])} by ${moved}`;
            for (const own of [j, afresh.j])
              expect(Math.abs(own[i * P + p] - slope), said).toBeLessThan(1e-4 * Math.abs(slope) + 2e-6);
          });
        });
      }
    }
  });

  it.each(CASE_KINDS)("gives the probabilities of integration the plain way: %s", (kind) => {
    const random = seededRandom(CASE_KINDS.indexOf(kind) + 60);
    for (let n = 0; ; n += 1) {
      const drawn = drawCase(random, 3, kind === "many slips" ? 4 : 3, kind);
      const found = compare(drawn, 120, seededRandom(n), { least: 4e-3 });
      // Where sampling itself does not know, nothing is shown.
      if (found.error > 0.2 && n < 8) continue;
      expect(found.error).toBeLessThan(0.2);
      expect(found.divergence, JSON.stringify(found.shares)).toBeLessThan(0.03);
      expect(found.sameFirst).toBe(true);
      return;
    }
  });

  it("holds a meter that may be false against parts far from their values as integration does", () => {
    const volts = { quantity: "voltage", from: "A" } as const;
    const amps = { quantity: "current", through: "R1" } as const;
    const drawn = {
      circuit: circuitOf("BT1 6V ri=1: F1 1A + [A] (R1 47 10% | J1 + [B] R2 2 10%)"),
      readings: [
        { ...volts, value: 4.04, plusMinus: 0.0272 },
        { ...amps, value: 0.0937, plusMinus: 0.00124 },
        { ...amps, through: "R2", value: 1.409, plusMinus: 0.0171 },
        { ...volts, to: "B", value: 0.0544, plusMinus: 0.00547 },
        { ...volts, from: "B", value: 3.993, plusMinus: 0.0269 },
        { ...amps, value: 0.0935, plusMinus: 0.00124 },
      ],
      priors: { healthy: 0.05, blunder: 0.01 },
    };
    const found = compare(drawn, 250, seededRandom(14), { least: 4e-3 });
    expect(found.error).toBeLessThan(0.2);
    expect(found.divergence, JSON.stringify(found.shares)).toBeLessThan(0.01);
  });

  it("leaves rough only what could not carry 1e-4 of the mass, however much of it there is", () => {
    const exact = { ...DEFAULT_RESOLUTION, wholeSlack: Number.POSITIVE_INFINITY, rough: Number.NEGATIVE_INFINITY };
    for (let seed = 0; seed < share(8); seed += 1) {
      const drawn = drawCase(
        seededRandom(700 + seed),
        5 + (seed % 3),
        4 + (seed % 4),
        seed % 2 === 0 ? "plain" : "slips",
      );
      const quick = rankFaults(drawn) as Ranking;
      for (const { name, p } of say(rankFaults(drawn, { resolution: exact }) as Ranking))
        expect(Math.abs(of(quick, name) - p), `${name} of ${seed}`).toBeLessThan(1e-4);
    }
  });

  it("comes out the same when parts are written in another order or named differently", () => {
    const one = rank("BT1 9V: [A] R1 1k + [B] R2 2k + [C] R3 3k", ["B 7.9", "C 5.0"]);
    const two = rank("[C] R3 3k [0]\n[B] R2 2k [C]\n[A] R1 1k [B]\n[0] BT1 9V [A]\nreference 0", ["B 7.9", "C 5.0"]);
    for (const { name, p } of say(one).filter((s) => s.p > 1e-4)) {
      const [faults, ...meter] = name.split(", ");
      const turned = [faults.split(" & ").reverse().join(" & "), ...meter].join(", ");
      expect(of(two, name) + (turned === name ? 0 : of(two, turned))).toBeCloseTo(p, 3);
    }
  });

  it("streams: singles first, then more and more, and the end agrees with the whole", () => {
    const circuit = circuitOf(VENT);
    const readings: NumericReading[] = [{ quantity: "voltage", from: "B", value: 19.82, plusMinus: 0.1 }];
    const steps = weighFaults({ circuit, readings });
    const progress: number[] = [];
    const shares: number[] = [];
    for (let step = steps.next(); !step.done; step = steps.next())
      if (step.value.kind === "singles") shares.push(step.value.share);
      else progress.push(step.value.progress);
    expect(shares.length).toBeGreaterThan(0);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.every((share) => share < 1)).toBe(true);
    expect(progress.length).toBeGreaterThan(3);
    expect(progress).toEqual([...progress].sort((a, b) => a - b));
  });

  it("says what the pairs not looked at could carry at most, and they never carry more", () => {
    const random = seededRandom(17);
    let isTold = false;
    for (let round = 0; round < 8; round += 1) {
      const { circuit, readings } = drawCase(random, 7, 5, "plain");
      const keyOf = ({ hypothesis }: Weighed) =>
        hypothesis.sites.map((s) => `${s.branch} ${s.bridge} ${s.mode}`).join(" & ");
      const stops: { readonly left: number; readonly found: ReadonlySet<string> }[] = [];
      const steps = weighFaults({ circuit, readings, meter: METER });
      let step = steps.next();
      for (let n = 0; !step.done; n += 1, step = steps.next())
        if (step.value.kind === "pairs" && (n < 6 || n % 5 === 2))
          stops.push({ left: step.value.left, found: new Set(step.value.settle().hypotheses.map(keyOf)) });
      if (step.value.kind === "problem") throw new Error(step.value.message);
      expect(step.value.left).toBe(0);
      const { hypotheses } = step.value;
      for (const { left, found } of stops) {
        const missed = hypotheses.reduce((s, h) => s + (found.has(keyOf(h)) ? 0 : h.probability), 0);
        // What is told is rough to e⁻¹⁰ of the mass.
        expect(missed, `round ${round}`).toBeLessThan(left + 5e-5);
        if (left < 0.05) isTold = true;
      }
    }
    // And it is no empty word: before the end it is small.
    expect(isTold).toBe(true);
  });

  it("looks for what only another state of the circuit could show, whether it still stands so or not", () => {
    const circuit = circuitOf("BT1 12V: S1 open + [A] R1 100 5%");
    const closed: NumericReading = { quantity: "voltage", from: "A", value: 0, state: { switches: { S1: "closed" } } };
    const ranking = rankFaults({ circuit, readings: [{ ...closed, plusMinus: 0.1 }] });
    if (ranking.kind === "problem") throw new Error(ranking.message);
    // Drawn open nothing could be stuck open: it was closed when it was read.
    expect(say(ranking).find((s) => s.name === "S1 stuckOpen")?.p).toBeGreaterThan(0.1);
    const modes = new Set(ranking.suspects.flatMap((s) => s.faults.map((f) => f.mode)));
    expect(modes.has("stuckClosed")).toBe(true);
  });

  it("takes a lamp that is silent for a dark one, and names no decade where a value has only drifted", () => {
    const circuit = circuitOf("BT1 12V: F1 1A + [A] LA1 12V 5W");
    const seen = (word: "silent" | "dark") => {
      const found = rankFaults({ circuit, readings: [{ quantity: "observation", part: "LA1", seen: word }] });
      if (found.kind === "problem") throw new Error(found.message);
      return say(found).slice(0, 5);
    };
    expect(seen("silent")).toEqual(seen("dark"));
    const drifted = rank("BT1 10V 1% ri=0: [A] R1 1k 20% + [B] R2 1k 20%", ["A 10.0", "B 6.0"]);
    for (const { faults } of drifted.suspects)
      for (const fault of faults) expect("decade" in fault ? fault.decade : undefined).not.toBe(1);
  });

  it("answers odd input with a value that says what and where", () => {
    const volts = (value: number, extra: object = {}): NumericReading => ({
      quantity: "voltage",
      from: "B",
      value,
      ...extra,
    });
    const odd: readonly [string, readonly Reading[], Priors?][] = [
      [VENT, Array.from({ length: 30 }, () => volts(19.8, { plusMinus: 0.1 }))],
      [VENT, [volts(1e8), volts(-1e-12), volts(5)]],
      [VENT, [volts(5, { plusMinus: 0 })]],
      ["BT1 24V 0% ri=0: [A] R1 1k 0% + [B] R2 1k 0%", [volts(12, { plusMinus: 0 })]],
      ["[A] R1 1k [B]\n[C] R2 1k [D]", [volts(0)]],
      ["BT1 1e-12V: [A] R1 1e12 + [B] R2 1e12", [volts(5e-13)]],
      [
        "BT1 24V: [A] R1 1k + [B] R2 1k",
        [volts(0)],
        { rates: { resistor: 1, supply: 0, bridge: 0 }, modes: { resistor: { open: 1 } } },
      ],
      [VENT, [volts(3), volts(20), volts(-7), volts(11)]],
    ];
    for (const [trail, readings, priors] of odd) {
      for (const meter of [{}, { voltage: { inputResistance: "ideal" as const } }]) {
        const ranking = rankFaults({ circuit: circuitOf(trail), readings, meter, priors });
        if (ranking.kind === "problem") throw new Error(`${trail}: ${ranking.message}`);
        const sum = ranking.suspects.reduce((s, x) => s + x.probability, 0);
        expect(sum, trail).toBeCloseTo(1, 9);
        for (const r of ranking.readings) expect(r.blunderProbability).toBeGreaterThanOrEqual(0);
      }
    }
    const many = Array.from({ length: 200 }, () => volts(19.8, { plusMinus: 0.1 }));
    const repeated = rankFaults({ circuit: circuitOf(VENT), readings: many }, { pairs: false });
    if (repeated.kind === "problem") throw new Error(repeated.message);
    expect(["R3 open", "R4 open"]).toContain(say(repeated)[0].name);
    const problem = (trail: string, readings: readonly Reading[]) =>
      rankFaults({ circuit: circuitOf(trail), readings }) as RankProblem;
    expect(problem(VENT, [volts(1), { ...volts(1), from: "X" } as Reading])).toMatchObject({
      kind: "problem",
      index: 1,
    });
    expect(problem(VENT, [{ quantity: "observation", part: "Q7", seen: "hot" }])).toMatchObject({
      kind: "problem",
      index: 0,
    });
    for (const extreme of [volts(1e308), volts(-1e30), volts(5, { plusMinus: 1e308 }), volts(5, { wander: 1e200 })])
      expect(problem(VENT, [volts(1), extreme])).toMatchObject({ kind: "problem", what: "reading", index: 1 });
    expect(problem("[A] BT1 9V ri=0 [P]\n[A] BT2 5V ri=0 [P]\n[P] R1 1k [A]", [])).toMatchObject({ what: "circuit" });
    expect(problem("BT1 9V ri=0: [A] R1 5\nBT2 5V ri=0: [A] R2 5", []).message).toMatch(/cannot be solved/);
    expect(buildNetwork(circuitOf(VENT)).branches).toHaveLength(8);
  });
});
