import type { Circuit, Network } from "../circuit/index.ts";
import { equivalentBetween } from "../rank/index.ts";
import { idealMeter } from "../record/index.ts";
import type { Random } from "../simulate/index.ts";
import { choice, loadsOf, pick, type Say, type Solved, shuffled, solved } from "./drawn.ts";
import type { Question } from "./question.ts";

/** Below such a share of the supply nobody reads a voltage. */
const LEAST = 0.01;

/** What does the meter show: volts with their sign, a current with its direction, ohms in the circuit and out of it, and a trap. */
export function meterQuestions(circuit: Circuit, random: Random, say: Say): Question[] {
  const { network, loads } = loadsOf(circuit);
  const solution = solved(network);
  if (!solution) return [];
  const volts = shuffled(pairsOf(network, solution), random)
    .slice(0, 2)
    .map((pair) => voltsQuestion(circuit, network, solution, { pair, random, say }));
  const flows = loads.filter((k) => Math.abs(solution.amps[k]) > 1e-6);
  const amps =
    flows.length > 0 ? [ampsQuestion(circuit, network, solution, { k: pick(flows, random), random, say })] : [];
  return [
    ...volts,
    ...amps,
    ...ohmsQuestions(circuit, network, { loads, random, say }),
    trap(circuit, network, { loads, random }),
  ];
}

function pairsOf({ nodes }: Network, { volts }: Solved): [number, number][] {
  const most = Math.max(...volts.filter(Number.isFinite).map(Math.abs));
  const all = [...nodes.keys()].filter((n) => Number.isFinite(volts[n]) && !nodes[n].includes("."));
  return all.flatMap((a, i) =>
    all.slice(i + 1).flatMap((b): [number, number][] => (Math.abs(volts[a] - volts[b]) > LEAST * most ? [[a, b]] : [])),
  );
}

interface Drawing {
  readonly random: Random;
  readonly say: Say;
}

function voltsQuestion(
  circuit: Circuit,
  { nodes }: Network,
  { volts }: Solved,
  { pair, random, say: { print } }: Drawing & { readonly pair: readonly [number, number] },
): Question {
  const [r, b] = random.next() < 0.5 ? pair : [pair[1], pair[0]];
  const [red, black] = [nodes[r], nodes[b]];
  const value = volts[r] - volts[b];
  const sums = volts[r] + volts[b];
  return {
    ask: `Volts, red at ${red}, black at ${black}: what does the meter show, with its sign?`,
    wanted: { kind: "figure", unit: "V", value, slips: [{ value: sums, why: "the two are subtracted, not added" }] },
    why: `${red} is at ${print(volts[r], "V")}, ${black} at ${print(volts[b], "V")}: ${print(value, "V")}${value < 0 ? ", minus as red is at the lower one" : ""}.`,
    circuit,
    leads: { red, black },
  };
}

function ampsQuestion(
  circuit: Circuit,
  { nodes, branches }: Network,
  { amps }: Solved,
  { k, random, say: { print } }: Drawing & { readonly k: number },
): Question {
  const { name, from, to } = branches[k];
  const atFrom = random.next() < 0.5;
  const node = nodes[atFrom ? from : to];
  // Out of the node into the part, where the part begins there.
  const into = atFrom ? amps[k] : -amps[k];
  const isRedAtNode = random.next() < 0.5;
  const value = isRedAtNode ? into : -into;
  const [red, black] = isRedAtNode ? [node, `${name}’s free end`] : [`${name}’s free end`, node];
  const doubled = branches.map((b, n) => ({ name: b.name, value: amps[n] })).filter((b) => b.name !== name);
  return {
    ask: `Amperes: ${name} is taken off ${node}, and the meter goes between. Red at ${red}, black at ${black}. What does it show, with its sign?`,
    wanted: {
      kind: "figure",
      unit: "A",
      value,
      slips: doubled
        .filter((b) => Math.abs(Math.abs(b.value) - Math.abs(value)) > 0.03 * Math.abs(value))
        .map((b) => ({ value: b.value, why: `that is the current of ${b.name}` })),
    },
    why: `${print(Math.abs(value), "A")} flow ${into > 0 ? `from ${node} into ${name}` : `out of ${name} to ${node}`}; a current that enters at red is plus: ${print(value, "A")}.`,
    circuit,
    parts: [name],
  };
}

function ohmsQuestions(
  circuit: Circuit,
  network: Network,
  { loads, random, say: { print } }: Drawing & { readonly loads: readonly number[] },
): Question[] {
  const { nodes, branches } = network;
  const meter = idealMeter({});
  const fixed = shuffled(loads, random).filter((k) => branches[k].kind === "resistor");
  return fixed.slice(0, 1).flatMap((k): Question[] => {
    const { name, from, to, law } = branches[k];
    const seen = equivalentBetween(network, nodes[from], nodes[to], meter);
    if (law.kind !== "resistance" || !seen || !Number.isFinite(seen.offOhms)) return [];
    const own = law.ohms;
    const isAlone = Math.abs(seen.offOhms - own) < 0.02 * own;
    return [
      {
        ask: `Power off, every supply disconnected. Ohms across ${name}, both leads in place: what does the meter show?`,
        wanted: {
          kind: "figure",
          unit: "ohm",
          value: seen.offOhms,
          slips: isAlone
            ? []
            : [{ value: own, why: `that is ${name} alone: what is parallel to it is measured with it` }],
        },
        why: isAlone
          ? `Nothing else joins its two ends with the supplies off: ${print(seen.offOhms, "ohm")}, ${name} alone.`
          : `All else between ${nodes[from]} and ${nodes[to]} lies parallel to its ${print(own, "ohm")}: ${print(seen.offOhms, "ohm")}.`,
        circuit,
        parts: [name],
        leads: { red: nodes[from], black: nodes[to] },
      },
    ];
  });
}

const TRAPS = [
  {
    ask: (part: string) => `The dial is on amperes, and the leads lie across ${part}, with the power on. What happens?`,
    right: "The meter is nearly a short: far too much flows, its fuse goes",
    wrong: (part: string) => [`It shows the current of ${part}`, "It shows nothing, and nothing happens"],
    why: "A meter on amperes has next to no ohms. It goes into a branch, never across two points.",
  },
  {
    ask: (part: string) =>
      `The dial is on ohms, the leads lie across ${part}, and the power is still on. What does it show?`,
    right: "Nonsense, and it may harm the meter",
    wrong: (part: string) => [`The ohms of ${part}`, "Zero"],
    why: "An ohmmeter sends a current of its own and reads its voltage: what the circuit adds makes nonsense of it.",
  },
  {
    ask: (part: string) =>
      `The dial is on volts, ${part} is open inside, and the leads lie across it. What does it show?`,
    right: "What drives the current that cannot flow: as a rule most of the supply",
    wrong: () => ["Zero, as nothing flows through it", "Its usual voltage"],
    why: "Where nothing flows nothing else drops anything in that branch: all of it stands across the open place.",
  },
] as const;

function trap(
  circuit: Circuit,
  { branches }: Network,
  { loads, random }: { readonly loads: readonly number[]; readonly random: Random },
): Question {
  const part = branches[pick(loads, random)].name;
  const { ask, right, wrong, why } = pick(TRAPS, random);
  return { ask: ask(part), wanted: choice([right, ...wrong(part)], [0], random), why, circuit, parts: [part] };
}
