import { buildNetwork, type Circuit, idealCircuit } from "@hound/core/circuit";
import { layoutBoard } from "@hound/core/layout";
import { readTrail } from "@hound/core/notation";
import { DEFAULT_CONVENTIONS } from "@hound/core/record";
import { sumOf } from "@hound/core/reduce";
import { afterEach, describe, expect, it } from "vitest";
import { print, printNumber, setDecimal } from "../words/print.ts";
import { percent, shown, withLimits } from "../words/quantities.ts";
import { commaSeparated, type TableData, tabbed } from "../words/tables.ts";
import { CELLS, cellText, chartRows, chartTables, glowOf } from "./chartRows.ts";
import { foldedBoard } from "./foldedBoard.ts";
import { paperOf, workOut } from "./useExpected.ts";

const VENT =
  "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 1%\n[B] R9 10k 5% [D]";
const BRIDGE = "BT1 9V: [P] (R1 10 + [L] R2 22 | R3 33 + [M] R4 47)\n[L] R5 5 [M]";
const networkOf = (trail: string) => buildNetwork(readTrail(trail).circuit as Circuit);
const plain = (text: string) => text.replaceAll("\u00a0", " ");

afterEach(() => setDecimal("."));

const EXACT = paperOf(DEFAULT_CONVENTIONS);
const ON_PAPER = paperOf({ ...DEFAULT_CONVENTIONS, rounding: "paper" });

describe("the chart", () => {
  const network = networkOf(VENT);
  const exact = workOut(network, EXACT);
  const rows = chartRows(exact);
  const row = (name: string) => rows.find((r) => r.name === name) as (typeof rows)[number];

  it("has every part once, then totals that agree with the parts", () => {
    expect(rows.map((r) => r.name)).toEqual([...network.branches.map((b) => b.name), "Total"]);
    const total = row("Total").values;
    expect(total.amps).toBeCloseTo(row("F1").values.amps, 12);
    expect(total.volts).toBeCloseTo(row("BT1").values.volts, 12);
    expect(total.watts).toBeCloseTo(-row("BT1").values.watts, 9);
    expect(total.ohms).toBeCloseTo(exact.reduction.left[0].ohms, 6);
    // Out of the plus, everywhere.
    expect(row("BT1").values.amps).toBeGreaterThan(0);
    expect(row("BT1").windows.amps?.value).toBe(row("BT1").values.amps);
  });

  it("writes a cell as a person would, with or without the window, by size alone where signs are hidden", () => {
    expect(plain(cellText(row("R3"), "volts", DEFAULT_CONVENTIONS, true))).toBe("8.04 ± 0.26 V");
    expect(plain(cellText(row("R3"), "volts", DEFAULT_CONVENTIONS, false))).toBe("8.044 V");
    expect(plain(cellText(row("BT1"), "watts", { ...DEFAULT_CONVENTIONS, signs: "hidden" }, false))).toBe("771.9 mW");
    expect(plain(cellText(row("BT1"), "watts", DEFAULT_CONVENTIONS, false))).toBe("−771.9 mW");
    // Two equal resistors: each moves the middle by 24 V / 4 times its 5 %, together by squares or straight.
    const half = chartRows(workOut(networkOf("BT1 24V 0% ri=0: R1 1k 5% + [A] R2 1k 5%"), EXACT))[2];
    const within = (["likely", "worst", "none"] as const).map((limits) =>
      plain(cellText(half, "volts", { ...DEFAULT_CONVENTIONS, limits }, true)),
    );
    expect(within).toEqual(["12.00 ± 0.42 V", "12.00 ± 0.60 V", "12 V"]);
    setDecimal(",");
    expect(plain(cellText(row("R3"), "volts", DEFAULT_CONVENTIONS, true))).toBe("8,04 ± 0,26 V");
    const open = chartRows(workOut(networkOf(`${VENT}\n[B] S1 open + R8 5 [D]`), EXACT)).find((r) => r.name === "S1");
    expect(cellText(open as (typeof rows)[number], "ohms", DEFAULT_CONVENTIONS, true)).toBe("open");
  });

  it("says both ends of a window that lies across a knee, the same way round as the figure", () => {
    const across = chartRows(workOut(networkOf("PS1 2.8V 5%: R1 47 5% + [A] LED1 white"), EXACT));
    const cell = (name: string, which: "amps" | "watts", change = {}) =>
      plain(
        cellText(
          across.find((r) => r.name === name) as (typeof rows)[number],
          which,
          { ...DEFAULT_CONVENTIONS, ...change },
          true,
        ),
      );
    expect(cell("LED1", "amps")).toMatch(/^331 µA \(1\d\.\d µA to 1\.9\d mA\)$/);
    expect(cell("PS1", "amps")).toBe(cell("LED1", "amps"));
    expect(cell("PS1", "watts")).toMatch(/^−927 µW \(−5\.\d+ mW to −3\d\.\d µW\)$/);
    expect(cell("PS1", "watts", { signs: "hidden" })).toMatch(/^927 µW \(3\d\.\d µW to 5\.\d+ mW\)$/);
    expect(cell("LED1", "amps", { limits: "worst" })).toMatch(/^331 µA \(3\.\d+ µA to 2\.9\d? mA\)$/);
    expect(cell("LED1", "amps", { limits: "none" })).toBe("331.2 µA");
  });

  it("says of several sources which aid and which oppose each other, and which is charged", () => {
    const beside = (trail: string) =>
      chartRows(workOut(networkOf(trail), EXACT)).flatMap((r) => (r.beside ? [`${r.name} ${r.beside}`] : []));
    expect(beside("BT1 12V: R1 10 + BT2 6V + R2 10")).toEqual(["BT1 aiding BT2", "BT2 aiding BT1"]);
    expect(beside("BT1 12V: R1 10 + BT2 -6V + R2 10")).toEqual(["BT1 opposing BT2", "BT2 opposing BT1, charged"]);
    // Two batteries on one load: round the loop of the two they oppose, and neither is charged.
    expect(beside("BT1 12V: R1 1 + [A] R3 10\n[0] BT2 12V + R2 1 [A]")).toEqual([
      "BT1 opposing BT2",
      "BT2 opposing BT1",
    ]);
    expect(beside("BT1 12V: R1 10")).toEqual([]);
  });

  it("goes out as CSV with every digit, nodes too, and says when and from which version", () => {
    const expected = workOut(network, EXACT);
    const text = commaSeparated(chartTables(expected, rows, "likely"), "Vent: circuit version 3, 1 Mar 2026, 10:00");
    const lines = text.split("\n");
    expect(lines[0]).toBe('"Vent: circuit version 3, 1 Mar 2026, 10:00"');
    expect(lines[2]).toBe("Part,V (V),V ± (V),I (A),I ± (A),R (Ω),P (W),P ± (W)");
    for (const r of rows) {
      const line = (lines.find((l) => l.startsWith(`${r.name},`)) as string).split(",");
      expect([Number(line[1]), Number(line[3]), Number(line[5]), Number(line[6])]).toEqual(
        CELLS.map((c) => r.values[c]),
      );
    }
    for (const name of network.nodes.filter((_, n) => n !== network.reference))
      expect(text).toMatch(new RegExp(`^'?${name.replace("+", "\\+")},`, "m"));
  });

  it("goes out to a spreadsheet rounded, with tabs, in the decimal sign agreed on, no sign of thousands", () => {
    const table: TableData = {
      title: "T",
      columns: [{ name: "Part" }, { name: "R", unit: "ohm" }, { name: "V", unit: "V" }],
      rows: [
        ["R1", 12_345.678, -0.001_234_56],
        ["R2", null, 1],
      ],
    };
    expect(tabbed([table], "now")).toBe("now\nT\nPart\tR (Ω)\tV (V)\nR1\t12350\t-0.001235\nR2\t\t1\n");
    setDecimal(",");
    expect(tabbed([table], "now")).toContain("R1\t12350\t-0,001235");
    expect(commaSeparated([table], "now")).toContain("R1,12345.678,-0.00123456");
    // A spreadsheet runs no cell as a formula.
    const sly = { ...table, rows: [["=1+1", 1, 2]] };
    expect(commaSeparated([sly], "now")).toContain("'=1+1,1,2");
  });

  it("carries rounded figures on paper, and its checks find where that shows", () => {
    const paper = workOut(network, ON_PAPER);
    for (const { volts, amps } of paper.states) {
      expect(Number(volts.toPrecision(3))).toBe(volts);
      expect(Number(amps.toPrecision(3))).toBe(amps);
    }
    expect(exact.checks.every((c) => c.holds)).toBe(true);
    expect(paper.checks.some((c) => c.kind === "loop" && c.residual !== 0)).toBe(true);
    // What rounding at every step leaves over is no mistake.
    expect(paper.checks.every((c) => c.holds)).toBe(true);
    for (const [k, s] of paper.states.entries()) expect(s.amps / exact.states[k].amps).toBeCloseTo(1, 1);
    // Where series and parallel do not reduce it, the solved figures are rounded.
    const bridge = workOut(networkOf(BRIDGE), ON_PAPER);
    expect(bridge.reduction.bridge).toMatch(/a bridge$/);
    expect(bridge.states.every((s) => Number(s.amps.toPrecision(3)) === s.amps)).toBe(true);
  });
});

describe("lamps in the chart", () => {
  it("are as bright as their power says, at every step", () => {
    const words = [0, 0.019, 0.021, 0.39, 0.41, 1.29, 1.31, 3.9, 4.1].map((share) => glowOf(5 * share, 5).word);
    expect(words).toEqual(["dark", "dark", "dim", "dim", "lit", "lit", "bright", "bright", "burns out"]);
    expect([glowOf(0, undefined).word, glowOf(0.1, undefined).word]).toEqual(["dark", "lit"]);
    const rows = chartRows(workOut(networkOf("BT1 12V ri=0: [P] LA1 12V 5W + [A] LA2 12V 5W"), EXACT));
    // Two in series: half the volts each, so a good deal less than half of the power, a filament being colder then.
    expect(rows.find((r) => r.name === "LA1")?.glow?.word).toBe("dim");
    expect(rows.find((r) => r.name === "BT1")?.glow).toBeUndefined();
  });
});

describe("ideal supplies and contacts", () => {
  it("drop nothing, and are written as nothing", () => {
    const circuit = readTrail("BT1 12V ri=1: [P] J1 + [A] S1 + [B] R1 10 + [C] W1").circuit as Circuit;
    const worked = (ideal: boolean) =>
      workOut(buildNetwork(idealCircuit(circuit, { supplies: ideal, contacts: ideal })), EXACT);
    const ideal = worked(true);
    const rows = chartRows(ideal);
    const r1 = rows.find((r) => r.name === "R1") as (typeof rows)[number];
    expect(r1.values.volts).toBeCloseTo(12, 6);
    expect(plain(cellText(rows[1], "ohms", DEFAULT_CONVENTIONS, false))).toBe("0 Ω");
    expect(ideal.checks.every((c) => c.holds)).toBe(true);
    const lines = sumOf(ideal.reduction.steps[0], EXACT);
    expect(plain(lines[1])).toBe("= 0 Ω + 0 Ω + 10 Ω + 0 Ω = 10 Ω");
    const real = worked(false);
    expect(chartRows(real).find((r) => r.name === "R1")?.values.volts).toBeLessThan(11);
  });
});

describe("the board at a step of the reduction", () => {
  const network = networkOf(VENT);
  const drawn = {
    written: readTrail(VENT).circuit as Circuit,
    circuit: readTrail(VENT).circuit as Circuit,
    network,
    settled: null,
    board: layoutBoard(network),
    outdated: false,
  };
  const names = (step: number) =>
    foldedBoard(drawn, { at: step, seen: null }).drawn.network.branches.map((b) => b.name);

  it("folds one composite a step, and unfolds them again in the other order", () => {
    const there = [1, 2, 3].map(names);
    expect(there[0]).toContain("Ra");
    expect(there[0]).not.toContain("R3");
    expect(there[1]).toEqual(["BT1", "F1", "R1", "Rb", "R5"]);
    expect(there[2]).toEqual(["BT1", "Rc"]);
    expect(names(4)).toEqual(there[2]);
    expect(names(5)).toEqual(there[1]);
    expect(names(6)).toEqual(there[0]);
    expect(names(7)).toEqual(network.branches.map((b) => b.name));
    const { board } = foldedBoard(drawn, { at: 2, seen: null }).drawn;
    expect(board.strips).toHaveLength(5);
  });
});

describe("numbers in words", () => {
  it("are rounded where their limits begin to matter, with one prefix and one decimal sign", () => {
    expect(plain(withLimits(16.908, 0.43, "V"))).toBe("16.91 ± 0.43 V");
    expect(plain(withLimits(0.0321745, 0.00092, "A"))).toBe("32.17 ± 0.92 mA");
    expect(plain(withLimits(-3.2, 0.1, "V"))).toBe("−3.20 ± 0.10 V");
    expect(plain(withLimits(0, 0.2, "V"))).toBe("0 ± 200 mV");
    expect(plain(withLimits(1e31, 1, "ohm"))).toBe("OL");
    setDecimal(",");
    expect(plain(withLimits(0.0321745, 0.00092, "A"))).toBe("32,17 ± 0,92 mA");
    expect(plain(print(4700, "ohm"))).toBe("4,7 kΩ");
    expect([printNumber(-0.12345, 3), plain(shown(1e-15, "A"))]).toEqual(["−0,123", "0 A"]);
    expect([percent(0.9999), percent(0.0001), percent(0.0333), percent(0.5)].map(plain)).toEqual([
      "> 99,9 %",
      "< 0,1 %",
      "3,3 %",
      "50 %",
    ]);
  });
});
