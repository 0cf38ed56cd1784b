import { buildNetwork, type Circuit, type Part } from "@hound/core/circuit";
import { settleUnknowns } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { drawCircuit, drawTolerances, type Random, seededRandom, takeOn } from "@hound/core/simulate";
import { row } from "./timing.ts";

/**
 * Values left unknown: parts of drawn circuits, off as tolerances allow, are read with a meter that errs; one or two
 * values, a supply's among them, are left open. How often the truth lies in the middle 80 % of what is said; and, with one
 * reading too few, how often the reading that is named settles it. `HOUND_JOBS=200`.
 */
const CASES = Number(process.env.HOUND_JOBS ?? 200);
/** Standard deviations to either side of the middle 80 %; estimates are given with two. */
const MIDDLE = 1.2816 / 2;
const meter = meterData({});

interface Hidden {
  readonly circuit: Circuit;
  readonly truth: ReadonlyMap<string, number>;
  readonly read: (points: readonly NumericReading[]) => NumericReading[];
}

function hide(random: Random): Hidden | null {
  const whole = drawCircuit(5 + Math.floor(random.next() * 5), random);
  const able = whole.parts.filter(
    (p) => (p.kind === "resistor" && p.resistance.by === "ohms") || (p.kind === "supply" && random.next() < 0.5),
  );
  const count = 1 + Number(random.next() < 0.5);
  const names = new Set<string>();
  while (names.size < Math.min(count, able.length)) names.add(able[Math.floor(random.next() * able.length)].designator);
  if (names.size === 0) return null;
  const network = buildNetwork(whole);
  const actual = drawTolerances(network, random);
  const truth = new Map(
    actual.branches.flatMap(({ name, law, deviations }): [string, number][] => {
      if (!names.has(name)) return [];
      const nominal = law.kind === "supply" ? law.volts : law.kind === "resistance" ? law.ohms : Number.NaN;
      return [[name, nominal * (deviations?.get("") ?? 1)]];
    }),
  );
  const parts = whole.parts.map((p): Part => {
    if (!names.has(p.designator)) return p;
    if (p.kind === "supply") return { ...p, volts: null };
    return "resistance" in p ? { ...p, resistance: { by: "unknown" } } : p;
  });
  const read = (points: readonly NumericReading[]) => {
    const taken = takeOn(actual, [], points, { meter, bridges: [], blunder: 0, counts: 6000 }, random);
    return taken ? taken.readings.map((r) => r.reading) : [];
  };
  return { circuit: { ...whole, parts }, truth, read };
}

function pointsOf({ parts, reference }: Circuit): NumericReading[] {
  const nodes = [...new Set(parts.flatMap((p) => [p.from, p.to]))].filter((n) => n !== reference);
  return [
    ...nodes.map((from): NumericReading => ({ quantity: "voltage", from, value: 0 })),
    ...parts.map((p): NumericReading => ({ quantity: "current", through: p.designator, value: 0 })),
  ];
}

function shuffled<T>(list: readonly T[], random: Random): T[] {
  return list
    .map((one) => ({ one, at: random.next() }))
    .sort((a, b) => a.at - b.at)
    .map(({ one }) => one);
}

const random = seededRandom(41);
let [cases, told, inside, short, helped] = [0, 0, 0, 0, 0];
while (cases < CASES) {
  const hidden = hide(random);
  if (!hidden) continue;
  const { circuit, truth, read } = hidden;
  const points = shuffled(pointsOf(circuit), random);
  const readings = read(points);
  const isSettled = (count: number) =>
    settleUnknowns(circuit, readings.slice(0, count), meter)?.estimates.every((e) => e.isSettled) ?? false;
  if (readings.length === 0 || !isSettled(readings.length)) continue;
  cases += 1;
  for (const { designator, unit, value, low, high } of settleUnknowns(circuit, readings, meter)?.estimates ?? []) {
    const at = truth.get(designator) ?? Number.NaN;
    told += 1;
    const share = unit === "ohm" ? Math.log(at / value) / Math.log(high / value) : (at - value) / ((high - low) / 2);
    inside += Number(Math.abs(share) <= MIDDLE);
  }
  const enough = Array.from({ length: readings.length + 1 }, (_, n) => n).find(isSettled) as number;
  if (enough === 0) continue;
  const few = readings.slice(0, enough - 1);
  const [wanted] = settleUnknowns(circuit, few, meter)?.wanted ?? [];
  short += 1;
  if (!wanted) continue;
  const [more] = read([wanted]);
  helped += Number(settleUnknowns(circuit, [...few, more], meter)?.estimates.every((e) => e.isSettled));
}
row("cases", "values", "truth in the middle 80 %", "one reading short", "settled by the one named");
row(String(cases), String(told), inside / told, String(short), helped / short);
process.exitCode = inside / told < 0.75 || inside / told > 0.85 || helped / short < 0.95 ? 1 : 0;
