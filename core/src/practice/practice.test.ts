import { describe, expect, it } from "vitest";
import { type Circuit, DRAWN } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { type MeterData, meterData, type NumericReading, SHIPPED_METERS } from "../record/index.ts";
import { drawCircuit, drawTolerances, type Random, seededRandom } from "../simulate/index.ts";
import { share } from "../test/examples.ts";
import { type PlainFault, plainReading } from "../test/plain/bench.ts";
import { withJunctions } from "../test/plain/drawCase.ts";
import {
  type Act,
  benchAtFirst,
  CarefulHands,
  COSTS,
  complaintOf,
  type DoneAct,
  dialOf,
  doAct,
  drawWorld,
  follow,
  hiddenOf,
  kindOfMode,
  marksOf,
  noticedIn,
  progressOf,
  rightOf,
  Told,
  type World,
  worldOf,
} from "./index.ts";

const [HANDHELD, BENCH] = SHIPPED_METERS.map((m) => meterData(m.meter));
const circuitOf = (trail: string) => readTrail(trail).circuit as Circuit;
/** Parts as drawn, so that figures can be written down; `hidden` is what is wrong. */
function worldIn(trail: string, hidden: Parameters<typeof worldOf>[1] = []): World {
  const world = worldOf(circuitOf(trail), hidden, 3, "complaint");
  if (typeof world === "string") throw new Error(world);
  return world;
}

/** Acts one after the other; what the last one told. */
function after(world: World, acts: readonly Act[], meter: MeterData = HANDHELD): Told {
  return each(world, acts, meter).at(-1) as Told;
}
function each(world: World, acts: readonly Act[], meter: MeterData): Told[] {
  let state = benchAtFirst(meter);
  return acts.map((act) => {
    const done = doAct(world, meter, state, act);
    state = done.state;
    return done.told;
  });
}
const touch = (red: string, black = "0"): Act[] => [
  { act: "touch", lead: "black", at: black },
  { act: "touch", lead: "red", at: red },
];
const dial = (quantity: Extract<Act, { act: "dial" }>["quantity"], span: number | null): Act => ({
  act: "dial",
  quantity,
  span,
});
const plug = (socket: string): Act => ({ act: "plug", socket });
const power = (on: boolean): Act => ({ act: "power", on });
const take: Act = { act: "take" };

// 12 V over 1k and 1k with exact parts: 6 V at B, 6 mA; the fuse stands 0.5 A.
const DIVIDER = "BT1 12V 0% ri=0.1: F1 0.5A + [A] R1 1k 0% + [B] R2 1k 0%";

describe("the stand-in meter", () => {
  it("shows what the reading model says, in every function, range and socket, within its own noise", () => {
    const random = seededRandom(31);
    const pick = <T>(list: readonly T[]) => list[Math.floor(random.next() * list.length)];
    let compared = 0;
    for (let n = 0; compared < share(500); n += 1) {
      const drawn = drawCircuit(4 + Math.floor(random.next() * 8), random);
      const world = drawWorld(n % 3 === 0 ? withJunctions(drawn, random) : drawn, n, { count: "any" });
      if (typeof world === "string") continue;
      const meter = pick([HANDHELD, BENCH]);
      const { acts, point, input, burden } = drawPlacement(world, meter, random, pick);
      const all = each(world, acts, meter);
      const told = all[all.length - 1];
      // A fuse that goes is told, and shows nothing.
      if (all.some((t) => t.traps.includes("meterFuse") || t.traps.includes("circuitFuse"))) continue;
      const { network } = world;
      const factor = Object.fromEntries(
        drawTolerances(network, seededRandom(world.seed)).branches.map((b) => [b.name, b.deviations?.get(DRAWN) ?? 1]),
      );
      const faults = hiddenOf(world).map((h): PlainFault => (h.nodes ? { nodes: h.nodes } : (h as PlainFault)));
      const due = plainReading(world.circuit, point, faults, { factor }, { input, burden });
      const { display } = told;
      const range = meter.ranges[point.quantity].find((r) => r.span === display.span);
      const noise = (range?.percent ?? 2) * 0.025 * Math.abs(due) + 4 * display.step;
      const size = Math.abs(due);
      const what = `${JSON.stringify(point)}: ${JSON.stringify(display)}, due ${due}`;
      compared += 1;
      if (display.isOver) expect(size, what).toBeGreaterThan(Math.min(display.span, meter.topOhms) - noise);
      else expect(Math.abs(Math.abs(display.value) - size), what).toBeLessThanOrEqual(noise);
      if (!display.isOver && size > 10 * noise) expect(told.reading, what).toMatchObject({ quantity: point.quantity });
      const written = told.reading?.quantity === point.quantity ? told.reading.value : Number.NaN;
      if (!display.isOver && size > 10 * noise) expect(Math.sign(written), what).toBe(Math.sign(due));
    }
  });

  it("takes the same for the same, whatever was done before", () => {
    const world = worldIn(DIVIDER);
    const acts = [...touch("B"), dial("voltage", 20), take];
    expect(after(world, acts).display).toEqual(after(world, acts).display);
    const swapped = after(world, [{ act: "swap", part: "R1" }, ...acts]).display.value;
    expect(swapped).toBeCloseTo(6, 0);
  });
});

/** Something that can be read, the acts for it, and what the meter is there. */
function drawPlacement(world: World, meter: MeterData, random: Random, pick: <T>(list: readonly T[]) => T) {
  const { nodes, branches } = world.network;
  const kind = pick(["voltage", "current", "resistance", "lifted", "diode", "lifted diode"] as const);
  const isAuto = meter.dial === "functions";
  const plain = nodes.filter((n) => !n.includes("."));
  const from = pick(plain);
  const to = pick(plain.filter((n) => n !== from));
  if (kind === "voltage" || kind === "resistance") {
    const range = pick(meter.ranges[kind]);
    const point = { quantity: kind, from, to, value: 0 } as NumericReading;
    const nulled: Act[] = [{ act: "null" }, power(false)];
    const acts = [
      ...(kind === "resistance" ? nulled : []),
      plug(range.socket),
      dial(kind, isAuto ? null : range.span),
      ...touch(from, to),
      take,
    ];
    return { acts, point, input: range.ohms, burden: 0 };
  }
  const test: Act[] = [plug(meter.ranges.voltage[0].socket), dial("diode", null)];
  if (kind === "diode") {
    const point = { quantity: "voltage", test: "diode", from, to, value: 0 } as NumericReading;
    return { acts: [power(false), ...test, ...touch(from, to), take], point, input: 0, burden: 0 };
  }
  const branch = pick(branches.filter((b) => b.part.kind !== "potentiometer" && b.kind !== "supply"));
  const freed: Act[] = [power(false), { act: "free", part: branch.name }];
  const state = after(world, freed, meter).now;
  const { at } = state.freed[0];
  const end = `${branch.name}.end`;
  const [own, other] = branch.part.from === at ? [at, branch.part.to] : [at, branch.part.from];
  if (kind === "lifted") {
    const range = pick(meter.ranges.resistance);
    const point = { quantity: "resistance", lifted: branch.name, value: 0 } as NumericReading;
    const set: Act[] = [{ act: "null" }, plug(range.socket), dial("resistance", isAuto ? null : range.span)];
    return { acts: [...freed, ...set, ...touch(end, other), take], point, input: 0, burden: 0 };
  }
  if (kind === "lifted diode") {
    const isTurned = random.next() < 0.5;
    const [red, black] = isTurned ? [other, own] : [own, other];
    const point = { quantity: "voltage", test: "diode", lifted: branch.name, from: red, to: black, value: 0 };
    const leads = isTurned ? touch(other, end) : touch(end, other);
    return { acts: [...freed, ...test, ...leads, take], point: point as NumericReading, input: 0, burden: 0 };
  }
  const range = pick(meter.ranges.current);
  const point = { quantity: "current", through: branch.name, value: 0 } as NumericReading;
  const turned = random.next() < 0.5;
  const set: Act[] = [plug(range.socket), dial("current", isAuto ? null : range.span)];
  const leads = turned ? touch(own, end) : touch(end, own);
  // One that finds its range stays on the shunt of its highest.
  const burden = isAuto ? (meter.ranges.current.at(-1)?.ohms ?? 0) : range.ohms;
  return { acts: [...freed, ...set, ...leads, power(true), take], point, input: 0, burden };
}

describe("the traps of a bench", () => {
  const world = worldIn(DIVIDER);
  const traps = (...acts: Act[]) => after(world, acts).traps;

  it("amperes across the supply: the meter's fuse goes, and stays gone until it is replaced", () => {
    const amps = [dial("current", 0.2), plug("mA")];
    expect(traps(...amps, ...touch("+"))).toEqual(["across", "meterFuse"]);
    const inSeries: Act[] = [power(false), { act: "free", part: "R1" }, ...touch("A", "R1.end"), power(true)];
    const blown = [...amps, ...touch("+"), ...touch("0")];
    expect(after(world, [...amps, ...inSeries]).display.value).toBeCloseTo(0.006, 3);
    expect(after(world, [...blown, ...inSeries]).display.value).toBeCloseTo(0, 4);
    const mended = after(world, [...blown, { act: "fuse", socket: "mA" }, ...inSeries]);
    expect(mended.display.value).toBeCloseTo(0.006, 3);
    expect(mended.now.minutes).toBe(COSTS.fuse + COSTS.power + COSTS.free);
  });

  it("the socket for ten amperes across a fused line takes the circuit's fuse, which a swap mends", () => {
    const short: Act[] = [dial("current", 10), plug("10 A"), ...touch("A")];
    expect(traps(...short)).toContain("circuitFuse");
    const again: Act[] = [dial("voltage", 20), plug("V Ω"), ...touch("B")];
    expect(after(world, [...short, ...again]).display.value).toBeCloseTo(0, 2);
    expect(after(world, [...short, ...again, { act: "swap", part: "F1" }]).display.value).toBeCloseTo(6, 1);
    expect(after(world, [...short, { act: "look", part: "F1" }]).reading).toMatchObject({ seen: "blown" });
  });

  it("red in a current socket while the dial is on volts shorts what it lies across", () => {
    expect(traps(plug("10 A"), ...touch("A"))).toContain("wrongSocket");
    expect(traps(dial("current", 0.2), ...touch("A", "B"))).toEqual(["voltSocket"]);
    const through: Act[] = [power(false), { act: "free", part: "R1" }, ...touch("A", "R1.end"), power(true)];
    expect(after(world, [...through, dial("current", 0.2), plug("10 A")])).toMatchObject({
      display: { value: 0 },
      traps: ["otherSocket"],
    });
  });

  it("ohms under power are nonsense and said to be; a lead off under power too, with a coil beside it", () => {
    const ohms = [dial("resistance", 2000), ...touch("A", "B")];
    expect(traps(...ohms)).toContain("liveOhms");
    const off = after(world, [power(false), ...ohms]);
    expect(off.traps).toEqual([]);
    expect(off.display.value).toBeCloseTo(1000, -2);
    expect(traps({ act: "free", part: "R1" })).toEqual(["liveFree"]);
    const coil = worldIn("BT1 12V: R1 100 + [A] K1 80");
    expect(after(coil, [{ act: "free", part: "R1" }]).traps).toEqual(["liveFree", "kick"]);
    expect(after(coil, [power(false), { act: "free", part: "R1" }]).traps).toEqual([]);
  });

  it("the input loads, fingers lie in parallel, leads are in series until they are nulled", () => {
    const high = worldIn("BT1 12V 0%: R1 10M 0% + [B] R2 10M 0%");
    // 10 MΩ beside R2: a third of 12 V.
    expect(after(high, [dial("voltage", 20), ...touch("B")]).display.value).toBeCloseTo(4, 1);
    const big: Act[] = [power(false), dial("resistance", 4e7), ...touch("B")];
    expect(after(high, big).display.value / 1e7).toBeCloseTo(1, 0);
    const held = after(high, [{ act: "fingers", on: true }, ...big]);
    expect(held.display.value).toBeLessThan(1.1e5);
    expect(held.traps).toContain("fingers");
    const low = worldIn("BT1 12V 0%: R1 1 0% + [B] R2 1k 0%");
    const ohm: Act[] = [power(false), dial("resistance", 200), ...touch("+", "B")];
    const nulled = after(low, [{ act: "null" }, ...ohm]).display.value;
    expect(nulled).toBeCloseTo(1, 0);
    expect(after(low, ohm).display.value - nulled).toBeGreaterThan(0.05);
  });

  it("a track is freed at the ends one gets at, and reads its section there", () => {
    const track = worldIn("BT1 12V 0%: [A] RV1 10k 0% at=40% wiper=[W]\n[W] R3 4.7k 0% [0]");
    for (const [part, at, ohms] of [
      ["RV1.top", "A", 4_000],
      ["RV1.bottom", "0", 6_000],
    ] as const) {
      const acts: Act[] = [
        power(false),
        { act: "free", part },
        dial("resistance", 20_000),
        ...touch(`${part}.end`, "W"),
      ];
      const told = after(track, acts);
      expect(told.now.freed).toEqual([{ part, at }]);
      expect(Math.abs(told.display.value - ohms)).toBeLessThan(0.03 * ohms);
    }
  });

  it("over range, minus, a lead left off elsewhere, and leads where no reading has a name", () => {
    expect(after(world, [dial("voltage", 2), ...touch("B")])).toMatchObject({ traps: ["overRange"] });
    expect(after(world, [dial("voltage", 20), ...touch("0", "B")])).toMatchObject({ traps: ["minus"] });
    // Nothing that wanders about nothing is the other way round.
    const dead = worldIn("BT1 12V: R1 1k + [B] R2 1k", [{ part: "R1", mode: "open", value: 0 }]);
    const taken = each(dead, [dial("voltage", 20), ...touch("B"), ...Array<Act>(40).fill(take)], HANDHELD);
    expect(taken.some((t) => t.display.value < 0)).toBe(true);
    expect(taken.flatMap((t) => t.traps)).not.toContain("minus");
    // A probe at a free end is in the air when the lead is put back.
    const back: Act[] = [power(false), { act: "free", part: "R2" }, ...touch("R2.end"), { act: "join", part: "R2" }];
    expect(after(world, back).now).toMatchObject({ red: null, black: "0", freed: [] });
    const left: Act[] = [
      power(false),
      { act: "free", part: "R2" },
      power(true),
      dial("voltage", 20),
      ...touch("B"),
      take,
    ];
    expect(after(world, left)).toMatchObject({ traps: ["leftOpen"], reading: { state: { lifted: ["R2"] } } });
    expect(after(world, [...left.slice(0, 4), ...touch("R2.end"), take])).toMatchObject({
      traps: ["noReading"],
      reading: null,
    });
    const live = worldIn("PS1 90V 0%: R1 1k + [B] R2 1k");
    expect(after(live, [{ act: "fingers", on: true }, dial("voltage", 200), ...touch("+")]).traps).toEqual([
      "fingersLive",
    ]);
    const mains = worldIn("PS1 800V 0%: R1 1k 500W + [B] R2 1k 500W");
    expect(after(mains, touch("+")).traps).toEqual(["overRating"]);
  });

  it("refuses what cannot be done, says why, and loses nothing", () => {
    const refused = (act: Act) => after(world, [dial("voltage", 20), act]);
    for (const act of [
      dial("voltage", 21),
      plug("B"),
      ...touch("Q").slice(1),
      { act: "touch", lead: "red", at: "R1.end" },
      { act: "look", part: "R1" },
      { act: "alone", part: "R1" },
      { act: "lever", part: "R1", position: "open" },
      { act: "join", part: "R1" },
      { act: "swap", part: "R9" },
      take,
    ] as Act[]) {
      const told = refused(act);
      expect(told.refused, JSON.stringify(act)).toBeTruthy();
      expect(told.now).toMatchObject({ dial: { span: 20 }, minutes: 0 });
    }
  });
});

describe("hidden worlds", () => {
  it("break as asked for, the same for the same seed, and come back from what was kept", () => {
    const circuit = circuitOf("BT1 12V: F1 1A + [A] (LA1 12V 5W | R1 220 + [B] R2 470) + [D] J1");
    for (let seed = 0; seed < 12; seed += 1) {
      for (const kind of ["open", "short", "drift", "bridge"] as const) {
        const world = drawWorld(circuit, seed, { kinds: [kind], count: seed % 3 === 0 ? "two" : "one" });
        if (typeof world === "string") continue;
        expect(world.owners).toHaveLength(seed % 3 === 0 ? 2 : 1);
        for (const { site } of world.faults) expect(kindOfMode(site.mode)).toBe(kind);
        const back = worldOf(circuit, hiddenOf(world), seed, world.situation);
        if (typeof back === "string") throw new Error(back);
        expect([hiddenOf(back), back.owners, back.situation]).toEqual([hiddenOf(world), world.owners, world.situation]);
        expect(back.faults.map((f) => f.site.branch)).toEqual(world.faults.map((f) => f.site.branch));
      }
      expect(drawWorld(circuit, seed, { count: "none" })).toMatchObject({
        faults: [],
        owners: [],
        situation: "unsaid",
      });
    }
    expect(drawWorld(circuitOf("[A] R1 1k [B]"), 1)).toMatch(/no supply/);
    expect(drawWorld(circuitOf("BT1 12V: W1 + [A] R1 1k"), 1, { kinds: ["drift"], count: "two" })).toBeTypeOf("object");
    expect(worldOf(circuit, [{ part: "R9", mode: "open", value: 0 }], 1)).toMatch(/no R9 open/);
  });

  it("are complained of by what shows", () => {
    const dark = worldIn("BT1 12V: F1 1A + [A] LA1 12V 5W", [{ part: "F1", mode: "open", value: 0 }]);
    const said = (world: World) => complaintOf(world, noticedIn(world));
    expect(said(dark)).toBe("LA1 stays dark.");
    expect(said(worldIn(DIVIDER, [{ part: "R1", mode: "open", value: 0 }]))).toMatch(/nothing is to be seen/);
  });
});

describe("the marks", () => {
  it("find nothing better in the planner's own hunt, and count what it cost and told", () => {
    const world = worldIn("BT1 12V: F1 1A + [A] R1 220 5% + [B] R2 470 5% + [D] LA1 100 5%", [
      { part: "R2", mode: "open", value: 0 },
    ]);
    const { meter } = SHIPPED_METERS[0];
    const hands = new CarefulHands(world, meterData(meter));
    const found = follow(world, hands, { meter });
    if ("kind" in found) throw new Error(found.message);
    expect(found).toMatchObject({ right: 1, named: ["R2"] });
    const acts = hands.done.map(({ act, told }): DoneAct => ({ act, ...told }));
    const marks = marksOf(world, meter, acts, COSTS);
    expect(marks.minutes).toBe(found.minutes);
    expect(marks.best).toMatchObject({ minutes: found.minutes, isRight: true });
    expect(marks.steps.map((s) => s.better)).toEqual(marks.steps.map(() => null));
    expect(marks.steps.reduce((s, one) => s + one.took, 0)).toBeCloseTo(marks.minutes, 6);
    expect(marks.steps.at(-1)?.after).toMatchObject({ named: ["R2"], verdict: "settled" });
    expect(marks.unsafe).toEqual([]);
  });

  it("count what names cost in the way, and in no reading's minutes", () => {
    const world = worldIn(DIVIDER, [{ part: "R1", mode: "open", value: 0 }]);
    const { meter } = SHIPPED_METERS[0];
    const read = ["+", "A", "B"].flatMap((at): Act[] => [...touch(at), take]);
    const told = each(world, [dial("voltage", 20), ...read], HANDHELD);
    // Named wrongly after the first reading, and once more at the end.
    const acts: DoneAct[] = [dial("voltage", 20), ...read].map((act, n) => {
      const { now } = told[n];
      const spent = now.minutes > COSTS.take ? COSTS.swap : 0;
      return { act, ...told[n], now: { ...now, minutes: now.minutes + spent } };
    });
    const naming = { named: ["R2"], sure: 0.9, right: 0, took: COSTS.swap };
    const namings = [
      { ...naming, minutes: COSTS.take },
      { ...naming, minutes: 3 * COSTS.take + COSTS.swap },
    ];
    const marks = marksOf(world, meter, acts, COSTS, [], namings);
    expect(marks.steps.map((s) => s.took)).toEqual(marks.steps.map(() => COSTS.take));
    expect(marks.minutes).toBe(marks.steps.length * COSTS.take + 2 * COSTS.swap);
  });

  it("say what would have told more, what was unsafe, and what a reading with a lead off elsewhere was", () => {
    const world = worldIn(DIVIDER, [{ part: "R2", mode: "open", value: 0 }]);
    const { meter } = SHIPPED_METERS[0];
    let state = benchAtFirst(HANDHELD);
    const acts: DoneAct[] = [];
    for (const act of [
      { act: "swap", part: "F1" },
      { act: "free", part: "R1" },
      dial("voltage", 20),
      ...touch("A"),
      take,
    ] as Act[]) {
      const done = doAct(world, HANDHELD, state, act);
      state = done.state;
      const { refused: _, ...told } = done.told;
      acts.push({ act, ...told });
    }
    const { steps, unsafe, slips } = marksOf(world, meter, acts, COSTS);
    expect(steps.map((s) => s.act.act)).toEqual(["swap", "take"]);
    expect(steps[0].better?.measurement.kind).toBe("voltage");
    expect(steps[0].took).toBe(COSTS.swap);
    expect(unsafe).toEqual(["liveFree"]);
    expect(slips).toEqual(["leftOpen"]);
  });
});

it("whatever hands do at whatever bench, in any order, is told in its form or refused with a reason", () => {
  const random = seededRandom(61);
  const pick = <T>(list: readonly T[]) => list[Math.floor(random.next() * list.length)];
  const own = [
    "BT1 12V: R1 1k + [A] RV1 10k at=40% wiper=[W] + [B] R2 1k\n[W] R3 4.7k [0]",
    "PS1 24V limit=1A: S1 open + [A] (LA1 24V 5W | K1 240) + [B] F1 2A",
    "BT1 24V ri=0.5: R1 100 + [A] R2 220 + [B] R3 330\n[0] BT2 9V + R4 47 [B]",
    "BT1 9V: W1",
  ].map(circuitOf);
  for (let n = 0; n < share(90); n += 1) {
    const circuit = n % 3 === 0 ? own[(n / 3) % own.length] : drawCircuit(3 + (n % 8), random);
    const world = drawWorld(circuit, n, { count: pick(["one", "two", "none", "any"]) });
    if (typeof world === "string") continue;
    const meter = n % 2 === 0 ? HANDHELD : BENCH;
    const { voltage, current, resistance } = meter.ranges;
    const sockets = [...voltage, ...current, ...resistance].map((r) => r.socket);
    const parts = world.network.branches.map((b) => b.name);
    const places = [...world.network.nodes, ...parts.map((p) => `${p}.end`), null];
    let state = benchAtFirst(meter);
    for (let k = 0; k < 60; k += 1) {
      const quantity = pick(["voltage", "current", "resistance"] as const);
      const part = pick(parts);
      const act = pick<Act>([
        { act: "dial", quantity, span: pick(dialOf(meter, quantity)) },
        { act: "plug", socket: pick(sockets) },
        { act: "touch", lead: pick(["red", "black"]), at: pick(places) },
        { act: "touch", lead: pick(["red", "black"]), at: pick(places) },
        { act: "power", on: random.next() < 0.5 },
        { act: pick(["free", "join", "swap", "alone", "look"]), part } as Act,
        { act: "lever", part, position: pick(["open", "closed"]) },
        { act: "fingers", on: random.next() < 0.5 },
        { act: "fuse", socket: pick(sockets) },
        { act: pick(["null", "take", "hint"]) } as Act,
      ]);
      const { told, state: next } = doAct(world, meter, state, act);
      expect(Told.parse(told), JSON.stringify(act)).toEqual(told);
      if (told.refused !== null) expect(next).toBe(state);
      expect(told.now.minutes).toBeGreaterThanOrEqual(state.now.minutes);
      state = next;
    }
  }
});

it("of any number of faults, nothing is wrong now and then, two are now and then, and one as a rule", () => {
  const row = circuitOf("BT1 12V: F1 1A + [A] R1 220 5% + [B] R2 470 5% + [C] LA1 100 5% + [D] J1");
  const counts = [0, 0, 0];
  for (let seed = 1; seed <= 300; seed += 1) {
    const world = drawWorld(row, seed, { count: "any" });
    if (typeof world === "string") throw new Error(world);
    counts[world.owners.length] += 1;
  }
  // Three standard deviations about 12 %, 78 % and 10 % of three hundred.
  expect(Math.abs(counts[0] - 36)).toBeLessThan(18);
  expect(Math.abs(counts[2] - 30)).toBeLessThan(17);
});

it("a name is right where it is all of it and nothing else, half where it is one of two", () => {
  const owners = ["F1", "R2"];
  expect([["F1"], ["R2", "F1"], ["F1", "R3"], [], ["R3"]].map((named) => rightOf({ owners }, named))).toEqual([
    0.5, 1, 0, 0, 0,
  ]);
  expect([[], ["F1"]].map((named) => rightOf({ owners: [] }, named))).toEqual([1, 0]);
});

describe("how one gets on", () => {
  const hunt = (n: number, mode: string | null, minutes: number, more: object = {}) => ({
    ...{ id: `${n}`, title: `Hunt ${n}`, state: "found", count: "one", help: "none", who: "", partCount: 4, unsafe: 0 },
    ...{ best: { minutes: 2, isRight: true }, createdAt: `2026-01-0${n}T00:00:00Z`, minutes },
    truth: { seed: n, faults: mode === null ? [] : [{ part: "R1", mode, value: 0 }] },
    namings: [{ named: ["R1"], sure: 0.9, right: 1, minutes, took: 0 }],
    ...more,
  });
  const wrong = { named: ["R2"], sure: 0.9, right: 0, minutes: 1, took: 6 };
  const all = (...hunts: object[]) => progressOf(hunts as never);

  it("sets minutes beside the best way's, by kind of fault and size of circuit, and how sure beside how right", () => {
    const after = hunt(3, "open", 9, { partCount: 12, namings: [wrong, { ...wrong, right: 1 }], unsafe: 2 });
    const given = hunt(4, "high", 5, { state: "givenUp", namings: [] });
    const { runs, kinds, sizes, sureness, unsafe } = all(given, after, hunt(2, "dead", 3), hunt(1, "open", 2));
    expect(runs.map((r) => [r.id, r.ratio, r.isFirstRight])).toEqual([
      ["1", 1, true],
      ["2", 1.5, true],
      ["3", 4.5, false],
      ["4", 2.5, false],
    ]);
    expect(kinds).toEqual([
      { kind: "open", name: "Opens", hunts: 3, firstRight: 2, ratio: 1.5 },
      { kind: "drift", name: "Drifted values", hunts: 1, firstRight: 0, ratio: null },
    ]);
    expect(sizes.map((s) => [s.name, s.hunts, s.ratio])).toEqual([
      ["Up to 5 parts", 3, 1.25],
      ["11 to 20 parts", 1, 4.5],
    ]);
    expect(sureness).toEqual([{ sure: 0.9, times: 3, of: 4 }]);
    expect(unsafe).toBe(2);
  });

  it("says what to practise next: what is often named wrongly, else what was never hunted, else what is slow", () => {
    expect(all().next).toBeNull();
    const kinds = (minutes: number) => ["open", "short", "high", "bridged"].map((m, n) => hunt(n + 1, m, minutes));
    expect(all(hunt(1, "open", 2), hunt(2, "short", 2, { namings: [wrong, wrong] })).next).toEqual({
      kind: "short",
      why: "wrong",
    });
    expect(all(...kinds(2).slice(0, 2)).next).toEqual({ kind: "drift", why: "new" });
    expect(all(...kinds(2).slice(0, 3), hunt(4, "bridged", 9)).next).toEqual({ kind: "bridge", why: "slow" });
    expect(all(...kinds(3)).next).toBeNull();
  });
});
