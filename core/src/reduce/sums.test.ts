import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { checksOf, madeBy, parallelOf, reduceNetwork, SUMS, seriesOf, sumOf } from "./index.ts";

const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const plain = (text: string) => text.replaceAll("\u00a0", " ");

/** BT1 10 V, R1 1 kΩ, then 2 kΩ beside 3 kΩ (1.2 kΩ): 10 V ÷ 2.2 kΩ. */
const LADDER = networkOf("BT1 10V ri=0: [A] R1 1k + [B] (R2 2k | R3 3k)");
const OHMS = LADDER.branches.map((b) => (b.law.kind === "resistance" ? b.law.ohms : 0));

describe("sums as they are written", () => {
  const { steps } = reduceNetwork(LADDER, OHMS);
  const written = (school: keyof typeof SUMS, shortcut = true) =>
    steps.map((step) => sumOf(step, { round: (v) => v, school, shortcut }).map(plain));

  it("say what is added, in each school", () => {
    const [beside, whole] = steps.map((s) => madeBy(s)[0]);
    const series = [`${whole.name} = R1 + ${beside.name}`, "= 1 kΩ + 1.2 kΩ = 2.2 kΩ"];
    expect(written("reciprocals")).toEqual([
      [
        `1/${beside.name} = 1/R2 + 1/R3`,
        "= 0.0005000 + 0.0003333 = 0.0008333 (833.3 µS)",
        `${beside.name} = 1 ÷ 0.0008333 = 1.2 kΩ`,
      ],
      series,
    ]);
    expect(written("conductances")[0]).toEqual([
      "G = G(R2) + G(R3)",
      "= 500.0 µS + 333.3 µS = 833.3 µS",
      `${beside.name} = 1/G = 1.2 kΩ`,
    ]);
    expect(written("product")[0]).toEqual([`${beside.name}: (2 kΩ × 3 kΩ) ÷ (2 kΩ + 3 kΩ) = 1.2 kΩ`]);
    expect(Object.keys(SUMS)).toEqual(["reciprocals", "product", "conductances"]);
  });

  it("take two at a time where products are, and equal ones by their number", () => {
    const three = networkOf("BT1 9V ri=0: (R1 3k | R2 3k | R3 3k)");
    const [step] = reduceNetwork(three, [0, 3000, 3000, 3000]).steps;
    const [{ name }] = madeBy(step);
    expect(sumOf(step, { round: (v) => v, school: "product", shortcut: true }).map(plain)).toEqual([
      `${name} = R1 ÷ 3`,
      "= 3 kΩ ÷ 3 = 1 kΩ",
    ]);
    expect(sumOf(step, { round: (v) => v, school: "product", shortcut: false }).map(plain)).toEqual([
      "R1 with R2: (3 kΩ × 3 kΩ) ÷ (3 kΩ + 3 kΩ) = 1.5 kΩ",
      `${name}: (1.5 kΩ × 3 kΩ) ÷ (1.5 kΩ + 3 kΩ) = 1 kΩ`,
    ]);
  });

  it("carry the same rounded figures from line to line on paper, in each school", () => {
    const network = networkOf("BT1 9V ri=0: R1 120 + (R3 270 | R4 390) + R2 180");
    const round = (v: number) => Number(v.toPrecision(3));
    const onPaper = (school: keyof typeof SUMS) => {
      const paper = { round, school, shortcut: true };
      const { steps, left } = reduceNetwork(
        network,
        network.branches.map((b) => (b.law.kind === "resistance" ? b.law.ohms : 0)),
        paper,
      );
      return { lines: steps.map((s) => sumOf(s, paper, 3).map(plain)), total: left[0].ohms };
    };
    const { lines, total } = onPaper("conductances");
    // 1 ÷ 270 is 3.70 mS, 1 ÷ 390 is 2.56 mS: 6.26 mS together, and one divided by that 160 Ω.
    expect(lines[0][1]).toBe("= 3.70 mS + 2.56 mS = 6.26 mS");
    expect(lines[0][2]).toMatch(/ = 160 Ω$/);
    expect(lines[1][1]).toBe("= 120 Ω + 160 Ω + 180 Ω = 460 Ω");
    expect(total).toBe(460);
    expect(onPaper("reciprocals").lines[0][1]).toBe("= 0.00370 + 0.00256 = 0.00626 (6.26 mS)");
    expect(onPaper("product").lines[0][0]).toMatch(/\(270 Ω × 390 Ω\) ÷ \(270 Ω \+ 390 Ω\) = 160 Ω$/);
    expect(onPaper("product").total).toBe(460);
  });

  it("add up", () => {
    expect([seriesOf([]), seriesOf([1, 2, 3.5])]).toEqual([0, 6.5]);
    expect(parallelOf([6, 3])).toBeCloseTo(2, 12);
  });
});

describe("checks", () => {
  const reduction = reduceNetwork(LADDER, OHMS);
  const amps = 10 / 2200;
  const right = [
    { volts: 10, amps: -amps },
    { volts: 1000 * amps, amps },
    { volts: 1200 * amps, amps: (1200 * amps) / 2000 },
    { volts: 1200 * amps, amps: (1200 * amps) / 3000 },
  ];
  const none = () => 0;
  const titled = (states: typeof right, round: (size: number) => number = none) =>
    checksOf(LADDER, states, reduction, round).map(({ title, residual, limit, holds, terms }) => ({
      title: title.replaceAll("\u00a0", " "),
      residual,
      limit,
      holds,
      names: terms.map((t) => t.name).sort(),
    }));

  it("hold where every sum comes out: loops, junctions, power, and the bounds of what was put together", () => {
    const found = titled(right);
    expect(found.every((c) => c.holds)).toBe(true);
    const loops = found.filter((c) => c.title.startsWith("Round "));
    expect(loops).toHaveLength(2);
    for (const loop of loops) expect(loop.title.slice(6).split(", ").sort()).toEqual(loop.names);
    expect(found.find((c) => c.title === "At B")?.names).toEqual(["R1", "R2", "R3"]);
    const [beside, whole] = reduction.steps.map((s) => madeBy(s)[0].name);
    expect(found.slice(-2).map(({ title, residual }) => [title, residual])).toEqual([
      [`${beside} is below the smallest of its branches`, expect.closeTo(1200 - 2000, 6)],
      [`${whole} is above the largest of its parts`, expect.closeTo(2200 - 1200, 6)],
    ]);
  });

  it("say by how much a sum misses, with its sign", () => {
    const off = right.map((s, k) => (k === 1 ? { volts: s.volts + 0.5, amps: s.amps + 0.001 } : s));
    const found = titled(off);
    for (const { title, residual, holds, names } of found.filter((c) => c.title.startsWith("Round "))) {
      // Only loops with R1 in them miss, by what R1 is off.
      expect(Math.abs(residual), title).toBeCloseTo(names.includes("R1") ? 0.5 : 0, 9);
      expect(holds).toBe(!names.includes("R1"));
    }
    // What R1 brings to B enters it: what leaves is counted up.
    expect(found.find((c) => c.title === "At B")).toMatchObject({ residual: expect.closeTo(-0.001, 9), holds: false });
    const power = found.find((c) => c.title.startsWith("Power"));
    expect(power?.residual).toBeCloseTo((right[1].volts + 0.5) * (amps + 0.001) - right[1].volts * amps, 9);
    expect(power?.holds).toBe(false);
  });

  it("allow what rounding may do: each figure's share, and in power each figure's share of the product", () => {
    const half = () => 0.01;
    const found = titled(right, half);
    for (const { title, limit, names } of found) {
      if (title.startsWith("Round ") || title.startsWith("At ")) expect(limit).toBeCloseTo(0.01 * names.length, 6);
      if (title.startsWith("Power"))
        expect(limit).toBeCloseTo(
          0.04 + right.reduce((s, x) => s + 0.01 * (Math.abs(x.volts) + Math.abs(x.amps)), 0),
          6,
        );
    }
  });
});
