import { describe, expect, it } from "vitest";
import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { readTrail } from "../notation/index.ts";
import { type Meter, meterData } from "../record/index.ts";
import { CAUTION_IDS, type CautionId, type CautionPlace, cautionsFor, type Doing, safetyFacts } from "./index.ts";

interface Bench {
  readonly trail?: string;
  readonly meter?: Meter;
  readonly wet?: boolean;
  readonly doing?: Doing;
  readonly place?: CautionPlace;
}

const factsOf = ({ trail = "BT1 12V ri=1: R1 100 + [A] R2 100", meter = {}, wet = false }: Bench) =>
  safetyFacts(buildNetwork(readTrail(trail).circuit as Circuit), meterData(meter), wet);
const said = (bench: Bench) => cautionsFor(bench.place ?? "coach", factsOf(bench), bench.doing);
const rated = (volts: number): Meter => ({ category: { class: "III", volts }, leads: { volts } });

/** Of every row: what sets it off, and what comes close and does not. */
const TRIGGERS: Record<CautionId, { readonly on: readonly Bench[]; readonly off: readonly Bench[] }> = {
  mains: {
    on: [{ trail: "G1 230V mains ri=1: R1 1k" }, { trail: "G1 12V mains ri=1: R1 1k", place: "print" }],
    off: [{ trail: "G1 24V ac ri=1: R1 1k" }, {}],
  },
  shock: {
    on: [
      { trail: "PS1 61V ri=1: R1 1k" },
      { trail: "PS1 31V ac ri=1: R1 1k", place: "breadboard" },
      { trail: "PS1 31V ri=1: R1 1k", wet: true, place: "whatif" },
      { trail: "PS1 13V ac ri=1: R1 1k", wet: true, place: "suspects" },
      // Between the outer ends of two supplies with a node between them, never seen against the reference.
      { trail: "BT1 40V ri=1: [P] R1 1k + [M] R2 1k + BT2 40V + [N] R3 1k" },
      // Only an open lets it be seen: the load pulls it down as drawn.
      { trail: "PS1 70V ri=100: R1 100", place: "print" },
    ],
    off: [
      { trail: "PS1 59V ri=1: R1 1k" },
      { trail: "PS1 29V ac ri=1: R1 1k" },
      { trail: "PS1 29V ri=1: R1 1k", wet: true },
      { trail: "G1 230V mains ri=1: R1 1k" },
    ],
  },
  meterRating: {
    on: [
      { trail: "PS1 48V ri=1: R1 1k", meter: rated(30) },
      { trail: "G1 12V mains ri=1: R1 1k", meter: { name: "plain" } },
      { trail: "PS1 48V ri=1: R1 1k", meter: { ...rated(600), others: [{ leads: { volts: 30 } }] } },
    ],
    off: [
      { trail: "PS1 48V ri=1: R1 1k", meter: rated(60) },
      { trail: "G1 12V mains ri=1: R1 1k", meter: rated(600) },
    ],
  },
  powerOff: {
    on: (["ohms", "current", "lift", "swap", "alone"] as const).map((kind) => ({ doing: { kind } })),
    off: [{ doing: { kind: "voltage" } }, { doing: { kind: "look" } }, {}],
  },
  winding: {
    on: [{ trail: "BT1 12V ri=1: K1 100", doing: { kind: "current", part: "K1" } }],
    off: [
      { trail: "BT1 12V ri=1: K1 100", doing: { kind: "voltage" } },
      { trail: "BT1 12V ri=1: R1 100", doing: { kind: "lift" } },
    ],
  },
  ampereSocket: {
    on: [{ doing: { kind: "current" } }],
    off: [{ doing: { kind: "voltage" } }, { doing: { kind: "ohms" } }],
  },
  meterFuse: {
    on: [{ doing: { kind: "current", amps: 0.3, fuse: 0.25 } }],
    off: [{ doing: { kind: "current", amps: 0.2, fuse: 0.25 } }, { doing: { kind: "current", amps: 3 } }],
  },
  strongSupply: {
    on: [
      { trail: "BT1 12V ri=0.01: R1 100" },
      { trail: "BT1 12V ri=0.01: R1 100", place: "breadboard" },
      // Just what is usual, but written.
      { trail: "BT1 12V ri=0.05: R1 100" },
    ],
    off: [
      { trail: "BT1 12V ri=1: R1 100" },
      { trail: "PS1 12V ri=0.01 limit=2A: R1 100" },
      { trail: "PS1 12V ri=0: R1 100" },
      // Nobody wrote what it has inside.
      { trail: "BT1 9V: R1 100" },
    ],
  },
  overRating: {
    on: [{ trail: "BT1 12V ri=0: R1 100 0.25W" }],
    off: [{ trail: "BT1 12V ri=0: R1 1k 0.25W" }, { trail: "BT1 12V ri=0: R1 100" }],
  },
  hot: {
    on: [{ trail: "BT1 12V ri=0: R1 100 2W", doing: { kind: "voltage", part: "R1" } }],
    off: [
      { trail: "BT1 12V ri=0: R1 100 5W", doing: { kind: "voltage", part: "R1" } },
      { trail: "BT1 12V ri=0: R1 100 2W", doing: { kind: "voltage", part: "BT1" } },
    ],
  },
  hotUnderFault: {
    on: [
      {
        place: "whatif",
        doing: { kind: "imagine", overloads: [{ part: "R1", value: 2, rating: 0.5, unit: "W" }] },
      },
    ],
    off: [{ place: "whatif", doing: { kind: "imagine", overloads: [] } }],
  },
  coldFirst: {
    on: [{ trail: "BT1 12V ri=1: LA1 12V 5W", doing: { kind: "swap", part: "LA1" } }],
    off: [
      { trail: "BT1 12V ri=1: LA1 12V 5W", doing: { kind: "voltage", part: "LA1" } },
      { trail: "BT1 12V ri=1: R1 10 + LA1 12V 5W", doing: { kind: "swap", part: "R1" } },
    ],
  },
  neverShort: {
    on: [{ place: "whatif", doing: { kind: "imagine", isShort: true } }],
    off: [
      { place: "whatif", doing: { kind: "imagine" } },
      { place: "coach", doing: { kind: "imagine", isShort: true } },
    ],
  },
  notOnBreadboard: {
    on: [{ place: "breadboard", trail: "G1 12V mains ri=1: R1 1k" }],
    off: [{ place: "breadboard" }, { place: "coach", trail: "G1 12V mains ri=1: R1 1k" }],
  },
  breadboardVolts: {
    on: [{ place: "breadboard", trail: "PS1 48V ri=1: R1 1k" }],
    off: [
      { place: "breadboard", trail: "PS1 24V ri=1: R1 1k" },
      { place: "print", trail: "PS1 48V ri=1: R1 1k" },
    ],
  },
  breadboardAmps: {
    on: [{ place: "breadboard", trail: "PS1 12V ri=0.1: R1 4" }],
    off: [{ place: "breadboard", trail: "PS1 12V ri=0.1: R1 40" }],
  },
  general: { on: [{ place: "print" }, { place: "breadboard" }], off: [{ place: "coach" }, { place: "whatif" }] },
};

describe.each(CAUTION_IDS)("the caution “%s”", (id) => {
  it("is said where there is cause, once, and only there", () => {
    for (const bench of TRIGGERS[id].on)
      expect(
        said(bench).filter((c) => c.id === id),
        JSON.stringify(bench),
      ).toHaveLength(1);
    for (const bench of TRIGGERS[id].off)
      expect(
        said(bench).map((c) => c.id),
        JSON.stringify(bench),
      ).not.toContain(id);
  });

  it("never calls anything safe", () => {
    for (const bench of TRIGGERS[id].on) for (const { words } of said(bench)) expect(words).not.toMatch(/\bsafe/i);
  });
});

it("says what hurts at once before what harms a part, with the figures it is about", () => {
  const found = said({ trail: "PS1 70V ri=1: R1 100 1W", doing: { kind: "current", amps: 1, fuse: 0.25, part: "R1" } });
  const dangers = found.map((c) => c.isDanger);
  expect([...dangers].sort((a, b) => Number(b) - Number(a))).toEqual(dangers);
  expect(found[0].words).toMatch(/70\u00a0V DC between two nodes.*prove dead.*licensed/s);
  expect(found.find((c) => c.id === "meterFuse")?.words).toMatch(/1\u00a0A may flow.*250\u00a0mA/);
});
