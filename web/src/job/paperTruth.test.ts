import { buildNetwork, type Circuit, idealCircuit, type NodeName, type Part } from "@hound/core/circuit";
import { equivalentBetween, expectReadings, settleUnknowns } from "@hound/core/rank";
import {
  type Conventions,
  DEFAULT_CONVENTIONS,
  idealMeter,
  type Meter,
  meterData,
  type NumericReading,
} from "@hound/core/record";
import { reduceNetwork } from "@hound/core/reduce";
import { drawCircuit, type Random, seededRandom } from "@hound/core/simulate";
import { plainReading, share } from "@hound/core/test";
import { describe, expect, it } from "vitest";
import { boardFacts } from "../board/boardFacts.ts";
import { asWorkedWith } from "../desk/DeskContext.tsx";
import { chartRows } from "../expected/chartRows.ts";
import { ohmsOf, paperOf, workOut } from "../expected/useExpected.ts";
import { variantOf } from "../whatif/variants.ts";
import { shown, withLimits } from "../words/quantities.ts";

/** A meter that is not there, for figures of the circuit's own. */
const NOWHERE = { input: Number.POSITIVE_INFINITY, burden: 0 } as const;
const EVERY: readonly Partial<Conventions>[] = [{}, { supplies: "ideal", wires: "ideal", meters: "ideal" }];
const COUNT = share(33);

/** One figure of a circuit by the reference's own laws and elimination. */
const plain = (circuit: Circuit, point: object) =>
  plainReading(circuit, { value: 0, ...point } as NumericReading, [], { factor: {} }, NOWHERE);

function taken(written: Circuit, own: Partial<Conventions>) {
  const conventions = { ...DEFAULT_CONVENTIONS, ...own };
  const ideal = { supplies: conventions.supplies === "ideal", contacts: conventions.wires === "ideal" };
  const meter: Meter = conventions.meters === "ideal" ? idealMeter({}) : {};
  return { circuit: asWorkedWith(written, ideal, meter), ideal, meter, conventions };
}

const nodesOf = ({ parts }: Circuit) => [...new Set(parts.flatMap((p) => [p.from, p.to]))];
const pick = <T>(list: readonly T[], random: Random) => list[Math.floor(random.next() * list.length)];
const resistor = (designator: string, from: NodeName, to: NodeName, ohms: number): Part => ({
  designator,
  kind: "resistor",
  from,
  to,
  tolerance: 0.05,
  resistance: { by: "ohms", ohms },
});

/** Every view of a driven circuit against the reference, to the digits that are shown. */
function agrees(circuit: Circuit, drawn: Circuit, meter: Meter, conventions: Conventions): number {
  const network = buildNetwork(drawn);
  const expected = workOut(network, paperOf(conventions));
  const { chart } = expected;
  if (!chart) throw new Error("no chart");
  const rows = chartRows(expected);
  const board = boardFacts({ network, readings: [], meter, ranking: null });
  const asIs = variantOf("", network, {}, (c) => c);
  if (asIs.kind !== "variant") throw new Error(asIs.why);
  network.nodes.forEach((from, n) => {
    if (n === network.reference) return;
    const volts = plain(circuit, { quantity: "voltage", from });
    expect(board.nodes[n].expected, from).toBe(withLimits(volts, chart.nodes[n].two, "V"));
    const between = equivalentBetween(network, from, network.nodes[network.reference], meter);
    expect(shown(between?.openVolts ?? Number.NaN, "V"), from).toBe(shown(volts, "V"));
  });
  network.branches.forEach(({ name, from, to }, k) => {
    const amps = plain(circuit, { quantity: "current", through: name });
    const volts = plain(circuit, { quantity: "voltage", from: network.nodes[from], to: network.nodes[to] });
    expect(shown(rows[k].values.amps, "A"), name).toBe(shown(amps, "A"));
    expect(shown(rows[k].values.volts, "V"), name).toBe(shown(volts, "V"));
    expect(board.branches[k].expected, name).toBe(shown(amps, "A", 3));
    expect(shown(asIs.parts.get(name)?.amps ?? Number.NaN, "A", 3), name).toBe(shown(amps, "A", 3));
  });
  return network.branches.length;
}

describe("sums as on paper have the same number in every view, by a reference that shares nothing with them", () => {
  it.each(EVERY)("ohms between any two points of a circuit without a supply: %j", (own) => {
    const random = seededRandom(31);
    let count = 0;
    for (let i = 0; i < COUNT; i += 1) {
      const whole = drawCircuit(4 + (i % 8), random);
      const written = { ...whole, parts: whole.parts.filter((p) => p.kind !== "supply") };
      const { circuit, meter, conventions } = taken(written, own);
      const network = buildNetwork(circuit);
      const nodes = nodesOf(circuit);
      const [from, to] = [pick(nodes, random), pick(nodes, random)];
      if (from === to) continue;
      const ohms = plain(circuit, { quantity: "resistance", from, to });
      if (!(ohms < 1e9)) continue;
      const [due] = expectReadings(network, [{ quantity: "resistance", from, to, value: 0 }], meter) ?? [];
      expect(shown(due.value, "ohm"), `${from}–${to}`).toBe(shown(ohms, "ohm"));
      const ends = [network.nodes.indexOf(from), network.nodes.indexOf(to)] as const;
      const expected = workOut(network, paperOf(conventions));
      const seen = reduceNetwork(network, ohmsOf(network, expected.solution), undefined, { ends, supplies: "out" });
      expect(seen.stops).toBeNull();
      expect(shown(seen.left[0].ohms, "ohm"), `${from}–${to} reduced`).toBe(shown(ohms, "ohm"));
      const board = boardFacts({ network, readings: [], meter, ranking: null });
      network.nodes.forEach((name, n) => {
        if (n === network.reference) return;
        const point = { quantity: "resistance", from: name, to: network.nodes[network.reference], value: 0 } as const;
        const own = plain(circuit, point);
        const [due] = expectReadings(network, [point], null) ?? [];
        if (own < 1e9) expect(board.nodes[n].expected, name).toBe(withLimits(own, due.plusMinus, "ohm"));
      });
      count += 1;
    }
    expect(count).toBeGreaterThan(COUNT / 2);
  });

  it.each(EVERY)("meters drawn in the circuit, on the range that holds what they show: %j", (own) => {
    const random = seededRandom(32);
    let count = 0;
    for (let i = 0; i < COUNT; i += 1) {
      const whole = drawCircuit(4 + (i % 8), random);
      const at = pick(
        whole.parts.filter((p) => p.kind !== "supply"),
        random,
      );
      const nodes = nodesOf(whole).filter((n) => n !== whole.reference);
      const drawn = (designator: string, from: NodeName, to: NodeName, ohms: number): Part => ({
        designator,
        kind: "meter",
        from,
        to,
        tolerance: 0.01,
        ohms,
      });
      const parts = whole.parts.map((p) => (p === at ? { ...p, to: "NAM" as NodeName } : p));
      const written = {
        ...whole,
        parts: [
          ...parts,
          drawn("AM1", "NAM" as NodeName, at.to, 1),
          drawn("VM1", pick(nodes, random), whole.reference, 1e7),
        ],
      };
      const { circuit, meter, conventions } = taken(written, own);
      const am = circuit.parts.find((p) => p.designator === "AM1") as Part & { ohms: number };
      const { current } = meterData(meter).ranges;
      const through = Math.abs(plain(circuit, { quantity: "current", through: "AM1" }));
      const range = current.find((r) => r.span >= through) ?? current[current.length - 1];
      // A current near the edge of a range may be on either side of it, by what its own burden takes away.
      if (Math.abs(through / range.span - 1) > 0.1) expect(am.ohms).toBeCloseTo(range.ohms, 6);
      count += agrees(circuit, circuit, meter, conventions);
    }
    expect(count).toBeGreaterThan(COUNT);
  });

  it.each(EVERY)("two sources, and a value that the readings have found: %j", (own) => {
    const random = seededRandom(33);
    let count = 0;
    for (let i = 0; i < COUNT; i += 1) {
      const whole = drawCircuit(4 + (i % 6), random);
      const nodes = nodesOf(whole).filter((n) => n !== whole.reference);
      const second: Part[] = [
        {
          ...(whole.parts.find((p) => p.kind === "supply") as Part),
          designator: "BT9",
          from: "NB" as NodeName,
          to: whole.reference,
        },
        resistor("R99", "NB" as NodeName, pick(nodes, random), 47),
      ];
      const written = { ...whole, parts: [...whole.parts, ...second] };
      const { ideal, meter, conventions } = taken(written, own);
      const hidden = pick(
        written.parts.filter((p) => p.kind === "resistor"),
        random,
      );
      const open = {
        ...written,
        parts: written.parts.map((p) => (p === hidden ? { ...p, resistance: { by: "unknown" } } : p)) as Part[],
      };
      const truth = idealCircuit(written, ideal);
      const readings = [
        ...nodesOf(truth).flatMap((from) => (from === truth.reference ? [] : [{ quantity: "voltage", from } as const])),
        { quantity: "current", through: hidden.designator } as const,
      ].map((p) => ({ ...p, value: plain(truth, p), plusMinus: 1e-4 }) as NumericReading);
      const circuit = asWorkedWith(open, ideal, meter);
      const settled = settleUnknowns(circuit, readings, meterData(meter));
      const [estimate] = settled?.estimates ?? [];
      if (!settled || !estimate.isSettled) continue;
      const found = {
        ...circuit,
        parts: circuit.parts.map((p) =>
          p.designator === hidden.designator ? resistor(p.designator, p.from, p.to, estimate.value) : p,
        ),
      };
      count += agrees(found, settled.narrowed, meter, conventions);
    }
    expect(count).toBeGreaterThan(COUNT);
  });
});
