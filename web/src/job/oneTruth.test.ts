import { readdirSync, readFileSync } from "node:fs";
import { buildNetwork, type Circuit, idealCircuit, type NodeName } from "@hound/core/circuit";
import { readTrail } from "@hound/core/notation";
import { equivalentBetween, expectReadings, rankFaults } from "@hound/core/rank";
import { type Conventions, DEFAULT_CONVENTIONS, idealMeter, type Meter, type NumericReading } from "@hound/core/record";
import { drawCircuit, seededRandom } from "@hound/core/simulate";
import { solveNetwork } from "@hound/core/solve";
import { share } from "@hound/core/test";
import { describe, expect, it } from "vitest";
import { boardFacts } from "../board/boardFacts.ts";
import { chartRows } from "../expected/chartRows.ts";
import { measuredRows } from "../expected/measuredRows.ts";
import { paperOf, workOut } from "../expected/useExpected.ts";
import { healthyAt, healthyWords } from "../session/healthy.ts";
import { shown, withLimits } from "../words/quantities.ts";

const DEMO = new URL("../../../demo/circuits/", import.meta.url);
const random = seededRandom(12);
const CIRCUITS = [
  ...readdirSync(DEMO).map((name) => readTrail(readFileSync(new URL(name, DEMO), "utf8")).circuit as Circuit),
  ...Array.from({ length: share(30) }, (_, i) => drawCircuit(3 + (i % 12), random)),
];
const EVERY: readonly Partial<Conventions>[] = [
  {},
  { supplies: "ideal" },
  { wires: "ideal", supplies: "ideal" },
  { meters: "ideal" },
  { meters: "ideal", supplies: "ideal", wires: "ideal" },
];

/** A circuit under some conventions, as the pages take it, with the meter that goes with them. */
function taken(written: Circuit, own: Partial<Conventions>) {
  const conventions = { ...DEFAULT_CONVENTIONS, ...own };
  const ideal = { supplies: conventions.supplies === "ideal", contacts: conventions.wires === "ideal" };
  const circuit = idealCircuit(written, ideal);
  const meter: Meter = conventions.meters === "ideal" ? idealMeter({}) : {};
  return { circuit, network: buildNetwork(circuit), meter, conventions };
}

describe("the same thing has the same number in every view", () => {
  it.each(EVERY)("on the board, in the chart, between two nodes and as solved: %j", (own) => {
    let count = 0;
    for (const written of CIRCUITS) {
      const { network, meter, conventions } = taken(written, own);
      const expected = workOut(network, paperOf(conventions));
      const solved = solveNetwork(network);
      const { chart } = expected;
      if (solved.kind !== "solved" || !chart) continue;
      const rows = chartRows(expected);
      const board = boardFacts({ network, readings: [], meter, ranking: null });
      const where = (name: string) => `${name} of ${written.title || written.parts.map((p) => p.designator).join(" ")}`;
      network.nodes.forEach((name, n) => {
        if (n === network.reference) return;
        const { value, two } = chart.nodes[n];
        expect(board.nodes[n].expected, where(name)).toBe(withLimits(value, two, "V"));
        expect(shown(solved.volts[n], "V"), where(name)).toBe(shown(value, "V"));
        const between = equivalentBetween(network, name, network.nodes[network.reference], meter);
        expect(shown(between?.openVolts ?? Number.NaN, "V"), where(name)).toBe(shown(value, "V"));
        count += 1;
      });
      network.branches.forEach(({ name }, k) => {
        const { amps } = rows[k].values;
        expect(board.branches[k].expected, where(name)).toBe(shown(amps, "A", 3));
        expect(shown(Math.abs(solved.amps[k]), "A"), where(name)).toBe(shown(Math.abs(amps), "A"));
      });
      for (const check of expected.checks) expect(check.holds, where(check.title)).toBe(true);
    }
    expect(count).toBeGreaterThan(100);
  });

  it.each(EVERY)("a reading just as the meter should show it agrees everywhere, and ranks as healthy: %j", (own) => {
    for (const written of CIRCUITS.slice(-share(12))) {
      const { circuit, network, meter, conventions } = taken(written, own);
      const points = network.nodes.flatMap((from, n): NumericReading[] =>
        n === network.reference || from.includes(".") ? [] : [{ quantity: "voltage", from, value: 0 }],
      );
      const due = expectReadings(network, points, meter) ?? [];
      const readings = points.map((p, i): NumericReading => ({ ...p, value: Number(due[i].value.toPrecision(4)) }));
      const facts = boardFacts({ network, readings, meter, ranking: null });
      for (const { name, deviation } of facts.nodes) expect(deviation, name).toBe(0);
      for (const row of measuredRows(network, readings, meter)) expect(row.side, row.name).toBe(0);
      // What a meter that loads nothing shows is what the board says by itself.
      for (const reading of conventions.meters === "ideal" ? readings : []) {
        const [found] = healthyAt(network, [reading], meter);
        expect(shown(found?.shown.value ?? Number.NaN, "V")).toBe(shown(found?.own.value ?? Number.NaN, "V"));
      }
      const ranking = rankFaults({ circuit, readings, meter, situation: "newBuild" }, { pairs: false });
      if (ranking.kind === "problem") throw new Error(ranking.message);
      expect(ranking.repairs[0].repair, circuit.parts.map((p) => p.designator).join(" ")).toEqual([]);
    }
  });

  it("the line says of a point what the board says, where the meter moves nothing that shows", () => {
    const trail =
      "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 1% 0.5W\n[B] R9 10k 5% [D]";
    const network = buildNetwork(readTrail(trail).circuit as Circuit);
    const plain = (text: string | null | undefined) => text?.replace(/\s/g, " ");
    // Unloaded 8.8650 V, through the meter 8.8648 V.
    const line = healthyWords(network, { quantity: "voltage", from: "C" as NodeName, value: 0 }, {});
    const board = boardFacts({ network, readings: [], meter: {}, ranking: null }).nodes.find((n) => n.name === "C");
    expect(plain(line)).toBe("8.87 ± 0.29 V");
    expect(plain(board?.expected)).toBe("8.87 ± 0.29 V");
  });
});
