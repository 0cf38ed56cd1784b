import { readTrail } from "@hound/core/notation";
import { describe, expect, it } from "vitest";
import { renamed } from "../desk/renamings.ts";
import { optionsAt } from "../trail/completion.ts";
import { COMMANDS, commandsFor, targetOf } from "./circuitEdits.ts";
import { addRow, EMPTY_ROW } from "./newRow.ts";
import { partRows, pastedCells, setCells } from "./partRows.ts";

const TRAIL =
  'BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k | S1 open + R3 470 1% note="by the hinge") + [D] R5 4k7';
const trail = readTrail(TRAIL);

describe("completion", () => {
  const options = (before: string, after = "") =>
    optionsAt(before + after, before.length)?.options.map((o) => o.label) ?? [];

  it("offers designators that are free, nodes in use, values of the series and what goes with the kind", () => {
    expect(options(`${TRAIL} + R`)).toContain("R6");
    expect(options(`${TRAIL} + R`)).toContain("RV1");
    expect(options(`${TRAIL} + L`)).toEqual(expect.arrayContaining(["L1", "LD1"]));
    expect(options(`${TRAIL} + [`)).toEqual(expect.arrayContaining(["A", "B", "D", "0"]));
    expect(options("BT1 9V: R1 4")).toEqual(expect.arrayContaining(["43", "470", "4k7", "47k"]));
    expect(options("BT1 9V: R1 4k")).toEqual(expect.arrayContaining(["4k7", "4k3", "47k"]));
    expect(options("BT1 9V: R1 1k ")).toEqual(expect.arrayContaining(["5%", "0.25W", "?"]));
    expect(options("BT1 9V: R1 1k ")).not.toContain("ri=");
    expect(options("BT1 9V ")).toContain("ri=");
    expect(options("BT1 9V: R1 1k # R")).toEqual([]);
    expect(options("title R")).toEqual([]);
  });

  it("offers only what the reader understands", () => {
    for (const value of options("BT1 9V: R1 4")) expect(readTrail(`BT1 9V: R1 ${value}`).circuit, value).not.toBeNull();
    for (const word of options("BT1 9V: R1 1k ").filter((w) => !/[="[]$/.test(w) && !/^[A-Z]/.test(w)))
      expect(readTrail(`BT1 9V: R1 1k ${word}`.replace("1k ?", "?")).circuit, word).not.toBeNull();
  });
});

describe("the parts table", () => {
  it("shows the words of the trail, and writes each cell as its word", () => {
    const rows = partRows(trail);
    expect(rows.map((r) => r.designator)).toEqual(["BT1", "F1", "R1", "R2", "S1", "R3", "R5"]);
    expect(rows[5]).toMatchObject({ from: "n1", to: "D", value: "470", tolerance: "1%", note: "by the hinge" });
    expect(rows[4]).toMatchObject({ kind: "switch", value: "open" });
    const edited = setCells(trail, [
      { designator: "R1", column: "value", text: "330" },
      { designator: "F1", column: "value", text: "2A" },
      { designator: "R2", column: "tolerance", text: "2" },
      { designator: "R3", column: "note", text: "" },
      { designator: "R5", column: "designator", text: "R50" },
    ]);
    if (edited.kind !== "edited") throw new Error(edited.why);
    expect(edited.text).toBe(
      "BT1 24V 2% ri=0.3: F1 2A + [A] R1 330 5% + [B] (R2 1k 2% | S1 open + R3 470 1%) + [D] R50 4k7",
    );
    expect([...edited.parts]).toEqual([["R5", "R50"]]);
  });

  it("takes a block or nothing of it: one cell that is refused names itself", () => {
    const block = pastedCells([["10", "1%"], ["4q7"], ["5"]], partRows(trail), 2, "value");
    expect(block).toHaveLength(4);
    expect(setCells(trail, block)).toMatchObject({ kind: "refused", why: expect.stringMatching(/^R2, value: .*4q7/) });
    expect(pastedCells([["1"], ["2"], ["3"]], partRows(trail), 6, "note")).toHaveLength(1);
  });

  it("has a potentiometer's place and wiper in the cell of its value", () => {
    const pot = readTrail("BT1 9V: [P] RV1 10k 5% at=40% wiper=[W]\n[W] R1 1k [0]");
    const written = (text: string) => setCells(pot, [{ designator: "RV1", column: "value", text }]);
    expect(partRows(pot)[1].value).toBe("10k at=40% wiper=[W]");
    for (const [typed, line] of [
      ["22k at 0.25 wiper=[W]", null],
      ["22k at 25 % wiper W", "RV1 22k 5% at=25% wiper=[W]"],
      ["22k at=40% wiper=[P]", "RV1 22k 5% at=40% wiper=[P]"],
      ["22k wiper=[W]", "RV1 22k 5% wiper=[W]"],
    ] as const) {
      const edited = written(typed);
      if (line === null) expect(edited.kind).toBe("refused");
      else expect(edited).toMatchObject({ kind: "edited", text: expect.stringContaining(line) });
    }
    expect(written("22k at=140% wiper=[W]").kind).toBe("refused");
    const added = addRow(readTrail("BT1 9V: [P] R1 1k + [W] R2 2k"), {
      ...EMPTY_ROW,
      designator: "RV1",
      from: "P",
      to: "0",
      value: "10k at=40% wiper=[W]",
    });
    expect(added).toMatchObject({ kind: "edited", text: expect.stringContaining("[P] RV1 10k at=40% wiper=[W] [0]") });
  });
});

describe("edits from the board", () => {
  it("offer what goes with the selection, each under a key of its own", () => {
    const keys = COMMANDS.map((c) => `${c.shift ? "Shift+" : ""}${c.key}`);
    expect(new Set(keys).size).toBe(keys.length);
    const onPart = commandsFor(targetOf(trail, { kind: "branch", name: "R3" }, ["R3"]));
    const onNode = commandsFor(targetOf(trail, { kind: "node", name: "B" }, []));
    expect(onPart.map((c) => c.label)).toContain("Parallel");
    expect(onNode.map((c) => c.label)).toEqual(["Name", "Join"]);
    expect(commandsFor(targetOf(trail, null, []))).toEqual([]);
  });

  it("carry readings along to new names, and leave the others be", () => {
    const edited = {
      kind: "edited",
      text: "",
      nodes: new Map([["B", "TAP"]]),
      parts: new Map([["RV1", "RV2"]]),
    } as const;
    expect(renamed({ quantity: "voltage", from: "B", to: "0", value: 1 }, edited)).toMatchObject({
      from: "TAP",
      to: "0",
    });
    expect(renamed({ quantity: "voltage", from: "A", to: "B", value: 1 }, edited)).toMatchObject({ to: "TAP" });
    expect(renamed({ quantity: "resistance", from: "A", to: "B", value: 1 }, edited)).toMatchObject({ to: "TAP" });
    expect(renamed({ quantity: "current", through: "RV1.top", value: 1 }, edited)).toMatchObject({
      through: "RV2.top",
    });
    expect(renamed({ quantity: "resistance", lifted: "R3", value: 1 }, edited)).toMatchObject({ lifted: "R3" });
    expect(renamed({ quantity: "observation", part: "RV1", seen: "hot" }, edited)).toMatchObject({ part: "RV2" });
    // How the circuit stood is said in names too.
    const state = {
      lifted: ["RV1"],
      switches: { S1: "open" as const },
      meters: [{ from: "B" }, { through: "RV1.top" }],
      inHand: { through: "RV1.top", at: "B", done: 2 },
    };
    expect(renamed({ quantity: "voltage", from: "A", value: 1, state }, edited)).toMatchObject({
      state: {
        lifted: ["RV2"],
        switches: { S1: "open" },
        meters: [{ from: "TAP" }, { through: "RV2.top" }],
        inHand: { through: "RV2.top", at: "TAP", done: 2 },
      },
    });
  });
});
