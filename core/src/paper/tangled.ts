import { buildNetwork, type Circuit } from "../circuit/index.ts";
import type { Random } from "../simulate/index.ts";
import { pick, shuffled } from "./drawn.ts";
import type { Question } from "./question.ts";
import { tangleOf } from "./tangle.ts";
import { firstDifference } from "./wiring.ts";

const OPTIONS = ["It is the same circuit", "It is another one"] as const;
const MOST_DRAWS = 60;

/** A tangled drawing beside a board: the same circuit or another? Then one to be retraced. */
export function tangledQuestions(circuit: Circuit, random: Random): Question[] {
  const network = buildNetwork(circuit);
  const other = random.next() < 0.5 ? null : rewired(circuit, random);
  const difference = other && firstDifference(circuit, other);
  return [
    {
      ask: "Is the drawing the same circuit as the board?",
      wanted: { kind: "choice", options: OPTIONS, right: [other ? 1 : 0] },
      why: difference
        ? `It is another one: ${difference}.`
        : "The same parts meet at the same points, whatever it looks like.",
      circuit: other ?? circuit,
      tangle: tangleOf(network, random),
    },
    {
      ask: "Walk it from the supply’s plus to its minus, and type what comes.",
      wanted: { kind: "circuit", circuit },
      why: "What shares a dot, or a plain wire, is one point; what only crosses is not joined.",
      circuit: null,
      tangle: tangleOf(network, random),
    },
  ];
}

/** The same parts joined otherwise: one end moved to another node, or two parts in each other's place. */
function rewired(circuit: Circuit, random: Random): Circuit | null {
  const nodes = [...new Set(circuit.parts.flatMap((p) => [p.from, p.to]))];
  const loads = circuit.parts.filter((p) => p.kind !== "supply");
  for (let n = 0; n < MOST_DRAWS; n += 1) {
    const [a, b] = shuffled(loads, random);
    const moved =
      random.next() < 0.5 && b
        ? circuit.parts.map((p) =>
            p === a ? { ...p, from: b.from, to: b.to } : p === b ? { ...p, from: a.from, to: a.to } : p,
          )
        : circuit.parts.map((p) => (p === a ? { ...p, to: pick(nodes, random) } : p));
    const own = { ...circuit, parts: moved };
    // Nothing hangs loose, nothing is shorted, and it is another one.
    const ends = moved.flatMap((p) => [p.from, p.to]);
    const isWhole = nodes.every((node) => ends.filter((e) => e === node).length > 1);
    const isSound = moved.every((p) => p.from !== p.to);
    if (isWhole && isSound && firstDifference(circuit, own) !== null) return own;
  }
  return null;
}
