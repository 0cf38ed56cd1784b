import { describe, expect, it } from "vitest";
import { afterChange, type ChangeOfCircuit, type Configuration, standingWith } from "./index.ts";

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
