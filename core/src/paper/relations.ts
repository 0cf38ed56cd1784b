import type { Circuit } from "../circuit/index.ts";
import { relationOf } from "../reduce/index.ts";
import type { Random } from "../simulate/index.ts";
import { loadsOf, pick, shuffled } from "./drawn.ts";
import type { Question } from "./question.ts";

const OPTIONS = ["in series", "in parallel", "neither"] as const;
const KINDS = ["series", "parallel", "neither"] as const;
const COUNT = 5;

/** Series, parallel or neither, of two parts: of each kind at least one where the circuit has one. */
export function relationQuestions(circuit: Circuit, random: Random): Question[] {
  const { network, loads } = loadsOf(circuit);
  const pairs = loads.flatMap((a, i) => loads.slice(i + 1).map((b) => ({ a, b, is: relationOf(network, a, b) })));
  const byKind = KINDS.map((kind) =>
    shuffled(
      pairs.filter((p) => p.is.kind === kind),
      random,
    ),
  );
  const taken: typeof pairs = [];
  while (taken.length < COUNT) {
    const open = byKind.filter((list) => list.length > 0);
    if (open.length === 0) break;
    // Each kind has its turn first, then any.
    const own = taken.length < KINDS.length ? (byKind[taken.length] ?? []) : pick(open, random);
    const next = (own.length > 0 ? own : open[0]).pop();
    if (next) taken.push(next);
  }
  return shuffled(taken, random).map(({ a, b, is }): Question => {
    const [one, other] = [network.branches[a].name, network.branches[b].name];
    return {
      ask: `How do ${one} and ${other} lie to each other?`,
      wanted: { kind: "choice", options: OPTIONS, right: [KINDS.indexOf(is.kind)] },
      why: `${is.why}.`,
      circuit,
      parts: [one, other],
    };
  });
}
