import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { solveNetwork } from "../solve/index.ts";
import { linearCircuits } from "../test/arbitrary/circuits.ts";
import { chainOf, deduce, type Fact } from "./index.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const NONE: ReadonlySet<string> = new Set();
const figureOf = (facts: readonly Fact[], of: Fact["of"], name: string) =>
  facts.find((f) => f.of === of && f.name === name)?.value;
const written = (fact: Fact) =>
  `${fact.of} ${fact.name} ${fact.rule} ${fact.using.map((t) => `${t.sign < 0 ? "-" : ""}${t.fact.of} ${t.fact.name}`).join(" ")}`.trim();

describe("what follows on paper", () => {
  it("finds an unknown resistance step by step, each with its rule", () => {
    const network = networkOf("BT1 30V ri=0: [P] R1 100 + [X] R2 6");
    const given = [{ of: "amps", branch: 2, value: 2.5 }] as const;
    const facts = deduce(network, given, new Set(["R1"]));
    const r1 = facts.find((f) => f.of === "ohms" && f.name === "R1") as Fact;
    expect(r1.value).toBeCloseTo(6, 9);
    expect(chainOf(r1).map(written)).toEqual([
      "emf BT1 drawn",
      "volts BT1 source emf BT1",
      "amps R2 read",
      "ohms R2 drawn",
      "volts R2 ohm amps R2 ohms R2",
      "volts R1 loop volts BT1 -volts R2",
      "amps BT1 series amps R2",
      "amps R1 series amps BT1",
      "ohms R1 ohm volts R1 amps R1",
    ]);
  });

  it("finds a source's own voltage beside an unknown resistance, its inside counted", () => {
    // 9 V behind 2 Ω drives 0.75 A through 10 Ω: 7.5 V at the terminals.
    const network = networkOf("BT1 1V ri=2: [P] R1 1 + [X] R2 6");
    const read = [
      { of: "volts", from: network.nodes.indexOf("P" as never), to: network.reference, value: 7.5 },
      { of: "amps", branch: 1, value: 0.75 },
    ] as const;
    const facts = deduce(network, read, new Set(["BT1", "R1"]));
    expect(figureOf(facts, "emf", "BT1")).toBeCloseTo(9, 9);
    expect(figureOf(facts, "ohms", "R1")).toBeCloseTo(4, 9);
  });

  it("works a series–parallel circuit out from nothing but what is drawn, total first", () => {
    // 1k ∥ (470 + 330) = 444.4; with 220, 100 and 0.5 inside 764.9 Ω: 31.37 mA.
    const trail = "BT1 24V ri=0.5: [P] R1 220 + [A] (R2 1k | R3 470 + [C] R4 330) + [D] R5 100";
    const facts = deduce(networkOf(trail), [], NONE);
    const total = 24 / (0.5 + 220 + 1 / (1 / 1000 + 1 / 800) + 100);
    expect(figureOf(facts, "amps", "BT1")).toBeCloseTo(total, 12);
    expect(figureOf(facts, "amps", "R4")).toBeCloseTo((total * 1000) / 1800, 12);
    expect(figureOf(facts, "volts", "R2")).toBeCloseTo((total * 800 * 1000) / 1800, 9);
  });

  it("never says what is not so: every figure is the solved one, in any network, whatever is read or left unknown", () => {
    let [figures, unknowns] = [0, 0];
    fc.assert(
      fc.property(linearCircuits({ most: 9 }), fc.infiniteStream(fc.boolean()), (circuit, stream) => {
        const network = buildNetwork(circuit);
        const solved = solveNetwork(network);
        if (solved.kind !== "solved" || solved.floating.length > 0) return;
        const coin = stream[Symbol.iterator]();
        const toss = () => coin.next().value === true;
        const { branches } = network;
        const unknown = new Set(branches.filter(() => toss() && toss()).map((b) => b.name));
        const across = (from: number, to: number) => solved.volts[from] - solved.volts[to];
        const given = [
          ...network.nodes.flatMap((_, from) =>
            toss()
              ? [{ of: "volts" as const, from, to: network.reference, value: across(from, network.reference) }]
              : [],
          ),
          ...branches.flatMap((b, branch) =>
            toss() && toss()
              ? [{ of: "amps" as const, branch, value: (b.kind === "supply" ? -1 : 1) * solved.amps[branch] }]
              : [],
          ),
        ];
        for (const fact of deduce(network, given, unknown)) {
          if (fact.rule === "read" || fact.rule === "drawn") continue;
          const k = branches.findIndex((b) => b.name === fact.name);
          const size = Math.max(1e-9, ...solved.volts.map(Math.abs));
          if (fact.of === "volts") expect(Math.abs(fact.value - across(fact.from, fact.to))).toBeLessThan(1e-6 * size);
          if (k < 0) continue;
          figures += 1;
          const { law, kind } = branches[k];
          const most = Math.max(...solved.amps.map(Math.abs));
          if (fact.of === "amps")
            expect(Math.abs(fact.value - (kind === "supply" ? -1 : 1) * solved.amps[k])).toBeLessThan(1e-6 * most);
          // What hardly any current flows through is found from the difference of large figures.
          if (fact.of === "ohms" && law.kind === "resistance" && Math.abs(solved.amps[k]) > 1e-3 * most) {
            expect(Math.abs(fact.value / law.ohms - 1)).toBeLessThan(1e-2);
            unknowns += 1;
          }
        }
      }),
    );
    expect(figures).toBeGreaterThan(300);
    expect(unknowns).toBeGreaterThan(20);
  });
});
