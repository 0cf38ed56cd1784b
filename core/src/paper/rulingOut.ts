import type { Circuit, Network } from "../circuit/index.ts";
import { bridgeCandidates, type FaultAt, priorData, sitesOf } from "../faults/index.ts";
import { drawWorld } from "../practice/index.ts";
import { expectReadings } from "../rank/index.ts";
import { type NumericReading, SHIPPED_METERS } from "../record/index.ts";
import type { Random } from "../simulate/index.ts";
import { broken, type Say, shuffled } from "./drawn.ts";
import type { Question } from "./question.ts";

const OPTIONS = 5;
const COUNT = 2;
const MOST_DRAWS = 30;
/** So many of its limits away a reading speaks against a fault beyond doubt; so many it agrees with it. */
const FAR = 2.5;
const NEAR = 0.6;
/** Of the supply: what differs by less is seen by no eye. */
const PLAIN = 0.015;

/** Which faults does this reading rule out? One reading, a few faults, each foretold by itself. */
export function rulingOutQuestions(circuit: Circuit, random: Random, say: Say): Question[] {
  const questions: Question[] = [];
  const asked = new Set<string>();
  for (let n = 0; n < MOST_DRAWS && questions.length < COUNT; n += 1) {
    const world = drawWorld(circuit, Math.floor(random.next() * 2 ** 32), { kinds: ["open", "short"] });
    if (typeof world === "string") return questions;
    const { network } = world;
    const own = questionOf(circuit, network, world.faults[0], { random, say });
    if (!own || asked.has(own.ask)) continue;
    asked.add(own.ask);
    questions.push(own);
  }
  return questions;
}

function questionOf(
  circuit: Circuit,
  network: Network,
  truth: FaultAt,
  { random, say }: { readonly random: Random; readonly say: Say },
): Question | null {
  const { nodes, reference } = network;
  const sites = sitesOf(network, bridgeCandidates(network), priorData({})).filter(
    (s) => s.branch >= 0 && (s.mode === "open" || s.mode === "short" || s.mode === "dead"),
  );
  const others = shuffled(sites, random).filter((s) => s.branch !== truth.site.branch || s.mode !== truth.site.mode);
  const most = Math.max(...network.branches.map((b) => (b.law.kind === "supply" ? Math.abs(b.law.volts) : 0)));
  const places = nodes.flatMap((from, node) => (node === reference || from.includes(".") ? [] : [{ from, node }]));
  for (const { from } of shuffled(places, random)) {
    const point: NumericReading = { quantity: "voltage", from, value: 0 };
    const foretold = (faults: readonly FaultAt[]) => {
      const known = expectReadings(broken(network, faults), [point], SHIPPED_METERS[0].meter);
      return known?.[0] && Number.isFinite(known[0].value) ? known[0] : null;
    };
    const is = foretold([truth]);
    if (!is) continue;
    const value = Number(is.value.toPrecision(3));
    const offered = [null, ...others].flatMap((site) => {
      const by = foretold(site ? [{ site, value: 0 }] : []);
      if (!by) return [];
      const apart = Math.abs(by.value - value);
      const limits = by.plusMinus + is.plusMinus + 0.005 * Math.abs(value);
      const isOut = apart >= FAR * limits && apart >= PLAIN * most;
      if (!isOut && apart > NEAR * limits) return [];
      const words = site ? say.fault({ site, value: 0 }, network) : "nothing wrong";
      return [{ words, isOut, says: say.print(by.value, "V") }];
    });
    const out = offered.filter((o) => o.isOut);
    const still = offered.filter((o) => !o.isOut);
    const own = { words: say.fault(truth, network), isOut: false, says: say.print(is.value, "V") };
    const few = [own, ...still].slice(0, 2);
    if (out.length === 0) continue;
    const options = shuffled([...few, ...out].slice(0, OPTIONS), random);
    return {
      ask: `${from} reads ${say.print(value, "V")} against ${nodes[reference]}. Which of these does that rule out?`,
      wanted: { kind: "ticks", options: options.map((o) => o.words), right: options.map((o) => o.isOut) },
      why: `Foretold there: ${options.map((o) => `${o.words} ${o.says}`).join("; ")}.`,
      circuit,
      leads: { red: from, black: nodes[reference] },
    };
  }
  return null;
}
