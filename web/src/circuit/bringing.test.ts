import { type Recognised, readTrail, recognise } from "@hound/core/notation";
import type { Reading } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { modesFor, planFor, strangersIn, troubleWithPlan } from "./bringing.ts";
import { addRow, EMPTY_ROW } from "./newRow.ts";

const NOW = readTrail("BT1 9V: R1 1k + [A] R2 2k + [B] S1");
const volts = (from: string): Reading => ({ quantity: "voltage", from, value: 1 });
const mine = ["A", "B"].map((from, i) => ({ id: String(i), reading: volts(from), unsent: false }));

function caseOf(circuit: string, readings: readonly Reading[]): Recognised {
  return recognise(JSON.stringify({ format: "clever-hound-case", version: 1, title: "Other", circuit, readings }));
}

describe("what is taken over", () => {
  const found = caseOf("BT1 5V: R9 1k + [A] R8 2k + [Q] R7 5", [volts("A"), volts("Q")]);
  const coming = readTrail(found.trail ?? "").circuit;
  const plan = (mode: Parameters<typeof planFor>[0]) => planFor(mode, found, coming, NOW.circuit, mine);

  it("offers what makes sense: another job's case as a job of its own first", () => {
    expect(modesFor(found, true, mine)).toEqual(["new", "both", "circuit", "readings"]);
    expect(modesFor(found, false, [])[0]).toBe("both");
    expect(modesFor(recognise("R1\t4k7\n", NOW), true, mine)).toEqual(["circuit"]);
    const readings = recognise("quantity,from,to,through,value\nvoltage,A,,,3");
    expect(modesFor(readings, true, mine)).toEqual(["readings"]);
  });

  it("never mixes in a reading that fits no node: it is set aside and named", () => {
    expect(plan("readings")).toMatchObject({ add: [{ from: "A" }], aside: [{ from: "Q" }], leaves: [], stays: 2 });
    expect(plan("both")).toMatchObject({ add: [{ from: "A" }, { from: "Q" }], aside: [], stays: 0 });
    expect(plan("both").leaves).toHaveLength(2);
    // B is not in the circuit that comes: its reading goes, A's stays.
    expect(plan("circuit")).toMatchObject({ add: [], leaves: [{ reading: { from: "B" } }], stays: 1 });
    expect(plan("new")).toMatchObject({ leaves: [], stays: 2 });
  });

  it("says when there would be more readings than a job holds", () => {
    const add = Array.from({ length: 1999 }, () => volts("A"));
    expect(troubleWithPlan({ ...plan("readings"), add: add.slice(1) })).toBeNull();
    expect(troubleWithPlan({ ...plan("readings"), add })).toMatch(/at most 2000 readings; there would be 2001/);
    expect(troubleWithPlan({ ...plan("new"), add })).toBeNull();
  });

  it("knows a stranger by points, parts and how the circuit stood", () => {
    expect(strangersIn(volts("Z"), NOW.circuit)).toEqual(["Z"]);
    expect(strangersIn({ quantity: "current", through: "R5", value: 1 }, NOW.circuit)).toEqual(["R5"]);
    expect(strangersIn({ ...volts("A"), state: { switches: { S2: "open" } } }, NOW.circuit)).toEqual(["S2"]);
    expect(strangersIn({ ...volts("0"), state: { lifted: ["R1"] } }, NOW.circuit)).toEqual([]);
    const states: [NonNullable<Reading["state"]>, string[]][] = [
      [{ added: [{ from: "A", to: "Q", ohms: 1 }] }, ["Q"]],
      [{ added: [{ from: "Y", ohms: 1 }] }, ["Y"]],
      [{ cleared: [["A", "X"]] }, ["X"]],
      [{ meters: [{ from: "A", to: "W" }, { through: "R7" }] }, ["W", "R7"]],
      [{ inHand: { through: "R6", at: "V", done: 1 } }, ["V", "R6"]],
      [{ added: [{ from: "A", to: "B", ohms: 1 }], meters: [{ from: "A" }, { through: "S1" }] }, []],
    ];
    for (const [state, strange] of states)
      expect(strangersIn({ ...volts("A"), state } as Reading, NOW.circuit), JSON.stringify(state)).toEqual(strange);
    expect(strangersIn({ quantity: "resistance", lifted: "R2", value: 1 } as Reading, NOW.circuit)).toEqual([]);
  });
});

describe("a row typed at the table's end", () => {
  const row = (designator: string, from: string, to: string, value: string) => ({
    ...EMPTY_ROW,
    designator,
    from,
    to,
    value,
  });
  const partsAfter = (trail: string, ...rows: ReturnType<typeof row>[]) => {
    let text = trail;
    for (const one of rows) {
      const edited = addRow(readTrail(text), one);
      if (edited.kind === "refused") return edited.why;
      text = edited.text;
    }
    return readTrail(text).circuit?.parts.map((p) => `${p.designator} ${p.from} ${p.to}`);
  };

  it("makes a circuit of nothing, a supply by its plus", () => {
    expect(partsAfter("", row("BT1", "P", "0", "9"), row("r1", "P", "A", "4k7"), row("R2", "A", "0", "1O0"))).toEqual([
      "BT1 P 0",
      "R1 P A",
      "R2 A 0",
    ]);
  });

  it("joins nodes that have no name yet, which then have one", () => {
    expect(partsAfter("BT1 9V: R1 1k + R2 2k", row("R3", "n1", "0", "5"))).toEqual([
      "BT1 + 0",
      "R1 + n1",
      "R2 n1 0",
      "R3 n1 0",
    ]);
  });

  it("says why it is none", () => {
    expect(partsAfter("BT1 9V: R1 1k", row("R1", "A", "0", "5"))).toBe("R1 is used already");
    expect(partsAfter("BT1 9V: R1 1k", row("12", "A", "0", "5"))).toMatch(/no designator|no part/);
    expect(partsAfter("BT1 9V: R1 1k", row("R2", "A", "0", "lots"))).toMatch(/not understood/);
  });
});
