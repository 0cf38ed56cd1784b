import type { Circuit } from "../circuit/index.ts";
import { drawWorld } from "../practice/index.ts";
import type { Random } from "../simulate/index.ts";
import { broken, type Say, type Solved, shuffled, solved } from "./drawn.ts";
import type { Question } from "./question.ts";

const OPTIONS = ["It rises", "It falls", "It stays as it was"] as const;
const COUNT = 4;
/** Of its own amount: up to the first nothing is to be seen, from the second on anybody sees it. */
const SAME = 0.004;
const SEEN = 0.03;
/** Of the largest amount in the circuit: what is less is as good as nothing. */
const LEAST = 0.002;
const MOST_DRAWS = 20;

interface Quantity {
  readonly of: string;
  readonly before: number;
  readonly after: number;
  readonly unit: "V" | "A";
  /** 0 rises, 1 falls, 2 stays. */
  readonly right: 0 | 1 | 2;
}

/** Predict under a fault, then reveal: what rises, what falls, what stays. */
export function predictingQuestions(circuit: Circuit, random: Random, { print, fault }: Say): Question[] {
  // A supply that fails takes all with it: little to think about.
  const parts = circuit.parts.flatMap((p) => (p.kind === "supply" ? [] : [p.designator]));
  for (let n = 0; n < MOST_DRAWS; n += 1) {
    const seed = Math.floor(random.next() * 2 ** 32);
    const world = drawWorld(circuit, seed, { kinds: ["open", "short", "drift"], parts });
    if (typeof world === "string") return [];
    const { network } = world;
    const [before, after] = [solved(network), solved(broken(network, world.faults))];
    if (!before || !after) continue;
    const moved = shuffled(quantitiesOf(network, before, after), random);
    if (moved.every((q) => q.right === 2)) continue;
    const what = fault(world.faults[0], network);
    // Not all the same, where that can be.
    const kinds = [0, 1, 2].flatMap((right) => moved.filter((q) => q.right === right).slice(0, 1));
    const own = [...new Set([...kinds, ...moved])].slice(0, COUNT);
    return shuffled(own, random).map(
      ({ of, before: was, after: is, unit, right }): Question => ({
        ask: `Suppose ${what}. What becomes of ${of}?`,
        wanted: { kind: "choice", options: OPTIONS, right: [right] },
        why: `${OPTIONS[right]}: from ${print(was, unit)} to ${print(is, unit)}.`,
        circuit,
        parts: world.owners.filter((o) => !o.includes("~")),
      }),
    );
  }
  return [];
}

function quantitiesOf({ nodes, branches, reference }: Solved["network"], before: Solved, after: Solved): Quantity[] {
  const volts = nodes.flatMap((name, n) =>
    n === reference || name.includes(".")
      ? []
      : [
          {
            of: `the volts from ${name} to ${nodes[reference]}`,
            before: before.volts[n],
            after: after.volts[n],
            unit: "V" as const,
          },
        ],
  );
  const amps = branches.flatMap(({ name, kind }, k) => {
    const sign = kind === "supply" ? -1 : 1;
    const own = { before: sign * before.amps[k], after: sign * after.amps[k], unit: "A" as const };
    // A current against its arrow rises with its amount.
    return [{ of: `the current ${kind === "supply" ? "out of" : "through"} ${name}`, ...own }];
  });
  return [volts, amps].flatMap((own) => {
    const most = Math.max(...own.map((q) => Math.abs(q.before)).filter(Number.isFinite), 1e-12);
    return own.flatMap((q): Quantity[] => {
      const by = Math.abs(q.after) - Math.abs(q.before);
      if (!Number.isFinite(by) || q.before * q.after < -1e-12) return [];
      const own = Math.abs(q.before);
      const isSame = Math.abs(by) <= SAME * own;
      if (!isSame && (Math.abs(by) < SEEN * own || Math.abs(by) < LEAST * most)) return [];
      return [{ ...q, right: isSame ? 2 : by > 0 ? 0 : 1 }];
    });
  });
}
