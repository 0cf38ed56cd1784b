import { describe, expect, it } from "vitest";
import type { NodeName } from "../circuit/index.ts";
import { type Reading, takenSo } from "../record/index.ts";
import {
  afterChange,
  type ChangeOfCircuit,
  type Configuration,
  isSameState,
  partsNotAsDrawn,
  standingWith,
} from "./index.ts";

type PartChange = Exclude<Extract<ChangeOfCircuit, { part: string }>["change"], "now">;
const after = (...changes: [string, PartChange][]) =>
  changes.reduce<Configuration>((now, [part, change]) => afterChange(now, { part, change }), {});

describe("how the circuit stands", () => {
  it("follows what is changed, and says nothing of what is as drawn", () => {
    expect(after(["R3", "lifted"], ["S1", "open"], ["F1", "swapped"])).toEqual({
      lifted: ["R3"],
      switches: { S1: "open" },
      swapped: ["F1"],
    });
    expect(after(["S1", "open"], ["S1", "closed"])).toEqual({ switches: { S1: "closed" } });
    expect(after(["R3", "lifted"], ["R3", "lifted"], ["R3", "restored"])).toEqual({});
    expect(after(["R3", "swapped"], ["R3", "lifted"])).toEqual({ swapped: ["R3"], lifted: ["R3"] });
    // A known-good part comes in with both leads on; putting one part back leaves the others.
    expect(after(["R3", "lifted"], ["R3", "swapped"])).toEqual({ swapped: ["R3"] });
    expect(after(["R3", "swapped"], ["R4", "lifted"], ["S1", "open"], ["R3", "restored"])).toEqual({
      lifted: ["R4"],
      switches: { S1: "open" },
    });
  });

  it("knows two nodes whichever is named first", () => {
    const [C, D] = ["C", "D"] as NodeName[];
    const put = afterChange({}, { from: C, to: D, change: "now", value: 1000 });
    expect(afterChange(put, { from: D, to: C, change: "restored" })).toEqual({});
    expect(afterChange(put, { from: D, to: C, change: "now", value: 47 }).added).toEqual([
      { from: D, to: C, ohms: 47 },
    ]);
    const metered = afterChange({}, { from: C, to: D, change: "metered" });
    expect(afterChange(metered, { from: D, to: C, change: "metered" }).meters).toHaveLength(1);
    expect(afterChange(metered, { from: D, to: C, change: "restored" })).toEqual({});
    // To the reference is another place than between them.
    expect(afterChange(put, { from: C, change: "restored" })).toEqual(put);
    const isSame = (one: Configuration, other: Configuration) => isSameState(one, other);
    expect(isSame(put, { added: [{ from: D, to: C, ohms: 1000 }] })).toBe(true);
    expect(isSame(metered, { meters: [{ from: D, to: C }] })).toBe(true);
    expect(isSame(put, { added: [{ from: D, to: C, ohms: 999 }] })).toBe(false);
  });

  it("takes values, parts put in, meters and leads, and gives each back", () => {
    const B = "B" as NodeName;
    const changes: ChangeOfCircuit[] = [
      { part: "R2", change: "now", value: 2000 },
      { part: "R4", change: "out" },
      { from: B, change: "now", value: 1000 },
      { part: "R3", change: "metered" },
      { from: B, change: "metered" },
      { part: "BT1", change: "off" },
      { change: "leads", value: 0.3 },
    ];
    const all = changes.reduce<Configuration>(afterChange, {});
    expect(all).toEqual({
      values: { R2: 2000 },
      out: ["R4"],
      added: [{ from: "B", ohms: 1000 }],
      meters: [{ through: "R3" }, { from: "B" }],
      off: ["BT1"],
      leads: 0.3,
    });
    // The same once more changes nothing but the value; a known-good part has its own again.
    expect(afterChange(all, { part: "R2", change: "now", value: 470 }).values).toEqual({ R2: 470 });
    expect(afterChange(all, { from: B, change: "now", value: 47 }).added).toEqual([{ from: "B", ohms: 47 }]);
    expect(afterChange(all, { part: "R3", change: "metered" }).meters).toHaveLength(2);
    expect(afterChange(all, { part: "R2", change: "swapped" })).toMatchObject({ swapped: ["R2"] });
    expect(afterChange(all, { part: "R2", change: "swapped" }).values).toBeUndefined();
    expect(afterChange(after(["R4", "lifted"]), { part: "R4", change: "out" })).toEqual({ out: ["R4"] });
    expect(afterChange({ out: ["R4"] }, { part: "R4", change: "now", value: 5 })).toEqual({ values: { R4: 5 } });
    const back: ChangeOfCircuit[] = [
      ...["R2", "R4", "R3", "BT1"].map((part) => ({ part, change: "restored" }) as const),
      { from: B, change: "restored" },
    ];
    expect(back.reduce<Configuration>(afterChange, all)).toEqual({ leads: 0.3 });
    // Leads are taken off where a reading is typed: they are no part of how it was taken.
    expect(takenSo<Reading>({ quantity: "voltage", from: B, value: 1 }, all).state).toEqual({
      values: { R2: 2000 },
      out: ["R4"],
      added: [{ from: "B", ohms: 1000 }],
      meters: [{ through: "R3" }, { from: "B" }],
      off: ["BT1"],
    });
    expect(takenSo({ quantity: "voltage", from: B, value: 1 }, { leads: 0.3 })).not.toHaveProperty("state");
    expect(partsNotAsDrawn(all).sort()).toEqual(["BT1", "R2", "R4"]);
  });

  it("goes into a reading beside what that reading says of itself", () => {
    const standing = after(["R3", "lifted"], ["S1", "open"]);
    expect(standingWith(standing, { lifted: ["R4", "R3"], off: ["BT1"] })).toEqual({
      lifted: ["R3", "R4"],
      switches: { S1: "open" },
      off: ["BT1"],
    });
    expect(standingWith({}, undefined)).toEqual({});
  });
});
