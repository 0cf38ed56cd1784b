import type { Network } from "@hound/core/circuit";
import { isSameState } from "@hound/core/configuration";
import { deviationOf } from "@hound/core/measure";
import type { Prediction } from "@hound/core/rank";
import { isVolts, type Meter, meterData, type NumericReading, type Reading, UNIT_OF } from "@hound/core/record";
import type { Unit } from "@hound/core/units";
import { expectEach, ohmsAcross } from "../session/healthy.ts";
import { print } from "../words/print.ts";
import { placeOf, shown } from "../words/quantities.ts";
import { standingWords } from "../words/standing.ts";

/** What was read, or follows from what was read, beside what the circuit should give there. */
export interface MeasuredRow {
  readonly name: string;
  readonly quantity: "V" | "I" | "R" | "P";
  readonly unit: Unit;
  /** As the meter should show it in a healthy circuit, with two standard deviations. */
  readonly due: Prediction;
  readonly read: number;
  /** Readings it was worked out from, where it was not read as it is. */
  readonly from: string | null;
  /** How the circuit stood where that is not as it is drawn. */
  readonly when?: string;
  /** How many limits it is off, negative for low; within ±1 it agrees. */
  readonly limits: number;
  readonly side: -1 | 0 | 1;
}

/** How far off a figure is, and what share that is of what it should be: `−404 mV (−14 %)`. */
export function offBy({ unit, due, read }: MeasuredRow): string {
  const off = read - due.value;
  const share = due.value === 0 ? "" : ` (${print(Number(((100 * off) / Math.abs(due.value)).toPrecision(2)), "%")})`;
  return `${shown(Number(off.toPrecision(3)), unit)}${share}`;
}

/**
 * Every node's volts and every part's volts, amperes, ohms and watts that were read as the circuit is drawn, or follow
 * from two readings; the worst first. A part's ohms and watts follow from its volts and amperes.
 */
export function measuredRows(network: Network, all: readonly Reading[], meter: Meter): MeasuredRow[] {
  const readings = all.filter((r): r is NumericReading => r.quantity !== "observation" && isSameState(r.state));
  const data = meterData(meter);
  const expected = expectEach(network, readings, meter);
  const due = (reading: NumericReading) => expected[readings.indexOf(reading)];
  const rows: MeasuredRow[] = [];
  const listed = new Set<NumericReading>();
  const add = (name: string, quantity: "V" | "I" | "R", reading: NumericReading) => {
    const calculated = due(reading);
    if (!calculated || reading.beyond) return;
    listed.add(reading);
    const { limits, side } = deviationOf(reading, calculated, data);
    const unit = ({ V: "V", I: "A", R: "ohm" } as const)[quantity];
    rows.push({ name, quantity, unit, due: calculated, read: reading.value, from: null, limits, side });
  };
  for (const name of network.nodes) {
    const reading = readings.findLast((r) => isVolts(r) && r.from === name && r.to === undefined);
    if (reading) add(name, "V", reading);
  }
  for (const branch of network.branches) {
    const [from, to] = [network.nodes[branch.from], network.nodes[branch.to]];
    const volts = readings.findLast((r) => isVolts(r) && r.from === from && r.to === to);
    const amps = readings.findLast((r) => r.quantity === "current" && r.through === branch.name);
    const ohms = ohmsAcross(readings, from, to, network.nodes[network.reference]);
    if (volts) add(branch.name, "V", volts);
    if (amps) add(branch.name, "I", amps);
    if (ohms) add(branch.name, "R", ohms);
    const drop = dropOf(network, readings, branch.from, branch.to);
    if (!amps || amps.beyond || !drop || branch.kind === "supply") continue;
    const derived = deriveFrom(drop, amps, due);
    if (derived) rows.push(...derived.map((d) => ({ name: branch.name, ...d })));
  }
  // What was read between two nodes that are no part's ends, or with a lead lifted, stands by its place; the last counts.
  const places = new Set<string>();
  for (const reading of [...readings].reverse()) {
    const key = `${reading.quantity} ${placeOf(reading)}`;
    if (places.has(key) || listed.has(reading)) continue;
    places.add(key);
    add(placeOf(reading), LETTERS[reading.quantity], reading);
  }
  const worstFirst = (list: MeasuredRow[]) => list.sort((a, b) => Math.abs(b.limits) - Math.abs(a.limits));
  return [...worstFirst(rows), ...worstFirst(otherwise(network, all, meter))];
}

const LETTERS = { voltage: "V", current: "I", resistance: "R" } as const;

/** What was read while the circuit stood otherwise than it is drawn, each beside what it should give so. */
function otherwise(network: Network, all: readonly Reading[], meter: Meter): MeasuredRow[] {
  const readings = all.filter(
    (r): r is NumericReading => r.quantity !== "observation" && !r.beyond && !isSameState(r.state),
  );
  const expected = expectEach(network, readings, meter);
  return readings.flatMap((reading, n): MeasuredRow[] => {
    const due = expected[n];
    if (!due) return [];
    const quantity = LETTERS[reading.quantity];
    const { limits, side } = deviationOf(reading, due, meterData(meter));
    const when = standingWords(reading.state ?? {}).join(", ");
    const unit = UNIT_OF[reading.quantity];
    return [{ name: placeOf(reading), quantity, unit, due, read: reading.value, from: null, when, limits, side }];
  });
}

interface Drop {
  readonly value: number;
  readonly readings: readonly NumericReading[];
  readonly signs: readonly number[];
}

/** Volts across two nodes: read across them, or the difference of two readings against the reference. */
function dropOf(network: Network, readings: readonly NumericReading[], from: number, to: number): Drop | null {
  const name = (n: number) => network.nodes[n];
  const direct = readings.findLast((r) => isVolts(r) && r.from === name(from) && r.to === name(to) && !r.beyond);
  if (direct) return { value: direct.value, readings: [direct], signs: [1] };
  const against = (n: number) =>
    readings.findLast((r) => isVolts(r) && r.from === name(n) && r.to === undefined && !r.beyond);
  const [a, b] = [against(from), against(to)];
  if (a && to === network.reference) return { value: a.value, readings: [a], signs: [1] };
  if (b && from === network.reference) return { value: -b.value, readings: [b], signs: [-1] };
  return a && b ? { value: a.value - b.value, readings: [a, b], signs: [1, -1] } : null;
}

/** Ohms and watts from a drop and a current; their spread is that of both, taken as independent. */
function deriveFrom(
  drop: Drop,
  amps: NumericReading,
  due: (r: NumericReading) => Prediction | undefined,
): Omit<MeasuredRow, "name">[] | null {
  const across = drop.readings.map(due);
  const through = due(amps);
  if (!through || across.some((a) => !a) || amps.value === 0 || through.value === 0) return null;
  const volts = across.reduce((s, a, k) => s + drop.signs[k] * (a as Prediction).value, 0);
  const spread = Math.hypot(...across.map((a) => (a as Prediction).plusMinus));
  const share = Math.hypot(volts === 0 ? 0 : spread / volts, through.plusMinus / through.value);
  const from = [...drop.readings, amps].map((r) =>
    r.quantity === "current" ? `I(${r.through})` : `V(${"from" in r ? r.from : ""})`,
  );
  const row = (quantity: "R" | "P", unit: Unit, value: number, read: number): Omit<MeasuredRow, "name"> => {
    const plusMinus = Math.abs(value) * share;
    const limits = plusMinus > 0 ? (read - value) / plusMinus : 0;
    const side = Math.abs(limits) <= 1 ? 0 : limits > 0 ? 1 : -1;
    return { quantity, unit, due: { value, plusMinus }, read, from: from.join(" and "), limits, side };
  };
  return [
    row("R", "ohm", volts / through.value, drop.value / amps.value),
    row("P", "W", volts * through.value, drop.value * amps.value),
  ];
}
