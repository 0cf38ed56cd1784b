import type { Circuit } from "@hound/core/circuit";
import type { Judgement } from "@hound/core/judgement";
import { readTrail } from "@hound/core/notation";
import type { Suggestion } from "@hound/core/plan";

/** A chain of three, and what a judgement of it may propose. */
export const circuit = readTrail("BT1 9V: R1 1k + [A] R2 1k + [B] R3 1k").circuit as Circuit;
export const volts = (from: string, bits: number, to?: string): Suggestion => ({
  measurement: {
    kind: "voltage",
    minutes: 0.5,
    reading: { quantity: "voltage", from, value: 0, ...(to ? { to } : {}) },
  },
  informationBits: bits,
  settles: 0,
  predictions: [],
});
export const swap: Suggestion = {
  measurement: { kind: "swap", part: "R1", minutes: 6 },
  informationBits: 2,
  settles: 0,
  predictions: [],
};
export const amps: Suggestion = {
  measurement: { kind: "current", minutes: 4, reading: { quantity: "current", through: "R2", value: 0 } },
  informationBits: 0.4,
  settles: 0,
  predictions: [],
};
export const judgement = (...next: Suggestion[]): Judgement => ({
  next,
  toSettle: 1,
  verdict: { kind: "open" },
  proofs: [],
  meters: [],
});
