import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { branchNow, type Configuration, CURRENT_STEPS, nextStepOf, stepped } from "../configuration/index.ts";
import { readQuick, readTrail } from "../notation/index.ts";
import { type Meter, type NumericReading, SHIPPED_METERS, takenSo } from "../record/index.ts";
import { adviceFor } from "./index.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const VENT = networkOf("BT1 24V ri=0.3: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] R4 330) + [D] R5 100");
const volts = (from: string, to?: string) =>
  ({ quantity: "voltage", from, ...(to ? { to } : {}), value: 0 }) as NumericReading;
const amps = (through: string) => ({ quantity: "current", through, value: 0 }) as NumericReading;
const ohms = (from: string, to: string) => ({ quantity: "resistance", from, to, value: 0 }) as NumericReading;

describe("the range to set", () => {
  it.each([
    [0.3, 0.25, 2, null],
    [14, 1.9, 20, 2],
    [14, 13.8, 20, null],
    [19.9, 0.15, 20, 0.2],
    [24, 0.15, 200, 0.2],
  ])("for up to %d V with %d V likely is %d V, then %s", (highest, likely, span, finer) => {
    const advice = adviceFor(VENT, volts("B"), {}, { highest, likely });
    expect([advice.range.span, advice.finer?.span ?? null]).toEqual([span, finer]);
  });

  it("says when more may come than the meter takes, and turns to no other socket for digits", () => {
    expect(adviceFor(VENT, volts("B"), {}, { highest: 1200, likely: 900 }).isOver).toBe(true);
    const high = adviceFor(VENT, amps("R1"), {}, { highest: 2, likely: 0.02 });
    expect([high.range.span, high.range.socket, high.finer]).toEqual([10, "10 A", null]);
    expect(adviceFor(VENT, amps("R1"), {}, { highest: 0.05, likely: 0.018 })).toMatchObject({
      range: { span: 0.2, socket: "mA" },
      finer: { span: 0.02 },
    });
  });

  it("is of the meter that the reading names", () => {
    const meter: Meter = { name: "handheld", others: [SHIPPED_METERS[1].meter] };
    const bench = { ...amps("R1"), meter: "bench" };
    expect(adviceFor(VENT, bench, meter, { highest: 0.5, likely: 0.5 }).range).toMatchObject({ span: 2, fuse: 3 });
  });
});

describe("the leads", () => {
  const to = (point: NumericReading) => {
    const { red, black } = adviceFor(VENT, point, {}, { highest: 1, likely: 1 });
    return [red.at, black.at];
  };

  it("go to the two nodes, black to the reference where only one is named", () => {
    expect(to(volts("B"))).toEqual([{ node: "B" }, { node: "0" }]);
    expect(to(volts("B", "D"))).toEqual([{ node: "B" }, { node: "D" }]);
  });

  it("go into the branch so that its current enters red, at the end where fewer parts meet", () => {
    // R1 from A (F1, R1) to B (R1, R2, R3): opened at A. R4 from C (R3, R4) to D (R2, R4, R5): at C.
    expect(to(amps("R1"))).toEqual([{ node: "A" }, { freed: "R1", from: "A" }]);
    // R2 from B (three) to D (three): at B. R5 from D (three) to 0 (two): at 0, where its current leaves it.
    expect(to(amps("R5"))).toEqual([{ freed: "R5", from: "0" }, { node: "0" }]);
    // Out of the supply's plus: from the supply into the node.
    expect(to(amps("BT1"))).toEqual([{ freed: "BT1", from: "+" }, { node: "+" }]);
  });

  it("are worth lifting off where another way lies beside the part, and it is said which", () => {
    const { ohms: found } = adviceFor(VENT, ohms("B", "D"), {}, { highest: 1000, likely: 444 });
    expect(found?.inCircuit).toMatchObject({ part: "R2" });
    expect(found?.inCircuit?.own).toBeCloseTo(1000, 6);
    expect(found?.inCircuit?.shown).toBeCloseTo((1000 * 800) / 1800, 6);
    expect(found?.parallel).toEqual(["R3", "R4"]);
    expect(adviceFor(VENT, ohms("A", "B"), {}, { highest: 300, likely: 220 }).ohms?.inCircuit).toBeNull();
  });

  it("are not to be held by the fingers where that would show", () => {
    const high = networkOf("BT1 9V: R1 47k + [A] R2 47k");
    expect(adviceFor(high, ohms("A", "0"), {}, { highest: 5e4, likely: 5e4 }).ohms?.withFingers).toBeCloseTo(
      1 / (1 / 47e3 + 1 / 1e5),
      6,
    );
    expect(adviceFor(VENT, ohms("A", "B"), {}, { highest: 300, likely: 220 }).ohms?.withFingers).toBeNull();
  });
});

describe("a branch in hand", () => {
  const at = (done: number): Configuration => ({ inHand: { through: "R1", at: "A", done } });

  it("is open until the meter is in, and metered until it is out; other readings are taken so", () => {
    const others = CURRENT_STEPS.map((_, done) => takenSo(volts("B"), at(done)).state ?? {});
    expect(others.map((s) => (s.lifted ? "open" : s.meters ? "metered" : "closed"))).toEqual(
      CURRENT_STEPS.map((_, done) => branchNow({ done })),
    );
    expect(CURRENT_STEPS.map((_, done) => branchNow({ done }))).toEqual([
      "closed",
      "closed",
      "open",
      "metered",
      "metered",
      "metered",
      "metered",
      "closed",
    ]);
    expect(takenSo(amps("R1"), at(4)).state).toBeUndefined();
    expect(takenSo(amps("R2"), at(4)).state?.meters).toEqual([{ through: "R1" }]);
  });

  it("goes step by step, and is gone with the last", () => {
    let standing: Configuration = { switches: { S1: "open" }, ...at(0) };
    for (const [done, step] of CURRENT_STEPS.entries()) {
      expect(nextStepOf(standing.inHand as { done: number })).toBe(step);
      standing = stepped(standing, done + 1);
    }
    expect(standing).toEqual({ switches: { S1: "open" } });
    expect(stepped({ ...standing, ...at(1) }, 0)).toEqual(standing);
  });

  it("is told by the line as any other state of the circuit", () => {
    const circuit = readTrail("BT1 9V: R1 1k + [A] R2 1k").circuit as Circuit;
    const read = readQuick("A 4.5", circuit, undefined, { standing: at(3) });
    expect(read.kind).toBe("reading");
  });
});
