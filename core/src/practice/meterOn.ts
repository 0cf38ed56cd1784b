import { z } from "zod";
import { BODY_OHMS } from "../coach/index.ts";
import { DIODE_TEST, type MeterData, type Quantity, type RangeData } from "../record/index.ts";
import { displayed, drawGain } from "../simulate/index.ts";
import { type BenchNow, type DialPlace, type Display, freedEnd, type Touch, type Trap } from "./acts.ts";
import { across, ohmsBetween, type Through, testedBetween, type Wired, wiredOf } from "./wired.ts";
import { seededBy, type World } from "./world.ts";

/** What only the bench itself knows: the fuses that are gone, the meter's by socket and the circuit's by name. */
export const Burnt = z.strictObject({ sockets: z.array(z.string()), fuses: z.array(z.string()) });
export type Burnt = z.infer<typeof Burnt>;

/** What a placement of the leads does. */
export interface Placed {
  readonly display: Display;
  readonly traps: readonly Trap[];
  readonly burnt: Burnt;
}

/** Volts across the test leads on ohms, at full scale: what drives its current. */
const TEST_VOLTS = 0.4;
/** A fuse of the circuit goes at so many times its rating. */
const BLOWS = 1.6;
/** Volts from which bare fingers on the tips are told of, in a dry place (extra-low voltage, IEC 61140). */
const HURTS = 60;
/** Share of the smallest digit below which nothing flows. */
const NOTHING = 0.5;

/** The range the dial is on: the one it is turned to; else the lowest that holds the value, of those that the socket has. */
function rangeOn(meter: MeterData, { dial, socket }: BenchNow, value: number): RangeData {
  if (dial.quantity === "diode") return testRange(meter);
  const all = meter.ranges[dial.quantity];
  const own = all.filter((r) => r.socket === socket);
  const ranges = own.length > 0 ? own : all;
  if (dial.span !== null) return all.find((r) => r.span === dial.span) ?? ranges[ranges.length - 1];
  return ranges.find((r) => r.span >= Math.abs(value)) ?? ranges[ranges.length - 1];
}

/** The diode test shows volts up to what it can send, in millivolts. */
function testRange(meter: MeterData): RangeData {
  const { topVolts } = DIODE_TEST;
  const { voltage } = meter.ranges;
  const own = voltage.find((r) => r.resolution >= TEST_STEP) ?? voltage[0];
  return { ...own, span: topVolts, resolution: TEST_STEP };
}
const TEST_STEP = 1e-3;

/** The shunt behind a socket for current; null of the one for volts. */
function shuntOf(meter: MeterData, now: BenchNow): RangeData | null {
  const own = meter.ranges.current.filter((r) => r.socket === now.socket);
  // A meter that takes volts and milliamperes at one socket turns its shunt on with the dial.
  const isShared = meter.ranges.voltage.some((r) => r.socket === now.socket);
  if (own.length === 0 || (isShared && now.dial.quantity !== "current")) return null;
  const chosen = now.dial.quantity === "current" ? own.find((r) => r.span === now.dial.span) : undefined;
  return chosen ?? own[own.length - 1];
}

/**
 * What the meter shows as it is set and held, and what that does to fuses: its input loads, its burden drops, its
 * shunt shorts what it lies across, ohms under power are nonsense, fingers and leads count.
 * @param noise names the moment: the same moment shows the same
 */
export function placedOn(world: World, meter: MeterData, now: BenchNow, burnt: Burnt, noise: string): Placed {
  const { dial, red, black } = now;
  const show = (value: number): Display => {
    const range = rangeOn(meter, now, value);
    const key = `${dial.quantity} ${range.span}`;
    const quantity = shownOn(dial.quantity);
    const gain = drawGain(range, seededBy(world.seed, `gain ${key}`));
    const shown = displayed(value, quantity, { range, meter, gain }, seededBy(world.seed, `noise ${noise} ${key}`));
    return { ...shown, span: range.span };
  };
  const air = () => show(showsNothing(dial.quantity));
  if (red === null || black === null) return { display: air(), traps: [], burnt };
  const wired = (fuses: readonly string[]) => wiredOf(world, now, fuses, meter.supplies);
  const shunt = shuntOf(meter, now);
  if (shunt) return placedAsShunt({ meter, now, burnt, shunt, wired, show, red, black });
  const traps: Trap[] = [];
  const here = wired(burnt.fuses);
  if (dial.quantity === "current") return { display: show(0), traps: ["voltSocket"], burnt };
  const open = now.power ? across(here, red, black, meter.inputOhms) : null;
  const volts = open?.volts ?? 0;
  if (now.fingers && Math.abs(volts) > HURTS) traps.push("fingersLive");
  if (dial.quantity === "voltage") {
    if (Math.abs(volts) > Math.min(meter.category.volts, meter.leads.volts)) traps.push("overRating");
    const input = rangeOn(meter, now, volts).ohms;
    const loaded = now.power ? (across(here, red, black, input)?.volts ?? 0) : 0;
    return finished(show(loaded), traps, burnt);
  }
  if (dial.quantity === "diode") {
    const isLive = Math.abs(volts) > TEST_STEP * NOTHING;
    return isLive
      ? finished(show(volts), [...traps, "liveOhms"], burnt)
      : finished(show(testedBetween(here, red, black)), traps, burnt);
  }
  const bare = ohmsBetween(here, red, black);
  const held = now.fingers ? 1 / (1 / bare + 1 / BODY_OHMS) : bare;
  const shown = held + (now.nulled ? 0 : meter.leads.ohms);
  if (now.fingers) traps.push("fingers");
  const range = rangeOn(meter, now, shown);
  const isLive = Math.abs(volts) > range.resolution * NOTHING * (TEST_VOLTS / range.span);
  if (!isLive) return finished(show(shown), traps, burnt);
  // The meter takes whatever volts it finds for the drop of its own test current.
  const nonsense = shown + (volts * range.span) / TEST_VOLTS;
  return finished(show(nonsense < 0 ? Number.POSITIVE_INFINITY : nonsense), [...traps, "liveOhms"], burnt);
}

interface AsShunt {
  readonly meter: MeterData;
  readonly now: BenchNow;
  readonly burnt: Burnt;
  readonly shunt: RangeData;
  readonly wired: (fuses: readonly string[]) => Wired;
  readonly show: (value: number) => Display;
  readonly red: Touch;
  readonly black: Touch;
}

/** Red in a socket for current: the meter is its burden between the two points, whatever the dial says. */
function placedAsShunt({ meter, now, burnt, shunt, wired, show, red, black }: AsShunt): Placed {
  const isAmps = now.dial.quantity === "current";
  const traps: Trap[] = [];
  if (!isAmps) traps.push("wrongSocket");
  const isInGap = isGap(now, red, black);
  if (isAmps && !isInGap && now.power) traps.push("across");
  const silent = () => show(showsNothing(now.dial.quantity));
  if (burnt.sockets.includes(shunt.socket)) return finished(silent(), traps, burnt);
  let { sockets, fuses } = burnt;
  for (;;) {
    const through = now.power ? across(wired(fuses), red, black, shunt.ohms) : null;
    // A fuse that the hidden fault overloads by itself is not the meter's doing.
    const before = through ? across(wired(fuses), red, black, Number.POSITIVE_INFINITY) : null;
    const weakest = through ? weakestOf(wired(fuses), through, before, shunt) : null;
    if (weakest === null || through === null) {
      const amps = through?.amps ?? 0;
      const isOther = isAmps && now.dial.span !== null && !isOwnRange(meter, now, shunt);
      if (isOther) traps.push("otherSocket");
      const display = isAmps && !isOther ? show(amps) : silent();
      return finished(display, traps, { sockets, fuses });
    }
    if (weakest === "meter") {
      sockets = [...sockets, shunt.socket];
      return finished(silent(), [...traps, "meterFuse"], { sockets, fuses });
    }
    fuses = [...fuses, weakest];
    traps.push("circuitFuse");
  }
}

const isOwnRange = (meter: MeterData, { dial }: BenchNow, shunt: RangeData) =>
  meter.ranges.current.some((r) => r.span === dial.span && r.socket === shunt.socket);

/** What goes first: the fuse that is furthest above what it stands; null where all hold. */
function weakestOf({ network }: Wired, through: Through, before: Through | null, shunt: RangeData): string | null {
  let worst = shunt.fuse === undefined ? 0 : Math.abs(through.amps) / shunt.fuse;
  let name = worst > 1 ? "meter" : null;
  for (const { part, name: own, kind } of network.branches) {
    if (kind !== "fuse" || part.currentRating === undefined) continue;
    const shareOf = (of: Through | null) => (of?.of.get(own) ?? 0) / (part.currentRating as number) / BLOWS;
    const share = shareOf(through);
    if (shareOf(before) <= 1 && share > Math.max(1, worst)) [worst, name] = [share, own];
  }
  return name;
}

/** Whether the leads are in the gap that a freed lead left: the meter in series. */
export function isGap(now: BenchNow, red: Touch, black: Touch): boolean {
  return now.freed.some(({ part, at }) => {
    const ends: Touch[] = [freedEnd(part), at];
    return red !== black && ends.includes(red) && ends.includes(black);
  });
}

/** Digits that a display wanders by itself. */
const FEW = 5;

function finished(display: Display, traps: readonly Trap[], burnt: Burnt): Placed {
  const more: Trap[] = display.isOver && display.quantity !== "resistance" ? ["overRange"] : [];
  // A digit or two beside nothing are the meter's own.
  if (!display.isOver && display.value < -FEW * display.step) more.push("minus");
  return { display, traps: [...traps, ...more], burnt };
}

/** What the display counts in at a place of the dial. */
const shownOn = (place: DialPlace): Quantity => (place === "diode" ? "voltage" : place);

/** What is there where nothing is: of what sends a current of its own endless ohms. */
const showsNothing = (place: DialPlace) => (place === "resistance" || place === "diode" ? Number.POSITIVE_INFINITY : 0);

/** What a dial can be turned to: each range, or one position a function; the diode test has no ranges. */
export function dialOf(meter: MeterData, place: DialPlace): readonly (number | null)[] {
  if (place === "diode") return [null];
  return meter.dial === "functions" ? [null] : meter.ranges[place].map((r) => r.span);
}
