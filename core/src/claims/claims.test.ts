import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { reduceNetwork } from "../reduce/index.ts";
import { drawCircuit, seededRandom } from "../simulate/index.ts";
import { solveNetwork } from "../solve/index.ts";
import { share } from "../test/examples.ts";
import {
  type Asked,
  type Claim,
  markClaims,
  markEquation,
  missingFor,
  nextCells,
  placesOf,
  readClaim,
  readEquation,
  type SlipKind,
  solveEquations,
} from "./index.ts";

function sheetOf(circuit: Circuit) {
  const network = buildNetwork(circuit);
  const solution = solveNetwork(network);
  if (solution.kind !== "solved") throw new Error("not solved");
  const reduction = reduceNetwork(network, solution.point.ohms);
  return { network, solution, places: placesOf(network, solution, reduction) };
}
const circuitOf = (trail: string) => readTrail(trail).circuit as Circuit;
const claimOf = (place: string, of: Asked, typed: string): Claim => {
  const read = readClaim(place, of, typed);
  if (read.kind === "mistake") throw new Error(read.why);
  return read.claim;
};

// 24 V over 220, (1k ∥ 470 + 330 = 444.4) and 100: 764.4 Ω, 31.39 mA; 13.95 V at the fork.
const SHEET = sheetOf(circuitOf("BT1 24V ri=0: R1 220 + [A] (R2 1k | R3 470 + [C] R4 330) + [D] R5 100"));
const mark = (...claims: readonly (readonly [string, Asked, string])[]) =>
  markClaims(
    claims.map(([place, of, typed]) => claimOf(place, of, typed)),
    SHEET.places,
    SHEET.network,
  ).map((m) => m.mark);

describe("a person's own figures", () => {
  it("are right to the digits that were written, in any unit, and right within rounding", () => {
    expect(mark(["R1", "amps", "31.4mA"], ["R1", "amps", "0.0314"], ["Total", "ohms", "764"])).toEqual([
      { kind: "right" },
      { kind: "right" },
      { kind: "right" },
    ]);
    expect(mark(["R1", "volts", "6.91"], ["R1", "volts", "6.92"])[0]).toEqual({ kind: "right" });
    expect(mark(["R1", "volts", "6.93"])[0]).toMatchObject({ kind: "rounded" });
    expect(mark(["R9", "volts", "1"])[0]).toEqual({ kind: "gone" });
  });

  it.each([
    ["another part's current", ["R4", "amps", "13.95mA"], { kind: "subscript" }],
    ["the whole supply across one part", ["R1", "volts", "24"], { kind: "wholeSupply" }],
    ["the reciprocal not turned back", ["Rb", "ohms", "0.00225"], { kind: "notTurnedBack" }],
    ["series taken for parallel", ["Rb", "ohms", "1800"], { kind: "seriesForParallel" }],
    ["parallel taken for series", ["Ra", "ohms", "193.9"], { kind: "parallelForSeries" }],
    ["the composite's current kept after the fork", ["R2", "amps", "31.4mA"], { kind: "totalCurrent" }],
    ["a decimal point", ["R1", "volts", "69.07"], { kind: "decimal" }],
    ["a prefix", ["R1", "amps", "31.4"], { kind: "prefix" }],
    ["power from the supply's volts and its own current", ["R1", "watts", "753mW"], { kind: "powerPair" }],
    ["the wrong way round", ["R1", "volts", "-6.91"], { kind: "direction" }],
  ] as const)("says what probably went wrong: %s", (_, [place, of, typed], slip) => {
    expect(mark([place, of, typed])[0]).toMatchObject({ kind: "wrong", slip });
  });

  it("that follow rightly from a wrong one are said to, and by which", () => {
    // 1800 in place of 444: 2120 Ω in all, 11.3 mA, 2.49 V across R1.
    const marks = mark(
      ["Rb", "ohms", "1800"],
      ["Rc", "ohms", "2120"],
      ["R1", "amps", "11.3mA"],
      ["R1", "volts", "2.49"],
      ["R1", "watts", "28.1mW"],
    );
    expect(marks.map((m) => m.kind)).toEqual(["wrong", "follows", "follows", "follows", "follows"]);
    expect(marks[1]).toMatchObject({ from: [{ place: "Rb" }] });
    expect(marks[2]).toMatchObject({ from: [{ place: "Rc", of: "ohms" }] });
    expect(marks[3]).toMatchObject({ from: [{ place: "R1", of: "amps" }] });
  });

  it("are never called wrong where they are right, to two, three and four digits", () => {
    const random = seededRandom(61);
    let count = 0;
    for (let n = 0; n < share(40); n += 1) {
      const { places, network } = sheetOf(drawCircuit(4 + (n % 8), random));
      for (const { name, truth } of places)
        for (const [of, value] of Object.entries(truth) as [Asked, number][])
          for (const digits of [2, 3, 4]) {
            if (!Number.isFinite(value) || value === 0) continue;
            const [{ mark: found }] = markClaims([claimOf(name, of, value.toPrecision(digits))], places, network);
            expect(found.kind, `${of} of ${name}: ${value}`).toBe("right");
            count += 1;
          }
    }
    expect(count).toBeGreaterThan(share(2000));
  });

  it("are named rightly in nine of ten where a known slip was made, on drawn circuits", () => {
    const random = seededRandom(62);
    const tally = new Map<SlipKind, [number, number]>();
    for (let n = 0; n < share(40); n += 1) {
      const { places, network, solution } = sheetOf(drawCircuit(5 + (n % 7), random));
      const parts = places.filter((p) => p.kind === "part" && Math.abs(p.truth.amps ?? 0) > 1e-6);
      const source = network.branches.findIndex((b) => b.law.kind === "supply");
      const emf = network.branches[source].law.kind === "supply" ? Math.abs(network.branches[source].law.volts) : 0;
      const total = Math.abs(solution.amps[source]);
      const made: [SlipKind, string, Asked, number][] = [];
      for (const p of parts.slice(0, 3)) {
        const [V, I, R] = [p.truth.volts, p.truth.amps, p.truth.ohms].map((v) => Math.abs(v ?? Number.NaN));
        made.push(["decimal", p.name, "volts", V * 10], ["prefix", p.name, "amps", I * 1000]);
        made.push(["wholeSupply", p.name, "amps", emf / R], ["direction", p.name, "volts", -(p.truth.volts ?? 0)]);
        made.push(["powerPair", p.name, "watts", emf * I], ["totalCurrent", p.name, "volts", total * R]);
        const other = parts.find((o) => o !== p);
        if (other) made.push(["subscript", p.name, "watts", Math.abs(other.truth.watts ?? 0)]);
      }
      for (const c of places.filter((p) => p.kind === "composite")) {
        const own = c.parts.map((name) => places.find((p) => p.name === name)?.truth.ohms ?? Number.NaN);
        const sum = own.reduce((a, b) => a + b, 0);
        const beside = 1 / own.reduce((a, b) => a + 1 / b, 0);
        if (c.combined === "parallel") {
          made.push(["notTurnedBack", c.name, "ohms", 1 / beside], ["seriesForParallel", c.name, "ohms", sum]);
          if (own.length === 3) made.push(["productOverSum", c.name, "ohms", (own[0] * own[1] * own[2]) / sum]);
        } else made.push(["parallelForSeries", c.name, "ohms", beside]);
      }
      for (const [kind, name, of, value] of made) {
        const truth = Math.abs(places.find((p) => p.name === name)?.truth[of] ?? Number.NaN);
        // What comes out as it should is no slip.
        if (!Number.isFinite(value) || (kind !== "direction" && Math.abs(Math.abs(value) / truth - 1) < 0.02)) continue;
        const [{ mark: found }] = markClaims([claimOf(name, of, value.toPrecision(4))], places, network);
        const [named, all] = tally.get(kind) ?? [0, 0];
        const isNamed = found.kind === "wrong" && found.slip?.kind === kind;
        tally.set(kind, [named + Number(isNamed), all + 1]);
      }
    }
    const all = [...tally.values()].reduce((s, [, n]) => s + n, 0);
    const named = [...tally.values()].reduce((s, [n]) => s + n, 0);
    expect(all).toBeGreaterThan(share(400));
    expect(named / all, JSON.stringify([...tally])).toBeGreaterThan(0.9);
  });
});

describe("equations", () => {
  const { network, solution } = SHEET;
  const said = (text: string) => {
    const read = readEquation(text, network);
    return read.kind === "mistake" ? read.why : markEquation(read.equation, network, solution);
  };
  it.each([
    ["I1 = I2 + I3", { kind: "holds" }],
    ["I(R1) - I(R2) = I_R3", { kind: "holds" }],
    ["24 - 220*I1 - 1000*I2 - 100*I5 = 0", { kind: "holds" }],
    ["V1 + V2 + V5 = 24", { kind: "holds" }],
    ["V1 + V3 + V4 + V5 = E1", { kind: "holds" }],
    ["I1 = I2 - I3", { kind: "sign", of: "I(R3)" }],
    ["I1 = I2", { kind: "missing", of: "I(R3)" }],
    ["V1 + V2 = 24", { kind: "missing", of: "V(R5)" }],
    ["V1 + V2 + V3 + V5 = 24", { kind: "foreign", of: "V(R3)" }],
    ["I1 = 5", { kind: "wrong" }],
  ])("%s", (text, mark) => {
    expect(said(text)).toMatchObject(mark);
  });
  it("are solved together where there are enough of them", () => {
    const read = (text: string) => {
      const found = readEquation(text, network);
      if (found.kind === "mistake") throw new Error(found.why);
      return found.equation;
    };
    const three = ["I1 = I2 + I3", "24 - 220*I1 - 1000*I2 - 100*I1 = 0", "1000*I2 = 800*I3"].map(read);
    expect(solveEquations(three.slice(0, 2), network)).toBeNull();
    expect(solveEquations([...three.slice(0, 2), read("2*I1 = 2*I2 + 2*I3")], network)).toBeNull();
    const found = solveEquations(three, network)?.map(({ symbol, value }) => [
      network.branches[symbol.branch].name,
      value,
    ]);
    // 24 V over 320 Ω and 1000 ∥ 800.
    const total = 24 / (320 + 800_000 / 1800);
    expect(Object.fromEntries(found ?? [])).toEqual({
      R1: expect.closeTo(total, 12),
      R2: expect.closeTo((total * 800) / 1800, 12),
      R3: expect.closeTo((total * 1000) / 1800, 12),
    });
  });
  it("are refused with a reason where they are none", () => {
    expect(said("I1 + I2")).toMatch(/one =/);
    expect(said("Q1 = 3")).toMatch(/no figure/);
    expect(said("24 = 24")).toMatch(/no current/);
  });
});

describe("the next justified cell", () => {
  const { network, places } = SHEET;
  const marks = (...claims: readonly (readonly [string, Asked, string])[]) =>
    markClaims(
      claims.map(([p, of, typed]) => claimOf(p, of, typed)),
      places,
      network,
    );
  it("goes the way of paper: composites, the total current, and back", () => {
    const first = nextCells(network, []).map((c) => `${c.of} ${c.fact.name}`);
    expect(first).toContain("ohms Ra");
    expect(first).not.toContain("amps BT1");
    const after = nextCells(network, marks(["Ra", "ohms", "800"], ["Rb", "ohms", "444.4"], ["Rc", "ohms", "764.4"]));
    expect(after.map((c) => `${c.of} ${c.fact.name}`)).toContain("amps BT1");
  });
  it("says what a cell still needs", () => {
    const missing = missingFor(network, [], "R1", "amps");
    expect(missing?.length).toBeGreaterThan(0);
    expect(missingFor(network, [], "Ra", "ohms")).toBeNull();
  });
});
