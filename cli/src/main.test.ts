import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Circuit } from "@hound/core/circuit";
import { writeTrail } from "@hound/core/notation";
import { drawCircuit, seededRandom } from "@hound/core/simulate";
import { plainReading, share } from "@hound/core/test";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { main } from "./main.ts";

const TRAIL = "title Divider\nBT1 10V ri=0: [A] R1 1k + [B] R2 1k\n";
const CASE = {
  format: "clever-hound-case",
  version: 1,
  title: "Divider",
  circuit: TRAIL,
  readings: [{ quantity: "voltage", from: "B", value: 0.001, plusMinus: 0.01 }],
};

let folder: string;
let out: string;
let err: string;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "hound-"));
  out = "";
  err = "";
  vi.spyOn(process.stdout, "write").mockImplementation((text) => {
    out += text;
    return true;
  });
  vi.spyOn(process.stderr, "write").mockImplementation((text) => {
    err += text;
    return true;
  });
});
afterEach(() => {
  vi.restoreAllMocks();
  rmSync(folder, { recursive: true, force: true });
});

const file = (name: string, contents: string | object) => {
  const path = join(folder, name);
  writeFileSync(path, typeof contents === "string" ? contents : JSON.stringify(contents, null, 2));
  return path;
};
const lines = () =>
  out
    .trim()
    .split("\n")
    .map((l) => JSON.parse(l));

describe("hound", () => {
  it("ranks cases, one object a line, in the order given", async () => {
    const [one, two] = [file("a.json", CASE), file("b.json", { ...CASE, title: "Second", readings: [] })];
    expect(await main(["rank", one, two, "--min", "1e-4"])).toBe(0);
    const [first, second] = lines();
    expect([first.title, second.title]).toEqual(["Divider", "Second"]);
    expect(Object.keys(first)).toEqual(["title", "suspects", "verdict", "repairs", "readings"]);
    expect(first.verdict.kind).toMatch(/^(settled|healthy|open|stuck)$/);
    expect(first.repairs[0]).toEqual({
      repair: expect.any(Array),
      probability: expect.any(Number),
      alone: expect.any(Number),
    });
    for (const suspect of first.suspects) {
      expect(Object.keys(suspect)).toEqual(["faults", "probability"]);
      expect(suspect.probability).toBeGreaterThanOrEqual(1e-4);
    }
    const p = first.suspects.map((s: { probability: number }) => s.probability);
    expect(p).toEqual([...p].sort((a, b) => b - a));
    expect(first.readings).toEqual([{ index: 0, blunderProbability: expect.any(Number) }]);
    expect(await main(["rank", one])).toBe(0);
    const all = lines()[2].suspects.reduce((s: number, x: { probability: number }) => s + x.probability, 0);
    expect(all).toBeCloseTo(1, 9);
  });

  it("ranks many cases on all cores, in the order given, and tells of every file that is wrong", async () => {
    const paths = [1, 2, 3, 4].map((n) => file(`${n}.json`, { ...CASE, title: `Case ${n}` }));
    const bad = ["x.json", "y.json"].map((name) => file(name, { ...CASE, version: 9 }));
    expect(await main(["rank", ...paths.slice(0, 2), bad[0], ...paths.slice(2), bad[1]])).toBe(1);
    const many = lines();
    expect(many.map((l) => l.title)).toEqual(["Case 1", "Case 2", "Case 3", "Case 4"]);
    expect(err).toMatch(/x\.json:3.*\n.*y\.json:3/);
    out = "";
    expect(await main(["rank", paths[0]])).toBe(0);
    const [alone] = lines();
    out = "";
    expect(await main(["next", paths[0]])).toBe(0);
    expect(lines()[0]).toMatchObject({ title: "Case 1", measurements: expect.any(Array), verdict: expect.any(Object) });
    expect(many[0]).toEqual(alone);
  });

  it("refuses readings that no meter shows, and says which", async () => {
    for (const reading of [{ value: 1e308 }, { value: 5, plusMinus: 1e308 }]) {
      err = "";
      const extreme = { ...CASE, readings: [CASE.readings[0], { quantity: "voltage", from: "B", ...reading }] };
      expect(await main(["rank", file("huge.json", extreme)])).toBe(1);
      expect(err).toMatch(/huge\.json: reading 2: .*1e\+308 V/);
      expect(out).toBe("");
    }
  });

  it("explains what it ranks: predictions, bits that add up, parts overloaded", async () => {
    expect(await main(["rank", file("a.json", CASE), "--explain"])).toBe(0);
    const [{ healthy, suspects }] = lines();
    expect(healthy[0].value).toBeCloseTo(5, 3);
    const [first] = suspects;
    expect(first.predictions[0].value).toBeCloseTo(0, 2);
    expect(first.bits.map((b: { index: number }) => b.index)).toEqual([0]);
    expect(first.bits[0].bits).toBeGreaterThan(5);
    expect(first.bits[0].bits + first.restBits).toBeCloseTo(first.totalBits, 9);
    expect(first).toHaveProperty("overloads");
    for (const { probability, bits } of suspects) expect(bits !== undefined).toBe(probability >= 1e-3);
  });

  it("learns habits from closed cases, which another case can stand on", async () => {
    const closed = (name: string, repair: object[]) => file(name, { ...CASE, repair });
    const paths = [1, 2, 3].map((n) => closed(`c${n}.json`, [{ part: "R2", mode: "short" }]));
    expect(await main(["habits", ...paths])).toBe(0);
    const [priors] = lines();
    // Three of forty by the table’s 8 %.
    expect(priors.modes.resistor.short).toBeCloseTo((40 * 0.08 + 3) / 43, 9);
    out = "";
    expect(await main(["rank", file("plain.json", CASE), file("taught.json", { ...CASE, priors })])).toBe(0);
    const [plain, taught] = lines().map(({ suspects }) =>
      suspects.find(
        ({ faults: [f] }: { faults: { part?: string; mode: string }[] }) => f?.part === "R2" && f.mode === "short",
      ),
    );
    expect(taught.probability).toBeGreaterThan(plain.probability);
    expect(await main(["habits", file("open.json", CASE)])).toBe(1);
    expect(err).toMatch(/open\.json: nothing is said of what was repaired/);
    expect(await main(["habits", closed("lost.json", [{ part: "R9", mode: "open" }])])).toBe(1);
    expect(err).toMatch(/lost\.json: repair: there is no part R9/);
  });

  it("compares the healthy circuit with a faulted one, and lists every fault's signature", async () => {
    const path = file("c.json", CASE);
    expect(await main(["whatif", path, "--fault", "R2 shorted"])).toBe(0);
    const [told] = lines();
    expect(told.faults).toEqual(["R2 shorted"]);
    // 10 V over 1 kΩ and 1 kΩ; with R2 at 10 mΩ nothing is left at B.
    expect(told.nodes.find((n: { name: string }) => n.name === "B").volts).toEqual({
      healthy: expect.closeTo(5, 6),
      whatif: expect.closeTo(10e-2 / 1000.01, 6),
    });
    expect(told.parts.find((p: { name: string }) => p.name === "R1").amps.whatif).toBeCloseTo(10 / 1000.01, 9);
    expect(told.readings[0].limits).toBeCloseTo(0.09, 1);
    expect(told.bits).toBeGreaterThan(5);
    out = "";
    expect(await main(["whatif", path, "--fault", "R1=open; A~B bridged", "--csv"])).toBe(0);
    expect(out.split("\n")[0].trim()).toBe("of,quantity,healthy,whatif,change");
    expect(out).toMatch(/^B,node_volts,5(\.0+\d*)?,9\.99\d+,/m);
    out = "";
    expect(await main(["signatures", path, "--csv"])).toBe(0);
    const rows = out
      .trim()
      .split(/\r?\n/)
      .map((l) => l.split(","));
    expect(rows[0]).toEqual(["fault", "share", "group", "A", "B"]);
    const at = (fault: string) => Number(rows.find((r) => r[0] === fault)?.[4]);
    expect(at("R2 open")).toBeGreaterThan(10);
    expect(at("R1 open")).toBeLessThan(-10);
    expect(await main(["whatif", path, "--fault", "R2 melted"])).toBe(2);
    expect(err).toMatch(/R2 melted/);
  });

  it("solves the healthy and the faulted circuit", async () => {
    const path = file("d.trail", TRAIL);
    expect(await main(["solve", path])).toBe(0);
    expect(await main(["solve", path, "--fault", "R2=high:3k"])).toBe(0);
    expect(await main(["solve", path, "--fault", "R1=open"])).toBe(0);
    expect(await main(["solve", path, "--bridge", "A-B"])).toBe(0);
    expect(lines().map((l) => l.volts.B)).toEqual([
      expect.closeTo(5, 9),
      expect.closeTo(7.5, 9),
      expect.closeTo(0, 9),
      expect.closeTo(10, 3),
    ]);
  });

  it("converts by file endings, and says what the other format cannot hold", async () => {
    const source = file("a.json", CASE);
    for (const name of ["out.trail", "out.csv", "back.json"])
      expect(await main(["convert", source, join(folder, name)])).toBe(0);
    expect(readFileSync(join(folder, "out.trail"), "utf8")).toContain("R2 1k");
    expect(readFileSync(join(folder, "out.csv"), "utf8")).toMatch(/^designator,kind,from/);
    expect(err).toMatch(/title|readings/);
    expect(JSON.parse(readFileSync(join(folder, "back.json"), "utf8"))).toEqual(CASE);
  });

  it("simulates the same bench for the same seed, with the truth apart", async () => {
    const path = file("d.trail", TRAIL);
    const run = (name: string) =>
      main(["simulate", path, "--seed", "7", "--out", join(folder, name), "--truth", join(folder, `truth-${name}`)]);
    expect([await run("one.json"), await run("two.json")]).toEqual([0, 0]);
    const read = (name: string) => readFileSync(join(folder, name), "utf8");
    expect(read("one.json")).toBe(read("two.json"));
    expect(JSON.parse(read("truth-one.json"))).toHaveProperty("faults");
    expect(read("one.json")).not.toContain("truth");
    expect(await main(["rank", join(folder, "one.json")])).toBe(0);
    // A fault that is named, of the very first part as of any other.
    for (const fault of ["BT1=dead", "R2=open"]) {
      const truth = join(folder, "truth.json");
      expect(await main(["simulate", path, "--fault", fault, "--out", join(folder, "f.json"), "--truth", truth])).toBe(
        0,
      );
      const [part, mode] = fault.split("=");
      expect(JSON.parse(readFileSync(truth, "utf8")).faults).toMatchObject([{ part, mode }]);
    }
  });

  it("says nothing of what a format cannot hold where there is none of it", async () => {
    expect(await main(["convert", file("plain.json", { ...CASE, readings: [] }), join(folder, "plain.trail")])).toBe(0);
    expect(err).toBe("");
  });

  it("says file, line and column of what is wrong, and ends with 1", async () => {
    const bad = file("bad.trail", "BT1 10V: R1 + R2 1k\n");
    expect(await main(["solve", bad])).toBe(1);
    expect(err).toMatch(/bad\.trail:1:10.* R1 has no value/);
    err = "";
    expect(await main(["rank", file("v.json", { ...CASE, version: 2 })])).toBe(1);
    expect(err).toMatch(/v\.json:3:\d+.*version 2/);
    err = "";
    const lost = { ...CASE, readings: [{ quantity: "voltage", from: "Z", value: 1 }] };
    expect(await main(["rank", file("z.json", lost)])).toBe(1);
    expect(err).toMatch(/z\.json: reading 1: there is no node Z/);
    expect(await main(["rank", join(folder, "nowhere.json")])).toBe(1);
  });

  it("ends with 2 on wrong usage", async () => {
    expect(await main(["rank"])).toBe(2);
    expect(await main(["dance"])).toBe(2);
    expect(await main(["rank", file("a.json", CASE), "--min", "lots"])).toBe(2);
    expect(await main(["solve", file("d.trail", TRAIL), "--fault", "R1=melted"])).toBe(2);
    expect(await main(["--help"])).toBe(0);
  });

  it("estimates values left unknown from the readings, and refuses to solve where they do not tell", async () => {
    const trail = "BT1 10V ri=0: [A] R1 1k 1% + [B] R2 ?";
    const known = file("known.json", {
      ...CASE,
      circuit: trail,
      readings: [
        { quantity: "voltage", from: "A", value: 10, plusMinus: 0.02 },
        { quantity: "voltage", from: "B", value: 5, plusMinus: 0.02 },
      ],
    });
    expect(await main(["solve", known])).toBe(0);
    const [{ unknowns, volts }] = lines();
    expect(unknowns).toMatchObject([{ designator: "R2", unit: "ohm", isSettled: true }]);
    expect(unknowns[0].value / 1000).toBeCloseTo(1, 1);
    expect(volts.B).toBeCloseTo(5, 1);
    out = "";
    expect(await main(["rank", known])).toBe(0);
    expect(Object.keys(lines()[0])).toEqual(["title", "suspects", "verdict", "repairs", "unknowns", "readings"]);
    const open = file("open.json", { ...CASE, circuit: trail, readings: [] });
    expect(await main(["solve", open])).toBe(1);
    expect(err).toMatch(/open\.json: R2 cannot be told from the readings given/);
  });
});

it("solve says of drawn circuits what a reference that shares nothing with it says, meters drawn and two sources too", async () => {
  const random = seededRandom(34);
  for (let n = 0; n < share(40); n += 1) {
    const whole = drawCircuit(4 + (n % 8), random);
    const [first] = whole.parts.filter((p) => p.kind === "supply");
    const second = { ...first, designator: "BT9", from: whole.parts[1].from, internalOhms: 3 };
    const meters = [
      { designator: "AM1", kind: "meter", from: "NA", to: whole.parts[0].to, tolerance: 0.01, ohms: 0.5 },
      { designator: "VM1", kind: "meter", from: whole.parts[2].from, to: whole.reference, tolerance: 0.01, ohms: 2e5 },
    ];
    const moved = whole.parts.map((p, k) => (k === 0 ? { ...p, to: "NA" } : p));
    const circuit = { ...whole, parts: [...moved, second, ...meters] } as Circuit;
    out = "";
    expect(await main(["solve", file(`${n}.json`, { ...CASE, circuit: writeTrail(circuit), readings: [] })])).toBe(0);
    const { volts, amps } = JSON.parse(out) as Record<"volts" | "amps", Record<string, number>>;
    const none = { input: Number.POSITIVE_INFINITY, burden: 0 };
    const plain = (point: object) => plainReading(circuit, { value: 0, ...point } as never, [], { factor: {} }, none);
    const most = Math.max(...Object.values(amps).map(Math.abs));
    for (const [from, value] of Object.entries(volts))
      expect(value, from).toBeCloseTo(plain({ quantity: "voltage", from }), 6);
    for (const [through, value] of Object.entries(amps))
      expect(Math.abs(value - plain({ quantity: "current", through })), through).toBeLessThan(1e-6 * most);
  }
});

it("practice hunts what it hid, and counts what a right name cost; the same seed hides the same again", async () => {
  const path = file("row.trail", "BT1 12V ri=0.2: F1 1A + [A] R1 220 5% + [B] R2 470 5% + [C] LA1 100 5%\n");
  const run = async () => {
    out = "";
    const argv = ["practice", path, "--worlds", "4", "--kind", "open", "--way", "planner", "outward"];
    expect(await main(argv)).toBe(0);
    return out;
  };
  const first = await run();
  const all = lines();
  const own = all.filter((l) => l.world !== undefined);
  expect(own).toHaveLength(8);
  // In a row one open part is found for certain, whoever hunts it.
  for (const { hidden, named, right } of own) {
    expect(["open", "dead"]).toContain(hidden[0].mode);
    expect({ named, right }).toEqual({ named: [hidden[0].part], right: 1 });
  }
  expect(new Set(own.map(({ hidden }) => JSON.stringify(hidden))).size).toBeGreaterThan(1);
  for (const { way, minutesARightOne } of all.filter((l) => l.world === undefined)) {
    const minutes = own.filter((l) => l.way === way).map((l) => l.minutes);
    expect(minutesARightOne).toBeCloseTo(minutes.reduce((a, b) => a + b, 0) / minutes.length, 9);
  }
  expect(await run()).toBe(first);
  expect(await main(["practice", file("none.json", { ...CASE, circuit: "", readings: [] })])).toBe(1);
  expect(await main(["practice", path, "--kind", "magic"])).toBe(2);
});
