import { buildNetwork, type Circuit, type Network, type Part } from "../circuit/index.ts";
import { listed } from "../reduce/index.ts";
import { drawCircuit, type Random } from "../simulate/index.ts";
import { choice, type Say, type Solved, shuffled, solved } from "./drawn.ts";
import type { Question } from "./question.ts";

const WATTS = [5, 10, 21];
const LAMPS = { least: 3, most: 5 };
/** Lamps that differ by less look alike; only what differs by more is asked about. */
const ALIKE = 0.01;
const APART = 0.12;
/** What is left of volts by rounding. */
const DUST = 1e-6;
/** Below such a share of its volts no lamp is seen to glow. */
const DARK = 0.15;
const MOST_DRAWS = 40;

interface Lamp {
  readonly name: string;
  readonly volts: number;
  readonly rated: number;
  /** Against its own at nominal volts, times its watts. */
  readonly light: number;
}

/** Which lamp is brighter, before and after one is taken out. @param circuit with two lamps or more; null draws one */
export function lampQuestions(circuit: Circuit | null, random: Random, say: Say): Question[] {
  if (circuit && lampsIn(buildNetwork(circuit), null).length < 2) return [];
  for (let n = 0; n < MOST_DRAWS; n += 1) {
    const asked = questionsOn(circuit ?? drawLamps(random), random, say);
    if (asked.length > 1) return asked;
  }
  return [];
}

/** Lamps alone, all alike or of several sizes. */
function drawLamps(random: Random): Circuit {
  const count = LAMPS.least + Math.floor(random.next() * (LAMPS.most - LAMPS.least + 1));
  const areAlike = random.next() < 0.6;
  const drawn = drawCircuit(count, random, { hasBridges: false });
  const parts = drawn.parts.map((p, i): Part => {
    const { from, to } = p;
    if (p.kind === "supply") return { ...p, volts: 12, internalOhms: 0.05 };
    const watts = areAlike ? WATTS[0] : WATTS[Math.floor(random.next() * WATTS.length)];
    return {
      designator: `LA${i}`,
      kind: "lamp",
      from,
      to,
      tolerance: 0.1,
      resistance: { by: "rating", volts: 12, watts },
    };
  });
  return { ...drawn, parts };
}

function questionsOn(circuit: Circuit, random: Random, say: Say): Question[] {
  const network = buildNetwork(circuit);
  const before = lampsIn(network, null);
  const brightest = brightestOf(circuit, before, random, say);
  const gone = shuffled(before, random)[0];
  const after = lampsIn(network, gone.name);
  const rest = shuffled(
    before.filter((l) => l !== gone),
    random,
  ).flatMap((was) => becomes(circuit, was, { after, gone: gone.name, random, say }));
  return [...brightest, ...rest.slice(0, 3)];
}

/** Light of a lamp that is not run at its nominal volts goes with their power of 3.4 (rerating rule of incandescent lamps). */
const LIGHT = 3.4;

/** Lamps as they glow. @param without one that is taken out; null none */
function lampsIn(network: Network, without: string | null): Lamp[] {
  const branches = network.branches.map((b) => (b.name === without ? { ...b, law: { kind: "open" as const } } : b));
  const own = solved({ ...network, branches });
  if (!own) return [];
  const whole = without === null ? own : solved(network);
  return network.branches.flatMap(({ name, part, from, to }): Lamp[] => {
    if (part.kind !== "lamp" || part.resistance.by === "unknown") return [];
    const across = (s: Solved | null) => Math.abs((s?.volts[from] ?? 0) - (s?.volts[to] ?? 0));
    const volts = name === without || !(across(own) > DUST) ? 0 : across(own);
    const { resistance } = part;
    if (resistance.by === "rating")
      return [{ name, volts, rated: resistance.volts, light: resistance.watts * (volts / resistance.volts) ** LIGHT }];
    // One that is written by its ohms glows as drawn; its light goes with its watts.
    return [{ name, volts, rated: across(whole), light: volts ** 2 / resistance.ohms }];
  });
}

function brightestOf(circuit: Circuit, lamps: readonly Lamp[], random: Random, { print }: Say): Question[] {
  const sorted = [...lamps].sort((a, b) => b.light - a.light);
  const most = sorted[0].light;
  const top = sorted.filter((l) => l.light > most * (1 - ALIKE));
  const next = sorted[top.length];
  if (next && next.light > most * (1 - APART)) return [];
  const areAlike = top.length === lamps.length;
  const names = shuffled(
    lamps.map((l) => l.name),
    random,
  );
  const options = [...names, "all alike"];
  const said = lamps.map((l) => `${l.name} ${print(l.volts, "V")}`).join(", ");
  return [
    {
      ask: "Which lamp is the brightest?",
      wanted: {
        kind: "choice",
        options,
        right: areAlike ? [names.length] : top.map((l) => names.indexOf(l.name)),
      },
      why: `Across them: ${said}. ${areAlike ? "All alike" : `${listed(top.map((l) => l.name))} ${top.length === 1 ? "is" : "are, alike,"} the brightest`}.`,
      circuit,
      parts: lamps.map((l) => l.name),
    },
  ];
}

const BECOMES = ["brighter", "dimmer", "as it was", "dark"] as const;

function becomes(
  circuit: Circuit,
  was: Lamp,
  { after, gone, random, say }: { after: readonly Lamp[]; gone: string; random: Random; say: Say },
): Question[] {
  const is = after.find((l) => l.name === was.name);
  if (!is || was.volts < DARK * was.rated) return [];
  const by = is.volts / was.volts - 1;
  if (Math.abs(by) > ALIKE && Math.abs(by) < APART / 2) return [];
  const right = is.volts < DARK * is.rated ? 3 : Math.abs(by) <= ALIKE ? 2 : by > 0 ? 0 : 1;
  return [
    {
      ask: `${gone} is taken out. What becomes of ${was.name}?`,
      wanted: choice(BECOMES, [right], random),
      why: `${was.name} has ${say.print(was.volts, "V")} before and ${say.print(is.volts, "V")} afterwards: ${BECOMES[right]}.`,
      circuit,
      parts: [gone, was.name],
    },
  ];
}
