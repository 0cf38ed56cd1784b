import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { linearCircuits } from "../test/arbitrary/circuits.ts";
import { examples } from "../test/examples.ts";
import { fewestHops } from "../test/plain/hops.ts";
import { layoutBoard, wrapLanes } from "./index.ts";

const boardOf = (trail: string) => {
  const network = buildNetwork(readTrail(trail).circuit as Circuit);
  return { network, board: layoutBoard(network) };
};

describe("the board", () => {
  it("draws every network: each part once, bars over exactly the rows of their parts, nothing on top of another", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 14 }), (circuit) => {
        const network = buildNetwork(circuit);
        const { strips, bars, rows, columns } = layoutBoard(network);
        expect(strips.map((s) => s.branch).sort((a, b) => a - b)).toEqual(network.branches.map((_, k) => k));
        expect(bars.map((b) => b.node).sort((a, b) => a - b)).toEqual(network.nodes.map((_, k) => k));
        const at = new Map(bars.map((b) => [b.node, b]));
        for (const { branch, row, left, right, from, to, backward, hops } of strips) {
          const { from: a, to: b } = network.branches[branch];
          const ends = [at.get(a)?.column, at.get(b)?.column];
          expect(ends).toEqual(backward ? [right, left] : [left, right]);
          expect(row).toBeLessThan(rows);
          expect(left).toBeGreaterThanOrEqual(0);
          expect(right).toBeLessThanOrEqual(columns);
          expect(to - from).toBeGreaterThan(0.2);
          for (const bar of bars) {
            if (bar.node === a || bar.node === b) expect([bar.top <= row, row <= bar.bottom]).toEqual([true, true]);
            else if (bar.column > left && bar.column < right && bar.top <= row && row <= bar.bottom)
              expect(hops).toContain(bar.column);
          }
        }
        for (const s of strips)
          for (const t of strips)
            if (s !== t && s.row === t.row) expect(s.right <= t.left || t.right <= s.left).toBe(true);
      }),
      examples(150),
    );
  });

  it("puts plus at the left, minus at the right and the supply in the bottom row, without hops for series–parallel", () => {
    const { network, board } = boardOf(
      "BT1 24V: F1 1A + [A] R1 220 + [B] (R2 1k | R3 470 + [C] R4 330) + [D] R5 100\n[B] R9 10k [D]",
    );
    const column = (name: string) => board.bars.find((b) => network.nodes[b.node] === name)?.column as number;
    const order = ["+", "A", "B", "C", "D", "0"].map(column);
    expect(order).toEqual([...order].sort((a, b) => a - b));
    expect(board.hopCount).toBe(0);
    const rowOf = (name: string) => board.strips.find((s) => network.branches[s.branch].name === name)?.row as number;
    expect(rowOf("BT1")).toBe(board.rows - 1);
    expect(new Set(["R2", "R3", "R9"].map(rowOf)).size).toBe(3);
    expect(rowOf("R3")).toBe(rowOf("R4"));
  });

  it("does not move when a value changes", () => {
    const one = boardOf("BT1 9V: [P] (R1 1k + [L] R2 2k | R3 1k + [M] R4 2k)\n[L] R5 470 [M]").board;
    const two = boardOf("BT1 1V: [P] (R1 9k + [L] R2 2 | R3 1M + [M] R4 7)\n[L] R5 1 [M]").board;
    expect(two).toEqual(one);
    expect(one.hopCount).toBeLessThanOrEqual(1);
  });

  it("wraps into lanes that lose nothing: each symbol once, each bar where its parts are, none too wide", () => {
    fc.assert(
      fc.property(linearCircuits({ most: 24 }), fc.integer({ min: 2, max: 6 }), (circuit, most) => {
        const network = buildNetwork(circuit);
        const board = layoutBoard(network);
        const lanes = wrapLanes(board, most);
        const symbols = lanes.flatMap((l) => l.strips.filter((s) => s.symbol).map((s) => s.strip.branch));
        expect(symbols.sort((a, b) => a - b)).toEqual(network.branches.map((_, k) => k));
        expect(new Set(lanes.flatMap((l) => l.bars.map((b) => b.bar.node))).size).toBe(board.bars.length);
        expect(lanes[0].from).toBe(0);
        expect(lanes.at(-1)?.to).toBe(board.columns);
        lanes.forEach(({ from, to, strips, bars, rows }, i) => {
          if (i > 0) expect(from).toBe(lanes[i - 1].to);
          const gap = board.bars.some((b) => from < b.column && b.column < to);
          if (gap) expect(to - from).toBeLessThanOrEqual(most + 1e-9);
          for (const s of strips) {
            expect(rows).toContain(s.strip.row);
            expect([s.left >= from, s.right <= to, s.cutLeft, s.cutRight]).toEqual([
              true,
              true,
              s.strip.left < from,
              s.strip.right > to,
            ]);
            if (s.symbol) expect(s.symbol.to - s.symbol.from).toBeGreaterThan(0.2);
          }
          for (const b of bars) for (const row of [b.top, b.bottom]) expect(rows).toContain(row);
        });
      }),
      examples(120),
    );
  });

  it("hops seldom more often than the best order of nodes with rows as tight", () => {
    const networks = fc
      .sample(linearCircuits({ most: 12 }), { numRuns: 60, seed: 8 })
      .map(buildNetwork)
      .filter((n) => n.nodes.length <= 7);
    const pairs = networks.map((n) => ({ ours: layoutBoard(n).hopCount, fewest: fewestHops(n) }));
    const more = pairs.filter((p) => p.ours > p.fewest).length;
    expect(more / pairs.length).toBeLessThan(0.1);
    const sum = (pick: (p: (typeof pairs)[number]) => number) => pairs.reduce((s, p) => s + pick(p), 0);
    expect(sum((p) => p.ours)).toBeLessThanOrEqual(sum((p) => p.fewest));
  });
});
