import { describe, expect, it } from "vitest";
import { readTrail } from "../notation/index.ts";
import {
  type Branch,
  type BranchFault,
  buildNetwork,
  type Circuit,
  type CircuitState,
  lawOf,
  withAdded,
} from "./index.ts";

const branchOf = (trail: string, name: string): Branch => {
  const found = buildNetwork(readTrail(trail).circuit as Circuit).branches.find((b) => b.name === name);
  if (!found) throw new Error(name);
  return found;
};
const TRAIL = "BT1 10V ri=0.1 limit=2A: R1 1k + LA1 12V 5W + S1 0.03ohm + S2 open 0.04ohm + J1";
const law = (name: string, state: CircuitState = {}, fault: BranchFault | null = null, power: "on" | "off" = "on") =>
  lawOf(branchOf(TRAIL, name), { power, state }, fault);
const OPEN = { kind: "open" };
const ohms = (value: number) => ({ kind: "resistance", ohms: value });

describe("what a branch is", () => {
  it("is as drawn where nothing is wrong and nobody touched it", () => {
    expect(law("R1")).toEqual(ohms(1000));
    expect(law("BT1")).toEqual({ kind: "supply", volts: 10, ohms: 0.1, limit: 2 });
    expect(law("LA1")).toMatchObject({ kind: "filament", hot: expect.closeTo(28.8, 9), cold: expect.closeTo(2.4, 9) });
    expect([law("S1"), law("S2")]).toEqual([ohms(0.03), OPEN]);
  });

  it("follows each fault", () => {
    const as = (name: string, mode: BranchFault["mode"], value = 0) => law(name, {}, { mode, value });
    expect(as("BT1", "dead")).toEqual(OPEN);
    expect(as("BT1", "weak", 7)).toMatchObject({ kind: "supply", volts: 10, ohms: 7, limit: 2 });
    expect(as("BT1", "low", 6)).toMatchObject({ kind: "supply", volts: 6, ohms: 0.1 });
    expect(as("BT1", "high", 14)).toMatchObject({ volts: 14 });
    expect([as("R1", "open"), as("R1", "short"), as("R1", "high", 5000)]).toEqual([OPEN, ohms(0.01), ohms(5000)]);
    // Twice the filament when hot is twice the filament when cold.
    expect(as("LA1", "high", 57.6)).toMatchObject({ kind: "filament", hot: 57.6, cold: expect.closeTo(4.8, 9) });
    expect(as("J1", "high", 3.02)).toEqual(ohms(3.02));
  });

  it("leaves a stuck switch stuck whatever its lever says, and a bad contact bad only while the lever is closed", () => {
    const closed = { switches: { S1: "closed", S2: "closed" } } as const;
    const open = { switches: { S1: "open", S2: "open" } } as const;
    for (const [name, good] of [
      ["S1", 0.03],
      ["S2", 0.04],
    ] as const) {
      const of = (mode: BranchFault["mode"], state: CircuitState) => law(name, state, { mode, value: 7 });
      expect([law(name, closed), law(name, open)]).toEqual([ohms(good), OPEN]);
      expect([of("stuckOpen", closed), of("stuckOpen", open)]).toEqual([OPEN, OPEN]);
      expect([of("stuckClosed", closed), of("stuckClosed", open)]).toEqual([ohms(good), ohms(good)]);
      expect([of("high", closed), of("high", open)]).toEqual([ohms(7), OPEN]);
    }
  });

  it("is good where a known-good part stands in or its value was changed, gone where it was lifted or taken out", () => {
    const fault: BranchFault = { mode: "short", value: 0 };
    expect(law("R1", { swapped: ["R1"] }, fault)).toEqual(ohms(1000));
    expect(law("R1", { values: { R1: 220 } }, fault)).toEqual(ohms(220));
    expect(law("BT1", { values: { BT1: 6 } })).toMatchObject({ kind: "supply", volts: 6, ohms: 0.1 });
    for (const gone of [{ lifted: ["R1"] }, { out: ["R1"] }, { lifted: ["R1"], swapped: ["R1"] }])
      expect(law("R1", gone, fault)).toEqual(OPEN);
    expect(law("R1", { lifted: ["LA1"] })).toEqual(ohms(1000));
    expect(law("S1", { swapped: ["S1"] }, { mode: "stuckOpen", value: 0 })).toEqual(ohms(0.03));
    expect(law("S1", { swapped: ["S1"], switches: { S1: "open" } }, { mode: "stuckClosed", value: 0 })).toEqual(OPEN);
  });

  it("has no supply with the power off, unless supplies are left in, and cold filaments", () => {
    expect(law("BT1", {}, null, "off")).toEqual(OPEN);
    expect(law("BT1", { off: ["BT1"] })).toEqual(OPEN);
    const left = { power: "off", supplies: "internal", state: {} } as const;
    expect(lawOf(branchOf(TRAIL, "BT1"), left, null)).toEqual(ohms(0.1));
    expect(lawOf(branchOf(TRAIL, "BT1"), left, { mode: "weak", value: 9 })).toEqual(ohms(9));
    expect(lawOf(branchOf(TRAIL, "BT1"), left, { mode: "dead", value: 0 })).toEqual(OPEN);
    expect(law("LA1", {}, null, "off")).toMatchObject(ohms(expect.closeTo(2.4, 9) as number));
    expect(law("LA1", {}, { mode: "short", value: 0 }, "off")).toEqual(ohms(0.01));
  });

  it("puts a resistance between two nodes in those settings that say so", () => {
    const network = buildNetwork(readTrail("BT1 9V: [P] R1 100 + [A] R2 220").circuit as Circuit);
    const added = { from: "P" as never, to: "A" as never, ohms: 470 };
    const more = withAdded(network, [added, added]);
    if (typeof more === "string") throw new Error(more);
    expect(more.branches).toHaveLength(4);
    const own = more.branches[3];
    expect(lawOf(own, { power: "on", state: {} }, null)).toEqual(OPEN);
    expect(lawOf(own, { power: "off", state: { added: [{ ...added, ohms: 330 }] } }, null)).toEqual(ohms(330));
    expect(withAdded(network, [{ from: "Z" as never, ohms: 1 }])).toBe("Z");
  });
});
