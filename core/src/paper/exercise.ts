import { z } from "zod";
import { buildNetwork, type Circuit, type NodeName } from "../circuit/index.ts";
import { drawCircuit, type Random, seededRandom } from "../simulate/index.ts";
import { type Say, solved } from "./drawn.ts";
import { lampQuestions } from "./lamps.ts";
import { meterQuestions } from "./meterShows.ts";
import { predictingQuestions } from "./predicting.ts";
import type { Question } from "./question.ts";
import { reducingQuestions } from "./reducing.ts";
import { relationQuestions } from "./relations.ts";
import { rulingOutQuestions } from "./rulingOut.ts";
import { tangledQuestions } from "./tangled.ts";

interface KindRow {
  readonly name: string;
  readonly about: string;
  /** Parts besides the supply of a circuit that is drawn for it, from and to. */
  readonly parts: readonly [number, number];
  readonly hasBridges: boolean;
}

/** Exercises on paper, in the order one learns by. */
export const PAPER_KINDS = {
  relation: {
    name: "Series, parallel or neither?",
    about: "Two parts of a circuit: one current, one voltage, or neither of them.",
    parts: [4, 7],
    hasBridges: true,
  },
  lamps: {
    name: "Which lamp is brighter?",
    about: "Lamps in series and in parallel, before and after one is taken out.",
    parts: [3, 5],
    hasBridges: false,
  },
  reduce: {
    name: "What folds next?",
    about: "Fold a circuit into one resistance, step by step, and say what each step makes.",
    parts: [4, 6],
    hasBridges: false,
  },
  chart: {
    name: "Fill the chart",
    about: "Volts, amperes and watts of every part, each marked at once, with the likely slip.",
    parts: [3, 5],
    hasBridges: false,
  },
  meter: {
    name: "What does the meter show?",
    about: "Function, place and sign: volts between two points, a current in its branch, ohms in the circuit.",
    parts: [3, 6],
    hasBridges: false,
  },
  tangled: {
    name: "A tangled drawing",
    about: "The same circuit as the board, or another? Then walk one with a finger and type it.",
    parts: [4, 6],
    hasBridges: false,
  },
  predict: {
    name: "Predict, then reveal",
    about: "A part fails: what rises, what falls, what stays?",
    parts: [4, 7],
    hasBridges: false,
  },
  ruleOut: {
    name: "What does it rule out?",
    about: "One reading, a few faults: which of them cannot be?",
    parts: [4, 7],
    hasBridges: false,
  },
} as const satisfies Record<string, KindRow>;
export const PaperKind = z.enum(
  Object.keys(PAPER_KINDS) as [keyof typeof PAPER_KINDS, ...(keyof typeof PAPER_KINDS)[]],
);
export type PaperKind = z.infer<typeof PaperKind>;

/** Circuits that are drawn before one serves. */
const MOST_DRAWS = 30;

/** An exercise: its circuit, and what is asked of it. A chart asks for all of its cells. */
export interface Exercise {
  readonly kind: PaperKind;
  readonly seed: number;
  readonly circuit: Circuit;
  readonly questions: readonly Question[];
}

/**
 * Draws an exercise; the same seed draws the same.
 * @param circuit null draws one of its own
 * @returns why there is none in this circuit, where there is none
 */
export function drawExercise(kind: PaperKind, seed: number, circuit: Circuit | null, say: Say): Exercise | string {
  const random = seededRandom(seed);
  if (circuit) {
    const open = circuit.parts.find((p) =>
      p.kind === "supply" ? p.volts === null : "resistance" in p && p.resistance.by === "unknown",
    );
    if (open) return `${open.designator} has no value: nobody can work it out on paper`;
    const exercise = exerciseIn(kind, seed, circuit, { random, say });
    return exercise ?? `there is no such question in this circuit: ${PAPER_KINDS[kind].name}`;
  }
  const { parts, hasBridges } = PAPER_KINDS[kind];
  for (let n = 0; n < MOST_DRAWS; n += 1) {
    const count = parts[0] + Math.floor(random.next() * (parts[1] - parts[0] + 1));
    const drawn = plainly(drawCircuit(count, random, { hasBridges }));
    const exercise = exerciseIn(kind, seed, drawn, { random, say, isDrawn: true });
    if (exercise) return exercise;
  }
  return "no circuit for it was found";
}

/** Circuits that are drawn for paper: resistors and an ideal supply, nodes by letters from plus to minus. */
function plainly(circuit: Circuit): Circuit {
  const own = { ...circuit, parts: resistorsOf(circuit) };
  const network = buildNetwork(own);
  const volts = solved(network)?.volts;
  if (!volts) return own;
  const order = [...network.nodes.keys()].sort((a, b) => volts[b] - volts[a]).filter((n) => n !== network.reference);
  const names = new Map(order.map((n, i) => [network.nodes[n], letterOf(i) as NodeName]));
  const called = (node: NodeName) => names.get(node) ?? node;
  return { ...own, parts: own.parts.map((p) => ({ ...p, from: called(p.from), to: called(p.to) })) };
}

/** A, B, … Z, A1, B1, … */
const letterOf = (i: number) => `${String.fromCharCode(65 + (i % 26))}${i < 26 ? "" : Math.floor(i / 26)}`;

function resistorsOf(circuit: Circuit): Circuit["parts"] {
  return circuit.parts.map((p, i): Circuit["parts"][number] => {
    const { from, to } = p;
    if (p.kind === "supply") return { ...p, internalOhms: 0 };
    if ("resistance" in p && p.resistance.by === "ohms")
      return { designator: `R${i}`, kind: "resistor", from, to, tolerance: 0.05, resistance: p.resistance };
    return { designator: `R${i}`, kind: "resistor", from, to, tolerance: 0.05, resistance: { by: "ohms", ohms: 100 } };
  });
}

interface Drawing {
  readonly random: Random;
  readonly say: Say;
  readonly isDrawn?: boolean;
}

function exerciseIn(kind: PaperKind, seed: number, circuit: Circuit, how: Drawing): Exercise | null {
  const network = buildNetwork(circuit);
  if (!solved(network) || !network.branches.some((b) => b.kind === "supply")) return null;
  const questions = questionsOf(kind, circuit, how);
  const own = kind === "lamps" ? (questions[0]?.circuit ?? circuit) : circuit;
  return questions.length > 0 || kind === "chart" ? { kind, seed, circuit: own, questions } : null;
}

function questionsOf(kind: PaperKind, circuit: Circuit, { random, say, isDrawn }: Drawing): Question[] {
  switch (kind) {
    case "relation":
      return relationQuestions(circuit, random);
    case "lamps":
      return lampQuestions(isDrawn ? null : circuit, random, say);
    case "reduce":
      return reducingQuestions(circuit, random, say);
    case "meter":
      return meterQuestions(circuit, random, say);
    case "tangled":
      return tangledQuestions(circuit, random);
    case "predict":
      return predictingQuestions(circuit, random, say);
    case "ruleOut":
      return rulingOutQuestions(circuit, random, say);
    case "chart":
      return [];
    default:
      return kind satisfies never;
  }
}
