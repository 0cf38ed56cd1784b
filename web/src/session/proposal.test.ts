import type { Circuit } from "@hound/core/circuit";
import type { Judgement } from "@hound/core/judgement";
import { readTrail } from "@hound/core/notation";
import type { Suggestion } from "@hound/core/plan";
import type { Reading } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { percent, placeOf, shown, valueOfReading, withLimits } from "../words/quantities.ts";
import { nextSteps, otherKind, settled } from "./proposal.ts";
import { amps, circuit, judgement as plan, swap, volts } from "./test/judgements.ts";

const plainText = (text: string) => text.replaceAll("\u00a0", " ");

describe("the next steps", () => {
  it("begin with what was probably mis-taken, however little it tells and whatever was proposed before", () => {
    const look: Suggestion = { ...swap, measurement: { kind: "look", part: "R1", minutes: 0.25 }, informationBits: 0 };
    const doubtful: Judgement = { ...plan(look, volts("A", 0.8)), verdict: { kind: "open", quiet: true, again: 0 } };
    expect(nextSteps(circuit, [], doubtful).map((s) => s.key)).toEqual(["look R1", "volts A"]);
    const kept = settled(plan(volts("A", 0.9)), doubtful);
    expect(nextSteps(circuit, [], kept)[0].key).toBe("look R1");
    // Without that a look that tells nothing is none.
    expect(nextSteps(circuit, [], plan(look, volts("A", 0.8))).map((s) => s.key)).toEqual(["volts A"]);
  });

  it("are the best three as the plan has them, of every kind, each with what a bare value is taken for", () => {
    const steps = nextSteps(circuit, [], plan(swap, volts("B", 0.8), amps, volts("A", 0.5)));
    expect(steps.map((s) => s.key)).toEqual(["swap R1", "volts B", "current R2"]);
    expect(steps.map((s) => s.proposal)).toEqual([
      null,
      { quantity: "voltage", from: "B" },
      { quantity: "current", through: "R2" },
    ]);
    expect(nextSteps(circuit, [], plan(volts("A", 0.5, "B")))[0].proposal).toMatchObject({ from: "A", to: "B" });
  });

  it("leave out what cannot be reached, and put what was put off behind what is left", () => {
    const all = plan(volts("B", 0.8), volts("A", 0.5), amps);
    const without = (key: string, how: "never" | "later") =>
      nextSteps(circuit, [], all, { putOff: new Map([[key, how]]) }).map((s) => s.key);
    expect(without("volts B", "never")).toEqual(["volts A", "current R2"]);
    expect(without("volts B", "later")).toEqual(["volts A", "current R2", "volts B"]);
  });

  it("leave out what an edit took away", () => {
    expect(
      nextSteps(
        circuit,
        [],
        plan(volts("Z", 0.8), { ...swap, measurement: { ...swap.measurement, part: "R9" } as never }, amps),
      ).map((s) => s.key),
    ).toEqual(["current R2"]);
  });

  it("are what probes alone can read where a meter sends its readings, and of the next kind on one key", () => {
    const all = plan(swap, amps, volts("B", 0.8), volts("A", 0.5));
    expect(nextSteps(circuit, [], all, { isByProbes: true }).map((s) => s.key)).toEqual(["volts B", "volts A"]);
    const [first] = nextSteps(circuit, [], plan(volts("B", 0.8), amps, swap));
    const second = otherKind(circuit, all, new Map(), first);
    expect(second?.key).toBe("current R2");
    expect(second && otherKind(circuit, all, new Map(), second)?.key).toBe("swap R1");
  });

  it("go from the supply outward where nothing tells any more", () => {
    const [step] = nextSteps(circuit, [{ quantity: "voltage", from: "+", value: 9 }], plan(volts("B", 0.001)));
    expect(step).toMatchObject({ proposal: { quantity: "voltage", from: "A" }, why: null });
    const read = ["+", "A", "B"].map((from) => ({ quantity: "voltage" as const, from, value: 1 }));
    // Then across the parts, but for those that end at the reference.
    expect(nextSteps(circuit, read, plan()).map((s) => s.proposal)).toEqual([
      { quantity: "voltage", from: "+", to: "A" },
    ]);
    const across = [
      ["+", "A"],
      ["A", "B"],
    ].map(([from, to]) => ({ quantity: "voltage" as const, from, to, value: 1 }));
    expect(nextSteps(circuit, [...read, ...across], plan())).toEqual([]);
    // Whichever way round it was read, and with the reference named.
    const turned = [...read, ...across].map((r) => ({ ...r, from: "to" in r ? r.to : "0", to: r.from })) as Reading[];
    expect(nextSteps(circuit, turned, plan())).toEqual([]);
    const dead = readTrail("[A] R1 1k + [B] R2 1k [C]").circuit as Circuit;
    expect(nextSteps(dead, [], plan())).toEqual([]);
  });

  it("do not change under the hand for a little more", () => {
    const before = plan(volts("A", 0.6));
    expect(settled(before, plan(volts("B", 0.8), volts("A", 0.5))).next[0]).toEqual(volts("A", 0.5));
    expect(settled(before, plan(volts("B", 0.8), volts("A", 0.1))).next[0]).toEqual(volts("B", 0.8));
    expect(settled(null, plan(volts("B", 0.8))).next[0]).toEqual(volts("B", 0.8));
  });
});

describe("numbers in words", () => {
  it("carry as many digits as their limits allow, with one prefix for both", () => {
    expect(plainText(withLimits(16.912, 0.43, "V"))).toBe("16.91 ± 0.43 V");
    expect(plainText(withLimits(0.00123456, 0.000004, "A"))).toBe("1.2346 ± 0.0040 mA");
    expect(plainText(withLimits(5, 0, "V"))).toBe("5.000 V");
    expect(plainText(withLimits(1e-16, 0.0002, "V"))).toBe("0 ± 200 µV");
    expect(withLimits(1e31, 1, "ohm")).toBe("OL");
    expect(plainText(shown(1e-15, "V"))).toBe("0 V");
  });

  it("keep a reading as it was typed", () => {
    expect(plainText(valueOfReading({ quantity: "voltage", from: "A", value: 7.4, step: 0.01 }))).toBe("7.40 V");
    expect(plainText(valueOfReading({ quantity: "resistance", lifted: "R1", value: 4e7, beyond: "over" }))).toBe(
      "above 40.00 MΩ",
    );
    expect(valueOfReading({ quantity: "observation", part: "LA1", seen: "dark" })).toBe("is dark");
    expect(placeOf({ quantity: "voltage", from: "A", to: "B", value: 1 })).toBe("A–B");
    expect(placeOf({ quantity: "current", through: "R1", value: 1 })).toBe("through R1");
  });

  it("never say that something is certain or impossible", () => {
    expect([percent(1), percent(0.99999), percent(0), percent(0.0004)].map(plainText)).toEqual([
      "> 99.9 %",
      "> 99.9 %",
      "< 0.1 %",
      "< 0.1 %",
    ]);
    expect([percent(0.5), percent(0.034), percent(0.997)].map(plainText)).toEqual(["50 %", "3.4 %", "99.7 %"]);
  });
});
