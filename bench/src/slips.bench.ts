import { buildNetwork, type Network, type Part } from "@hound/core/circuit";
import { openSum, questionsOf, type SlipKind } from "@hound/core/coach";
import { bridgeCandidates, type FaultAt } from "@hound/core/faults";
import { limitOf, rangeOf } from "@hound/core/measure";
import { measurementsOn, planMeasurements } from "@hound/core/plan";
import { prepare, type RankInput, weighToEnd } from "@hound/core/rank";
import { type Meter, type MeterData, meterData, type NumericReading, SHIPPED_METERS } from "@hound/core/record";
import { drawCircuit, FaultDrawer, type Random, seededRandom, takeReadings } from "@hound/core/simulate";
import { row } from "./timing.ts";

/**
 * Entries typed at simulated jobs of 6 to 12 parts, one in ten of them with a slip of every kind in turn: how many of the
 * slips are asked about, how often the first guess of the kind is right, and how many good readings are asked about.
 * A slip that leaves the figure within its limits is none. `HOUND_ENTRIES=400`.
 */
const ENTRIES = Number(process.env.HOUND_ENTRIES ?? 400);
const A_JOB = 8;
const SHARE = 0.1;
const FINE = SHIPPED_METERS.find((m) => m.id === "bench")?.meter ?? {};
/** Half of the jobs with a common meter, half with a fine one: what its limits hide is no slip. */
const METERS: readonly Meter[] = [{ leads: { ohms: 0.4 } }, { ...FINE, leads: { ohms: 0.4 } }];
/** A third of the circuits has parts of tens of kilohms, where fingers matter. */
const HIGH = 40;

const KINDS: Readonly<Record<NumericReading["quantity"], readonly SlipKind[]>> = {
  voltage: ["sign", "thousand", "ten", "zero", "beyond", "ampsAsVolts", "wholeSupply", "sameNode"],
  current: ["sign", "thousand", "ten", "zero", "voltsAsAmps", "ammeterAcross"],
  resistance: ["thousand", "ten", "sameNode", "aboveOwn", "fingers", "leads"],
};
/** What cannot be told apart by the figure is one kind: nothing where something should be. */
const ALIKE: Partial<Record<SlipKind, string>> = { zero: "nothing", sameNode: "nothing" };

interface World {
  readonly network: Network;
  readonly input: RankInput;
  readonly faults: readonly FaultAt[];
  /** The one circuit on the bench: its parts as they are, within tolerance. */
  readonly show: (point: NumericReading, meter?: Meter) => number;
  readonly points: readonly NumericReading[];
  readonly data: MeterData;
}

function drawWorld(random: Random): World {
  for (;;) {
    const drawn = drawCircuit(5 + Math.floor(random.next() * 7), random);
    const circuit = random.next() < 1 / 3 ? { ...drawn, parts: drawn.parts.map(scaledUp) } : drawn;
    const meter = METERS[Math.floor(random.next() * 2)];
    const data = meterData(meter);
    const network = buildNetwork(circuit);
    const prepared = prepare({ circuit, readings: [], priors: { healthy: 1e-6, doubleShare: 0.02 } });
    if (prepared.kind === "problem") continue;
    const faults = random.next() < 0.1 ? [] : new FaultDrawer(prepared).draw(random);
    const points = measurementsOn(network).flatMap((m) => ("reading" in m ? [m.reading] : []));
    const options = { meter: data, bridges: bridgeCandidates(network), blunder: 0, counts: 1e7 };
    const seed = Math.floor(random.next() * 1e9);
    // Always the same draws: the same parts, and at a point the same error of the meter.
    const show = (point: NumericReading, other?: Meter) => {
      const own = { ...options, meter: other ? meterData(other) : data };
      const taken = takeReadings(network, faults, [point], own, seededRandom(seed));
      return taken?.[0].reading.beyond ? Number.POSITIVE_INFINITY : (taken?.[0].reading.value ?? Number.NaN);
    };
    if (!Number.isFinite(show(points[0]))) continue;
    return { network, input: { circuit, readings: [], meter }, faults, show, points, data };
  }
}

function scaledUp(part: Part): Part {
  return part.kind === "resistor" && part.resistance.by === "ohms"
    ? { ...part, resistance: { by: "ohms", ohms: part.resistance.ohms * HIGH } }
    : part;
}

/** As the display has it, on the range that holds it. */
function displayed(data: MeterData, point: NumericReading, value: number): NumericReading {
  const { resolution } = rangeOf({ ...point, value }, data);
  return { ...point, value: Number((Math.round(value / resolution) * resolution).toPrecision(12)), step: resolution };
}

function slipped(world: World, good: NumericReading, kind: SlipKind, random: Random): NumericReading | null {
  const { network, show, data } = world;
  const { value, step = 0 } = good;
  const scaled = (factor: number) => ({
    ...good,
    value: Number((value * factor).toPrecision(12)),
    step: step * Math.abs(factor),
  });
  const from = good.quantity === "current" ? null : (good.from ?? null);
  const to = good.quantity === "current" ? null : (good.to ?? network.nodes[network.reference]);
  const across = network.branches.find(
    (b) => [network.nodes[b.from], network.nodes[b.to]].every((n) => n === from || n === to) && b.from !== b.to,
  );
  const supplies = network.branches.filter((b) => b.kind === "supply");
  switch (kind) {
    case "sign":
      return scaled(-1);
    case "thousand":
      return scaled(random.next() < 0.5 ? 1000 : 1 / 1000);
    case "ten":
      return scaled(random.next() < 0.5 ? 10 : 0.1);
    case "zero":
      return { ...good, value: 0 };
    case "sameNode":
      return good.quantity === "resistance"
        ? displayed(data, good, 0.4 * (0.5 + random.next()))
        : { ...good, value: 0 };
    case "beyond": {
      const all = supplies.reduce((s, b) => s + (b.law.kind === "supply" ? Math.abs(b.law.volts) : 0), 0);
      return displayed(data, good, all * (1.3 + 2 * random.next()));
    }
    case "ampsAsVolts": {
      if (!across) return null;
      const amps = show({ quantity: "current", through: across.name, value: 0 });
      const turned = network.nodes[across.from] === from ? 1 : -1;
      const shown = displayed(data, { quantity: "current", through: across.name, value: 0 }, amps * turned);
      const factor = Math.abs(amps) < 1 ? 1000 : 1;
      return { ...good, value: Number((shown.value * factor).toPrecision(12)), step: (shown.step ?? 0) * factor };
    }
    case "wholeSupply": {
      const supply = supplies[0];
      if (!supply || !across || across.kind === "supply") return null;
      const point = { quantity: "voltage", from: network.nodes[supply.from], to: network.nodes[supply.to] } as const;
      return {
        ...good,
        ...displayed(data, { ...point, value: 0 }, show({ ...point, value: 0 })),
        ...placeOf(good),
      } as NumericReading;
    }
    case "voltsAsAmps":
    case "ammeterAcross": {
      const branch = network.branches.find((b) => good.quantity === "current" && b.name === good.through);
      if (!branch) return null;
      const ends = { from: network.nodes[branch.from], to: network.nodes[branch.to] };
      const point: NumericReading = { quantity: "voltage", ...ends, value: 0 };
      if (kind === "voltsAsAmps") {
        const volts = displayed(data, point, show(point));
        // Typed as 4.1 where milliamperes are meant.
        return { ...good, value: volts.value / 1000, step: (volts.step ?? 0) / 1000 };
      }
      const { ohms, fuse = 0.25 } = rangeOf(good, data);
      const amps = show(point, { voltage: { inputResistance: ohms } }) / ohms;
      // With its fuse blown it reads nothing: that is the kind “zero”.
      return Math.abs(amps) > fuse ? null : displayed(data, good, amps);
    }
    case "aboveOwn":
      return across?.law.kind === "resistance"
        ? displayed(data, good, across.law.ohms * (1.3 + 3 * random.next()))
        : null;
    case "fingers":
      return displayed(data, good, 1 / (1 / value + 1 / (1e5 * Math.exp(0.5 * random.normal()))));
    case "direction":
      return good.quantity === "current" && value < 0
        ? { ...good, value: Math.abs(good.value), typed: `${good.through} ${Math.abs(good.value)}A` }
        : null;
    case "leads":
      return displayed(data, good, value + 0.4 * (0.7 + 0.6 * random.next()));
    default:
      return kind satisfies never;
  }
}

function placeOf({ quantity, ...r }: NumericReading) {
  return quantity === "voltage" ? { from: (r as { from: string }).from, to: (r as { to?: string }).to } : {};
}

function shownAt(world: World, point: NumericReading): NumericReading | null {
  const value = world.show(point);
  return Number.isFinite(value) ? displayed(world.data, point, value) : null;
}

let turn = 0;
/** Every kind in turn, at a point where it can happen and would show. */
function nextSlip(world: World, random: Random) {
  const kinds = Object.entries(KINDS).flatMap(([quantity, list]) => list.map((kind) => ({ quantity, kind })));
  for (let tried = 0; tried < kinds.length; tried += 1) {
    const { quantity, kind } = kinds[turn++ % kinds.length];
    const points = world.points.filter((p) => p.quantity === quantity && !("lifted" in p));
    const start = Math.floor(random.next() * points.length);
    for (const point of [...points.slice(start), ...points.slice(0, start)]) {
      const good = shownAt(world, point);
      const wrong = good && slipped(world, good, kind, random);
      if (!good || !wrong) continue;
      // What the display shows of nothing is nothing, by whatever factor.
      const isNothing = [good, wrong].some(
        (r) => r.value !== 0 && Math.abs(r.value) < 2 * limitOf({ ...r, value: 0 }, world.data),
      );
      if (!isNothing && Math.abs(wrong.value - good.value) > 2 * limitOf(good, world.data))
        return { kind, good, wrong };
    }
  }
  return null;
}

const random = seededRandom(Number(process.env.HOUND_SEED ?? 15));
const counts = new Map<string, { slips: number; asked: number; right: number }>();
const falsely = new Map<string, number>();
let good = 0;
let asked = 0;
for (let entries = 0; entries < ENTRIES; ) {
  const world = drawWorld(random);
  let input = world.input;
  const taken: NumericReading[] = [];
  for (let i = 0; i < A_JOB && entries < ENTRIES; i += 1) {
    const weighing = weighToEnd(input);
    if (weighing.kind === "problem") break;
    const plan = random.next() < 0.5 ? planMeasurements(input, weighing) : null;
    const proposed = plan?.suggestions.find((s) => "reading" in s.measurement)?.measurement;
    const kinds = ["voltage", "voltage", "current", "resistance"] as const;
    const wanted = kinds[Math.floor(random.next() * kinds.length)];
    const of = world.points.filter((p) => p.quantity === wanted && !("lifted" in p));
    const point = proposed && "reading" in proposed ? proposed.reading : of[Math.floor(random.next() * of.length)];
    const slip = random.next() < SHARE ? nextSlip(world, random) : null;
    const typed = slip?.good ?? shownAt(world, point);
    if (!typed) continue;
    entries += 1;
    const entry = slip?.wrong ?? typed;
    const kind = slip?.kind ?? null;
    const questions = questionsOf(input, weighing.hypotheses, world.network, entry);
    const sum = openSum(world.network, taken, entry, world.data);
    const isAsked = questions.length > 0 || sum !== null;
    if (kind) {
      const count = counts.get(kind) ?? { slips: 0, asked: 0, right: 0 };
      const guess = questions[0]?.kind;
      const same = (k: SlipKind | undefined) => k && (ALIKE[k] ?? k);
      counts.set(kind, {
        slips: count.slips + 1,
        asked: count.asked + Number(isAsked),
        right: count.right + Number(same(guess) === same(kind)),
      });
      if (process.env.HOUND_SHOW && same(guess) !== same(kind))
        console.log(
          `  ${kind}: ${JSON.stringify(typed)} typed ${entry.value}: ${questions.map((q) => `${q.kind} ${q.probability.toFixed(2)}`).join(", ")}${sum ? " sum" : ""}`,
        );
    } else {
      good += 1;
      asked += Number(isAsked);
      if (isAsked) {
        const why = questions[0]?.kind ?? `sum of ${sum?.closure.kind}`;
        falsely.set(why, (falsely.get(why) ?? 0) + 1);
      }
    }
    taken.push(typed);
    input = { ...input, readings: [...input.readings, typed] };
  }
}
const all = [...counts.values()].reduce(
  (s, c) => ({ slips: s.slips + c.slips, asked: s.asked + c.asked, right: s.right + c.right }),
  { slips: 0, asked: 0, right: 0 },
);
const percent = (part: number, whole: number) => `${((100 * part) / Math.max(1, whole)).toFixed(1)} %`;
row("entries, slips among them", `${good + all.slips}, ${all.slips}`);
row("slips asked about", percent(all.asked, all.slips));
row("first guess of the kind right, of those asked", percent(all.right, all.asked));
row("good readings asked about", percent(asked, good));
for (const [kind, c] of [...counts].sort()) row(`  ${kind}`, `${c.slips} slips, ${c.asked} asked, ${c.right} guessed`);
for (const [why, n] of falsely) row(`  asked for nothing: ${why}`, n);
