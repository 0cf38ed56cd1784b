import type { Bend, Line } from "./element.ts";

/** A semiconductor junction from anode to cathode; SI units. */
export interface JunctionLaw {
  readonly kind: "junction";
  /** Volts across it at `TEST_AMPS`, forward. */
  readonly forward: number;
  /** Ohms in series. */
  readonly series: number;
  /** Amperes that it lets through backwards: I₀ of Shockley's law, from the two above. */
  readonly saturation: number;
  /** Siemens that lead either way beside it. */
  readonly leak: number;
  /** Volts at `ZENER_AMPS` backwards, of one that is made to break down. */
  readonly zener?: number;
  /** Present where it was fitted the wrong way round: its cathode is where the anode belongs. */
  readonly isReversed?: true;
}

/** Amperes at which forward volts are given, and Zener volts: what data sheets of small ones test with. */
export const TEST_AMPS = 0.01;
export const ZENER_AMPS = 0.005;
/** kT/q at 25 °C, times the slope factor of a recombining junction: Sze & Ng, Physics of Semiconductor Devices, 3rd ed., §2.3. */
const SLOPE = 1.8 * 0.02569;
/** Siemens of a good one's surface: nanoamperes at some volts. */
export const LEAST_LEAK = 1e-9;
/** Exponents beyond this would run out of a double's range. */
const MOST = 600;

/** A junction by its forward volts and series ohms: I = I₀·(exp(V/n·V_T) − 1), met at the test current. Shockley 1949. */
export function junctionOf(law: Omit<JunctionLaw, "kind" | "saturation">): JunctionLaw {
  const saturation = TEST_AMPS / Math.expm1((law.forward - law.series * TEST_AMPS) / SLOPE);
  return { ...law, kind: "junction", saturation };
}

const exp = (x: number) => Math.exp(Math.min(x, MOST));

/**
 * Amperes and siemens of the junction by itself at volts across it, anode to cathode, series ohms apart; and siemens that
 * are owed to the volts that it is known by, negative of those at which it breaks down.
 */
function at(law: JunctionLaw, volts: number): { amps: number; siemens: number; owed: number } {
  const own = law.saturation;
  const grown = own * exp(volts / SLOPE);
  let amps = grown - own + law.leak * volts;
  let siemens = grown / SLOPE + law.leak;
  let owed = (grown - own) / SLOPE;
  if (law.zener !== undefined) {
    // Breakdown is as steep as the junction; series ohms make up the rest of what a data sheet calls dynamic ohms.
    const broken = ZENER_AMPS * exp(-(volts + law.zener - law.series * ZENER_AMPS) / SLOPE);
    amps -= broken;
    siemens += broken / SLOPE;
    owed = -broken / SLOPE;
  }
  return { amps, siemens, owed };
}

const sign = (law: JunctionLaw) => (law.isReversed ? -1 : 1);

/** Steps so small go as they are: their square is nothing beside a slope. */
const SMALL = 0.01 * SLOPE;

/** A step of Newton's along an exponential: as far as the current, not the voltage, would go. Nagel 1975, memorandum ERL-M520, Berkeley, app. 3. @param amps of the exponential at no volts */
function limited(from: number, to: number, amps: number): number {
  if (Math.abs(to - from) <= SMALL) return to;
  if (to < from && from > 0) {
    // Down as far as the current falls: by volts it would take a step for each slope. Where none is left it blocks.
    const left = 1 + (to - from) / SLOPE;
    const down = left > 0 ? from + SLOPE * Math.log(left) : 0;
    return Math.min(to, Math.max(down, 0));
  }
  if (Math.abs(to - from) <= 2 * SLOPE || to <= critical(amps)) return to;
  if (from <= 0) return SLOPE * Math.log(Math.max(to / SLOPE, 1.0001));
  const grown = 1 + (to - from) / SLOPE;
  return grown > 0 ? from + SLOPE * Math.log(grown) : critical(amps);
}

/** Volts at which an exponential of so small a current at none is as steep as one volt an ampere. */
const critical = (amps: number) => SLOPE * Math.log(SLOPE / (Math.SQRT2 * amps));

/** The state of a junction is the voltage across it by itself. */
export const JUNCTION_BEND: Bend<JunctionLaw> = {
  start: (law) => critical(law.saturation),
  line: (law, state): Line => {
    const { amps, siemens } = at(law, state);
    const ohms = 1 / siemens + law.series;
    return { ohms, volts: sign(law) * (state + law.series * amps - ohms * amps) };
  },
  next: (law, state, volts, amps) => {
    const s = sign(law);
    const to = s * volts - law.series * s * amps;
    const forward = limited(state, to, law.saturation);
    if (law.zener === undefined) return forward;
    // The same the other way round, counted from where it breaks down.
    const knee = law.zener - law.series * ZENER_AMPS;
    const origin = knee - SLOPE * Math.log(ZENER_AMPS / LEAST_BROKEN);
    return forward < -origin ? -origin - limited(-origin - state, -origin - forward, LEAST_BROKEN) : forward;
  },
  step: 2 * SLOPE,
  // One more of Newton's steps leaves the square of the last, in slopes: so far it need not go.
  rests: (_, state, next, within) =>
    Math.abs(next - state) <= 0.1 * Math.sqrt(SLOPE * within) + within * Math.abs(next),
  // At a given current: none of it where it blocks, all of it where the exponential carries all.
  moves: (law, state) => {
    const { siemens, owed } = at(law, state);
    const share = owed / siemens;
    return sign(law) * (law.zener ?? law.forward) * (Math.abs(share) > LEAST_SHARE ? share : LEAST_SHARE);
  },
};

/** Not quite nothing, so that it is there to grow where a fault brings the junction to its knee. */
const LEAST_SHARE = 1e-10;
/** Amperes from which on a breakdown counts. */
const LEAST_BROKEN = 1e-9;

/** Volts across a junction at a current from anode to cathode. */
export function junctionVolts(law: JunctionLaw, amps: number): number {
  const i = sign(law) * amps;
  let state = i > 0 ? SLOPE * Math.log1p(i / law.saturation) : 0;
  for (let round = 0; round < 200; round += 1) {
    const { amps: now, siemens } = at(law, state);
    const next = JUNCTION_BEND.next({ ...law, series: 0 }, state, sign(law) * (state + (i - now) / siemens), 0);
    const isDone = Math.abs(next - state) <= 1e-12 * Math.max(1, Math.abs(next));
    state = next;
    if (isDone) break;
  }
  return sign(law) * (state + law.series * i);
}

/** With other volts: those at which it breaks down, of one that is made for that. */
export function valuedJunction(law: JunctionLaw, volts: number): JunctionLaw {
  return law.zener === undefined ? junctionOf({ ...law, forward: volts }) : { ...law, zener: volts };
}

export const scaledJunction = (law: JunctionLaw, factor: number): JunctionLaw =>
  valuedJunction(law, (law.zener ?? law.forward) * factor);
