import type { Circuit } from "../circuit/index.ts";
import { applyEdits, readTrail } from "../notation/index.ts";
import { parseQuantity, type Unit } from "../units/index.ts";
import type { Tangle } from "./tangle.ts";
import { firstDifference } from "./wiring.ts";

/** What is wanted as an answer. */
export type Wanted =
  /** One of several; any of those named is right. */
  | { readonly kind: "choice"; readonly options: readonly string[]; readonly right: readonly number[] }
  /** Each is to be ticked or not. */
  | { readonly kind: "ticks"; readonly options: readonly string[]; readonly right: readonly boolean[] }
  /** A figure with its sign, in SI units; with what is easily had instead, and why that is wrong. */
  | {
      readonly kind: "figure";
      readonly unit: Unit;
      readonly value: number;
      readonly slips: readonly { readonly value: number; readonly why: string }[];
    }
  /** A circuit, typed as a trail. */
  | { readonly kind: "circuit"; readonly circuit: Circuit };

/** One question on paper, with its answer and the reason. */
export interface Question {
  readonly ask: string;
  readonly wanted: Wanted;
  readonly why: string;
  /** The circuit beside it; null where there is none to be seen. */
  readonly circuit: Circuit | null;
  /** Parts that it is about, lit on the board. */
  readonly parts?: readonly string[];
  /** Where red and black are held, by nodes. */
  readonly leads?: { readonly red: string; readonly black: string };
  /** Steps of the reduction that are done by then. */
  readonly fold?: number;
  readonly tangle?: Tangle;
}

/** A number of the option, what is ticked, or what was typed. */
export type Answer = number | readonly boolean[] | string;

export interface AnswerMark {
  /** How much of it is right. */
  readonly share: number;
  /** What is to be said of it besides the reason; "" where nothing is. */
  readonly said: string;
}

/** A typed figure is right to so much, or to half its last digit. */
const NEAR = 0.015;

/** Marks an answer. @returns what cannot be read as one, and why */
export function markAnswer({ wanted }: Question, answer: Answer): AnswerMark | string {
  switch (wanted.kind) {
    case "choice":
      return { share: wanted.right.includes(answer as number) ? 1 : 0, said: "" };
    case "ticks": {
      const ticked = answer as readonly boolean[];
      const held = wanted.right.filter((r, i) => r === (ticked[i] ?? false)).length;
      return { share: held / wanted.right.length, said: "" };
    }
    case "figure":
      return markFigure(wanted, String(answer));
    case "circuit":
      return markCircuit(wanted.circuit, String(answer));
    default:
      return wanted satisfies never;
  }
}

function markFigure({ unit, value, slips }: Extract<Wanted, { kind: "figure" }>, typed: string): AnswerMark | string {
  const read = parseQuantity(typed);
  if (read.kind === "mistake") return read.why;
  if (read.unit !== null && read.unit !== unit) return `${read.unit} where ${unit} belong`;
  const isNear = (due: number) =>
    Math.abs(read.value - due) <= Math.max(read.step / 2, NEAR * Math.abs(due)) * (1 + 1e-9);
  if (isNear(value)) return { share: 1, said: "" };
  if (isNear(-value)) return { share: 0, said: "the amount is right, the sign is not" };
  const slip = slips.find((s) => isNear(s.value) || isNear(-s.value));
  if (slip) return { share: 0, said: slip.why };
  const tens = Math.log10(Math.abs(read.value / value));
  if (Math.abs(tens - Math.round(tens)) < 0.005 && Math.round(tens) !== 0)
    return { share: 0, said: "the digits are right, the prefix or the decimal point is not" };
  return { share: 0, said: "" };
}

function markCircuit(due: Circuit, typed: string): AnswerMark | string {
  const { circuit, mistakes } = readWiring(typed);
  const [mistake] = mistakes;
  if (!circuit || mistake) return mistake ? mistake.message : "there is no circuit in it";
  const difference = firstDifference(due, circuit);
  return difference === null ? { share: 1, said: "" } : { share: 0, said: difference };
}

/** Reads how parts are joined: a value that nobody wrote is left open, as none matters there. */
function readWiring(typed: string) {
  let text = typed;
  for (;;) {
    const read = readTrail(text);
    const open = read.mistakes.find(({ fix }) => fix?.edits.every((edit) => edit.insert.trim() === "?"))?.fix;
    if (!open) return read;
    text = applyEdits(text, open.edits);
  }
}
