import { describe, expect, it } from "vitest";
import { readTrail } from "../notation/index.ts";
import { solveNetwork } from "../solve/index.ts";
import {
  buildNetwork,
  type Circuit,
  idealCircuit,
  KINDS,
  kindOfDesignator,
  type NodeName,
  nodesOf,
  splitDesignator,
  UnknownValueError,
} from "./index.ts";

const circuitOf = (trail: string) => readTrail(trail).circuit as Circuit;

it("has a wiper's node where there is one, and no other", () => {
  expect(nodesOf(circuitOf("BT1 9V: [P] RV1 1k"))).toEqual(["P", "0"]);
  expect(nodesOf(circuitOf("BT1 9V: [P] RV1 1k wiper=[W]\n[W] R1 1k [0]"))).toEqual(["P", "0", "W"]);
});

describe("the kinds", () => {
  it("are told by the letters before the number, whichever case", () => {
    for (const [kind, { letters }] of Object.entries(KINDS))
      for (const l of letters) {
        expect(kindOfDesignator(`${l}12`)).toBe(kind);
        expect(kindOfDesignator(`${l.toLowerCase()}1`)).toBe(kind);
      }
    expect(kindOfDesignator("Q1")).toBeNull();
    expect(kindOfDesignator("R")).toBeNull();
    expect(splitDesignator("RV12")).toEqual({ letters: "RV", number: 12 });
    const all = Object.values(KINDS).flatMap((k) => [...k.letters]);
    expect(new Set(all).size).toBe(all.length);
  });
});

describe("the network", () => {
  it("numbers nodes in the order met and gives every part its law", () => {
    const circuit = circuitOf(
      "BT1 24V ri=0.3 limit=2A: F1 1A + [A] S1 open + [B] LA1 12V 5W + R1 ?".replace(" + R1 ?", " + R1 5"),
    );
    const { nodes, branches, reference } = buildNetwork(circuit);
    expect(nodes).toEqual(nodesOf(circuit));
    expect(nodes[reference]).toBe("0");
    expect(branches.map((b) => b.law)).toEqual([
      { kind: "supply", volts: 24, ohms: 0.3, limit: 2 },
      { kind: "resistance", ohms: 0.1 },
      { kind: "open" },
      { kind: "filament", hot: 28.8, cold: expect.closeTo(2.4, 9), volts: 12 },
      { kind: "resistance", ohms: 5 },
    ]);
  });

  it("splits a potentiometer into its sections and its contact", () => {
    const network = buildNetwork(circuitOf("BT1 10V ri=0: [P] RV1 10k at=40% wiper=[W]\n[W] R1 1M [0]"));
    expect(network.branches.map((b) => b.name)).toEqual(["BT1", "RV1.top", "RV1.bottom", "RV1.wiper", "R1"]);
    const solution = solveNetwork(network);
    if (solution.kind !== "solved") throw new Error(solution.why);
    // 40 % of the track above the wiper: six tenths of the supply at it, less what R1 draws.
    expect(solution.volts[network.nodes.indexOf("W")]).toBeCloseTo(10 / (1 + 4 / (6000 / 1006)), 2);
    const ends = buildNetwork(circuitOf("BT1 10V: [P] RV1 10k at=0%"));
    expect(ends.branches[1].law).toEqual({ kind: "resistance", ohms: 0.02 });
  });

  it("says which value is missing", () => {
    expect(() => buildNetwork(circuitOf("BT1 9V: R1 ? + R2 1"))).toThrow(UnknownValueError);
    expect(() => buildNetwork(circuitOf("BT1 ?: R1 5"))).toThrow(/BT1 has no known value/);
  });

  it("made ideal keeps its shape: supplies hold their volts to the last digit, contacts drop next to nothing", () => {
    const circuit = circuitOf(
      "BT1 12V ri=0.5: [P] J1 + [A] S1 + [B] R1 10\n[B] RV1 100 at=40% wiper=[W] [0]\n[W] R2 47 [0]",
    );
    const voltsOf = (ideal: { supplies: boolean; contacts: boolean }) => {
      const network = buildNetwork(idealCircuit(circuit, ideal));
      const solution = solveNetwork(network);
      if (solution.kind !== "solved") throw new Error(solution.why);
      return (name: string) => solution.volts[network.nodes.indexOf(name as NodeName)];
    };
    const both = voltsOf({ supplies: true, contacts: true });
    expect(both("P")).toBe(12);
    expect(both("B")).toBeCloseTo(12, 7);
    const contacts = voltsOf({ supplies: false, contacts: true });
    expect(contacts("B")).toBeCloseTo(contacts("P"), 7);
    expect(contacts("P")).toBeLessThan(11.5);
    const supplies = voltsOf({ supplies: true, contacts: false });
    expect(supplies("P")).toBe(12);
    // Two contacts of 20 mΩ under a good ampere.
    expect(12 - supplies("B")).toBeGreaterThan(0.04);
    expect(idealCircuit(circuit, { supplies: false, contacts: false })).toEqual(circuit);
    expect(idealCircuit(circuit, { supplies: true, contacts: true }).parts.map((p) => p.designator)).toEqual(
      circuit.parts.map((p) => p.designator),
    );
  });
});
