import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { solveNetwork } from "../solve/index.ts";
import { currentPath, describeStretch, oddities, reducedNetwork, reduceNetwork, relationOf, ruleFor } from "./index.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const find = (trail: string, ...names: string[]) => {
  const network = networkOf(trail);
  return { network, at: names.map((n) => network.branches.findIndex((b) => b.name === n)) };
};

const VENT = "BT1 24V: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] R4 330) + [D] R5 100\n[B] R9 10k [D]";

describe("what is odd about a circuit", () => {
  it.each([
    ["BT1 9V: R1 1k + [A] R2 1k\n[A] R3 470 [X]", "dead end", /beyond R3 \(at X\)/],
    ["BT1 9V: R1 1k\n[X] R3 470 [Y]", "undriven", /connects R3 to a supply/],
    ["BT1 9V: [P] R1 1k + [A] (R2 1k | W1)", "shorted", /R2 is bridged/],
    ["BT1 9V: [P] R1 1k\n[A] R2 1k [A]\n[A] R4 1k [P]", "shorted", /both ends of R2 are at A/],
    ["BT1 9V: [P] R1 1k\n[0] BT2 12V [P]", "fighting", /BT1 and BT2 .* disagree by 3\sV/],
    ["BT1 9V: [P] R1 1k\n[P] BT2 12V [0]", "fighting", /BT1 and BT2 .* disagree by 21\sV/],
    ["BT1 9V: (R1 1k | F1 2A + S1)", "short across", /BT1: as drawn it is shorted/],
    ["BT1 9V: R1 74k + R2 1k", "value", /R1: 74\skΩ is in no E-series; is 47\skΩ meant/],
    ["BT1 9V: R1 477 + R2 1k", "value", /R1: 477\sΩ is in no E-series; is 47\sΩ meant/],
    ["BT1 9V: R1 1k + R2 2k2 + R3 4k7 + R4 4M7", "neighbours", /R4 is more than 1000 times above/],
    ["BT1 24V: R1 100 0.5W + R2 100 2W", "rating", /R1 takes 1.44\sW when healthy, above its 500\smW/],
    ["BT1 12V: R1 470 + LED1 rev", "way round", /LED1 lies against the current/],
    ["BT1 12V: R1 220 + ZD1 5V1", "way round", /ZD1 conducts forwards/],
    ["BT1 12V: K1.no + R1 220", "relay", /there is no K1 here/],
    ["BT1 12V: [P] K1.nc + [B] K1 12V 1W", "relay", /K1.nc buzzes/],
    ["BT1 12V: BR1 plus=[P] minus=[P]\n[P] R1 1k [0]", "shorted", /plus and minus of BR1 are both at P/],
    ["BT1 12V ac: BR1 plus=[P] minus=[M]\n[P] R1 1k [M]", "alternating", /BT1 alternates, and BR1 sees/],
    ["PS1 24V mains: (HR1 48 | D1 + LED1)", "alternating", /PS1 alternates, and D1, LED1 see /],
    ["BT1 24V: F1 0.1A + R2 100 20W", "rating", /F1 carries 238\smA when healthy/],
  ])("%s: %s", (trail, kind, words) => {
    const found = oddities(networkOf(trail)).filter((o) => o.kind === kind);
    expect(found.map((o) => o.message).join("\n")).toMatch(words);
  });

  it("finds nothing odd in a diode that blocks, a Zener that holds and a contact that follows its coil", () => {
    const sound =
      "BT1 12V: [P] (K1 12V 1W | D1 rev)\n[P] K1.no + [A] R1 220 + [B] (ZD1 5V1 rev | R2 1k + [C] LED1) [0]";
    expect(oddities(networkOf(sound)).filter((o) => o.kind === "way round" || o.kind === "relay")).toEqual([]);
  });

  it("finds nothing odd in a heater on alternating volts, and in a rectifier on direct ones", () => {
    expect(oddities(networkOf("PS1 24V ac: HR1 48"))).toEqual([]);
    expect(oddities(networkOf("BT1 12V: BR1 plus=[P] minus=[M]\n[P] R1 1k [M]"))).toEqual([]);
  });

  it("comes in the order of the trail", () => {
    const odd = "BT1 24V: R1 100 0.5W + [A] R2 7400 2W + [B] R3 100 0.5W\n[A] R4 470 [X]";
    expect(oddities(networkOf(odd)).map((o) => o.parts[0])).toEqual(["R2", "R4"]);
  });

  it("leaves supplies alone that agree within their tolerances", () => {
    const fights = (second: string) =>
      oddities(networkOf(`BT1 12V 2%: [P] R1 1k\n[0] BT2 ${second} [P]`)).filter((o) => o.kind === "fighting").length;
    // 2 % of 12 V and 3 % of 12.5 V are 0.615 V together.
    expect([fights("12.5V 3%"), fights("12.8V 3%")]).toEqual([0, 1]);
  });

  it("is nothing for a plain one, switches open or not, and none of it stops where nothing can be solved", () => {
    expect(oddities(networkOf(`${VENT}\n[B] S1 open + R8 1k [D]`))).toEqual([]);
    expect(oddities(networkOf("BT1 9V ri=0: [P] R1 1k\n[0] BT2 12V ri=0 [P]")).map((o) => o.kind)).toEqual([
      "fighting",
    ]);
    expect(oddities(networkOf("[A] R1 1k + R2 2k [B]"))).toEqual([]);
  });
});

describe("series, parallel or neither", () => {
  it.each([
    ["R2", "R9", "parallel", /both lie between B and D/],
    ["R3", "R4", "series", /at C they meet and nothing else joins/],
    ["R1", "R5", "series", /\(R2, R3, R4 and R9\)|R2, R3, R4, R9/],
    ["R2", "R3", "neither", /meet at B, where R1 and R9 also join/],
    ["R2", "F1", "neither", /share no node/],
  ])("%s and %s: %s", (a, b, kind, why) => {
    const { network, at } = find(VENT, a, b);
    expect(relationOf(network, at[0], at[1])).toEqual({ kind, why: expect.stringMatching(why) });
    expect(relationOf(network, at[1], at[0]).kind).toBe(kind);
  });

  it("says how a longer stretch comes together, and where it does not", () => {
    const whole = find(VENT, "R2", "R3", "R4", "R9");
    expect(describeStretch(whole.network, whole.at)).toBe(
      "one stretch from B to D: R2 parallel to (R3 in series with R4) parallel to R9",
    );
    const bridge = find("BT1 9V: [P] (R1 1 + [L] R2 2 | R3 3 + [M] R4 4)\n[L] R5 5 [M]", "R1", "R2", "R5");
    expect(describeStretch(bridge.network, bridge.at)).toMatch(/neither series nor parallel as a whole/);
  });
});

describe("the path of the current", () => {
  const path = (trail: string, through: string) => {
    const { network, at } = find(trail, through);
    const solved = solveNetwork(network);
    if (solved.kind !== "solved") throw new Error(solved.why);
    const steps = currentPath(network, solved.amps, at[0]);
    return steps.map((s) => `${s.forward ? "" : "-"}${network.branches[s.branch].name}`).join(" ");
  };

  it("goes through the part asked for, round by the larger currents, from plus to minus", () => {
    expect(path(VENT, "R9")).toMatch(/^-BT1 F1 R1 R9 R5$/);
    expect(path(VENT, "R5")).toBe("-BT1 F1 R1 R3 R4 R5");
    expect(path("BT1 9V: R1 1k + S1 open", "R1")).toBe("");
  });
});

describe("the rule behind a cell", () => {
  it.each([
    ["R1", "amps", /same current as F1: nothing branches off at A/],
    ["R5", "amps", /same current as (BT1|F1|R1): /],
    ["R9", "volts", /drop shared with R2: same two nodes, B and D/],
    ["R2", "volts", /V\(R2\) = I\(R2\) × R\(R2\)/],
    ["R2", "amps", /I\(R2\) = V\(R2\) ÷ R\(R2\)/],
    ["R2", "watts", /P\(R2\) = V\(R2\) × I\(R2\)/],
    ["BT1", "volts", /E\(BT1\) less what its current drops inside/],
  ] as const)("%s %s", (name, cell, words) => {
    const { network, at } = find(VENT, name);
    expect(ruleFor(network, at[0], cell)).toMatch(words);
  });
});

describe("the circuit part way through its reduction", () => {
  it("has the same currents and voltages everywhere that is left", () => {
    const network = networkOf(VENT);
    const ohms = network.branches.map((b) => (b.law.kind === "resistance" ? b.law.ohms : 0));
    const reduction = reduceNetwork(network, ohms);
    const whole = solveNetwork(network);
    if (whole.kind !== "solved") throw new Error(whole.why);
    for (let after = 0; after <= reduction.steps.length; after += 1) {
      const part = reducedNetwork(network, reduction, after);
      const solved = solveNetwork(part);
      if (solved.kind !== "solved") throw new Error(solved.why);
      expect(solved.amps[0]).toBeCloseTo(whole.amps[0], 9);
      const used = new Set(part.branches.flatMap((b) => [b.from, b.to]));
      for (const node of used) expect(solved.volts[node]).toBeCloseTo(whole.volts[node], 9);
      expect(part.branches.length).toBeLessThanOrEqual(network.branches.length);
    }
    expect(reducedNetwork(network, reduction, reduction.steps.length).branches.map((b) => b.name)).toEqual([
      "BT1",
      "Rc",
    ]);
  });
});
