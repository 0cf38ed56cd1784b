import { buildNetwork, type Circuit, type Network, ohmsOf } from "../circuit/index.ts";
import { type Combined, listed, reducedNetwork, reduceNetwork, relationOf } from "../reduce/index.ts";
import type { Random } from "../simulate/index.ts";
import { choice, type Say, shuffled, solved } from "./drawn.ts";
import type { Question } from "./question.ts";

const MOST_STEPS = 5;
const WRONG = 3;

/** What to fold next, and what comes of it: two questions a step, on the circuit as far as it is folded. */
export function reducingQuestions(circuit: Circuit, random: Random, { print }: Say): Question[] {
  const network = buildNetwork(circuit);
  const solution = solved(network);
  const ohms = network.branches.map((b, k) => solution?.point.ohms[k] ?? ohmsOf(b.law));
  const reduction = reduceNetwork(network, ohms);
  const steps = reduction.steps.slice(0, MOST_STEPS);
  const stop = steps.findIndex((s) => !("result" in s));
  const plain = (stop < 0 ? steps : steps.slice(0, stop)) as readonly Combined[];
  return plain.flatMap((step, done): Question[] => {
    const names = listed(step.parts.map((p) => p.name));
    const right = `${names} in ${step.kind}`;
    const other = `${names} in ${step.kind === "series" ? "parallel" : "series"}`;
    const wrong = [other, ...wrongOnes(reducedNetwork(network, reduction, done), random)].slice(0, WRONG);
    const own = step.parts.map((p) => p.ohms);
    const sum = own.reduce((a, b) => a + b, 0);
    const reciprocals = own.reduce((a, b) => a + 1 / b, 0);
    const slips =
      step.kind === "parallel"
        ? [
            { value: sum, why: "that is their sum, as if they were in series" },
            { value: reciprocals, why: "the reciprocals are added right, the sum is not turned back" },
            { value: own.reduce((a, b) => a * b, 1) / sum, why: "product over sum holds for two, not for three" },
          ]
        : [{ value: 1 / reciprocals, why: "that is what they were in parallel" }];
    const shared = { circuit, fold: done };
    return [
      {
        ...shared,
        ask: "What can be folded into one next?",
        wanted: choice([right, ...wrong], [0], random),
        why: `${step.why}.`,
      },
      {
        ...shared,
        ask: `${names} become ${step.result.name}. How much is it?`,
        parts: step.parts.map((p) => p.name),
        wanted: { kind: "figure", unit: "ohm", value: step.result.ohms, slips },
        why: `${own.map((v) => print(v, "ohm")).join(step.kind === "series" ? " + " : " ‖ ")} = ${print(step.result.ohms, "ohm")}.`,
      },
    ];
  });
}

/** Pairs that cannot be folded there, each said to be one or the other. */
function wrongOnes(network: Network, random: Random): string[] {
  const loads = network.branches.flatMap((b, k) => (b.kind === "supply" ? [] : [k]));
  const pairs = loads.flatMap((a, i) => loads.slice(i + 1).map((b) => [a, b] as const));
  const neither = pairs.filter(([a, b]) => relationOf(network, a, b).kind === "neither");
  return shuffled(neither, random).map(
    ([a, b]) =>
      `${network.branches[a].name} and ${network.branches[b].name} in ${random.next() < 0.5 ? "series" : "parallel"}`,
  );
}
