import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { layoutBoard } from "@hound/core/layout";
import { readQuick, readTrail } from "@hound/core/notation";
import { rankFaults } from "@hound/core/rank";
import type { Reading } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { suspectRows, suspicionClass } from "../suspects/suspectRows.ts";
import { boardFacts, labelOf, sayBranch, sayNode } from "./boardFacts.ts";
import { barLine, bowPath, SIZES, sizeOf, symbolX, wirePath, xOf, yOf } from "./geometry.ts";

const TRAIL = "BT1 24V ri=0.3: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] R4 330) + [D] R5 4k7";
const circuit = readTrail(TRAIL).circuit as Circuit;
const network = buildNetwork(circuit);
const board = layoutBoard(network);
const readings = ["A 23.9", "D 2.1", "R3 12mA", "R2 OL"].map((line): Reading => {
  const read = readQuick(line, circuit);
  if (read.kind !== "reading") throw new Error(line);
  return read.reading;
});
const ranking = rankFaults({ circuit, readings: readings.slice(0, 2) }, { pairs: false });
const facts = boardFacts(network, readings, {}, ranking);
const of = (name: string) => network.branches.findIndex((b) => b.name === name);
const plain = (text: string) => text.replaceAll("\u00a0", " ");

describe("what the board prints", () => {
  it("labels parts as one says them", () => {
    expect(network.branches.map((b) => plain(labelOf(b)))).toEqual([
      "BT1 24 V",
      "F1 1 A",
      "R1 220 Ω",
      "R2 1 kΩ",
      "R3 470 Ω",
      "R4 330 Ω",
      "R5 4.7 kΩ",
    ]);
    const other = buildNetwork(readTrail("BT1 9V: S1 open + J1 + LA1 12V 5W + RV1 10k at=40%").circuit as Circuit);
    expect(other.branches.map((b) => plain(labelOf(b))).slice(1)).toEqual([
      "S1 open",
      "J1",
      "LA1 12 V 5 W",
      "RV1.top 4 kΩ",
      "RV1.bottom 6 kΩ",
    ]);
  });

  it("sets expected beside read, and marks what lies outside its limits", () => {
    const node = (name: string) => facts.nodes[network.nodes.indexOf(name)];
    expect(node("A")).toMatchObject({ deviation: 0 });
    expect(plain(node("A").read ?? "")).toBe("23.90 V");
    expect(plain(node("A").expected ?? "")).toMatch(/^2[34]\.\d+ ± 0\.\d+ V$/);
    expect(node("D").deviation).toBe(-1);
    expect(node("0")).toMatchObject({ expected: null, read: null });
    expect(plain(facts.branches[of("R3")].read ?? "")).toBe("12.00 mA");
    expect(facts.branches[of("R2")].read).toBe("OL");
  });

  it("says everything aloud that it shows", () => {
    expect(plain(sayNode(facts.nodes[network.nodes.indexOf("D")]))).toMatch(
      /^node D, expected .* V, read 2\.100 V, too low$/,
    );
    expect(plain(sayBranch(network.branches[of("R3")], network, facts.branches[of("R3")]))).toMatch(
      /^R3 470 Ω, from B to C, expected current .* mA, read 12\.00 mA/,
    );
  });

  it("shares suspicion out among parts, as the ranking has it", () => {
    if (ranking.kind !== "ranking") throw new Error(ranking.message);
    const onParts = ranking.suspects.filter((s) => s.faults.length > 0).reduce((sum, s) => sum + s.probability, 0);
    const shown = facts.branches.reduce((sum, b) => sum + b.suspicion, 0);
    expect(shown).toBeLessThanOrEqual(onParts + 1e-9);
    expect(shown).toBeGreaterThan(0.5);
  });
});

describe("the list of suspects", () => {
  it("splits “nothing wrong” and sums to one, most probable first", () => {
    if (ranking.kind !== "ranking") throw new Error(ranking.message);
    const rows = suspectRows(ranking, network);
    expect(rows.map((r) => r.name)).toEqual(
      expect.arrayContaining(["Nothing wrong", "Nothing wrong, a reading is mis-taken"]),
    );
    expect(rows.reduce((sum, r) => sum + r.probability, 0)).toBeCloseTo(1, 9);
    const p = rows.map((r) => r.probability);
    expect(p).toEqual([...p].sort((a, b) => b - a));
    expect(new Set(rows.map((r) => r.key)).size).toBe(rows.length);
    expect(plain(rows.find((r) => r.name === "R5 has fallen")?.estimate ?? "")).toMatch(/^about .* Ω \(.* to .*\)$/);
    expect(suspicionClass(0.9)).not.toEqual(suspicionClass(0.1));
  });
});

describe("the geometry", () => {
  it("keeps every part's symbol clear of the bars beside it, and inside the picture", () => {
    const { width, height } = sizeOf(board);
    for (const strip of board.strips) {
      const x = symbolX(strip);
      expect(x - SIZES.symbol / 2).toBeGreaterThan(xOf(strip.left));
      expect(x + SIZES.symbol / 2).toBeLessThan(xOf(strip.right));
      expect(yOf(strip.row)).toBeLessThan(height);
      expect(wirePath(strip)).not.toMatch(/NaN|undefined/);
    }
    for (const bar of board.bars) {
      const line = barLine(bar);
      expect(line.x).toBeLessThan(width);
      expect(line.y1).toBeLessThan(line.y2);
    }
  });

  it("hops the bars it passes, and only those", () => {
    const bridge = layoutBoard(
      buildNetwork(readTrail("BT1 9V: [P] (R1 1 + [L] R2 2 | R3 3 + [M] R4 4)\n[L] R5 5 [M]").circuit as Circuit),
    );
    for (const strip of [...bridge.strips, ...board.strips])
      expect(wirePath(strip).match(/A9 9/g)?.length ?? 0).toBe(strip.hops.length);
  });

  it("bows a suspected bridge over the board, whichever node comes first", () => {
    const [a, b] = board.bars.map(barLine);
    expect(bowPath(a, b)).toBe(bowPath(b, a));
  });
});
