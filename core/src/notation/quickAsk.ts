import type { Circuit, NodeName } from "../circuit/index.ts";
import type { Proposal } from "./quickBare.ts";
import { type Target, targetOf } from "./quickTarget.ts";
import { type BenchNow, type QuickReading, type Word, wrong } from "./quickValue.ts";

type Asked = "voltage" | "current" | "resistance" | "look";

const NAMED: readonly (readonly [Asked, RegExp])[] = [
  ["voltage", /^(?:m?v|volts?|voltage|drop)$/i],
  ["current", /^(?:m?a|amps?|amperes?|milliamps?|current)$/i],
  ["resistance", /^(?:k?ohms?|resistance)$/i],
  ["look", /^look$/i],
];
const BETWEEN = /^(?:at|of|across|through|from|to|and|in|-)$/i;

/**
 * What is asked for by words, without a value: `R1 current`, `R2 ohms`, `volts at B`, `B?`. It becomes the proposal, as the
 * board and the coach show it. @returns null where nothing of the kind is typed
 */
export function readAsked(
  words: readonly Word[],
  circuit: Circuit,
  nodes: readonly NodeName[],
  { standing }: BenchNow,
): QuickReading | null {
  const isQuestion = words[words.length - 1].text.endsWith("?");
  const bare = words.map((w) => ({ ...w, text: w.text.replace(/\?$/, "") })).filter((w) => w.text !== "");
  // A point may be called like a quantity: what it is called comes first.
  const said = (word: Word) =>
    targetOf(circuit, nodes, word.text) ? null : (NAMED.find(([, name]) => name.test(word.text))?.[0] ?? null);
  const quantities = bare.flatMap((w) => said(w) ?? []);
  const places = bare.filter((w) => said(w) === null && !BETWEEN.test(w.text));
  if (quantities.length > 1 || (quantities.length === 0 && !isQuestion)) return null;
  if (places.length === 0 || places.length > 2) return null;
  const target = targetOf(circuit, nodes, places.map((w) => w.text).join("-"));
  if (!target) return null;
  const read = proposalOf(quantities[0] ?? "voltage", target, standing?.lifted ?? []);
  return typeof read === "string" ? wrong(places[0], read) : { kind: "asked", ...read };
}

function proposalOf(
  quantity: Asked,
  target: Target,
  lifted: readonly string[],
): { readonly proposal: Proposal; readonly echo: string } | string {
  if (target.kind === "nodes") {
    const { kind: _, ...points } = target;
    const where = points.to === undefined ? points.from : `${points.from} to ${points.to}`;
    const from = points.to === undefined ? "at" : "from";
    if (quantity === "voltage") return { proposal: { quantity, ...points }, echo: `volts ${from} ${where}` };
    if (quantity === "resistance")
      return { proposal: { quantity, ...points }, echo: `ohms ${from} ${where}, power off` };
    return quantity === "current" ? "a current goes through a part: through which one?" : "which part is looked at?";
  }
  const { part, branch } = target;
  const { designator } = part;
  const { from, to } = target.ends;
  if (quantity === "current") return { proposal: { quantity, through: branch }, echo: `amperes through ${branch}` };
  if (quantity === "look") return { proposal: { quantity, part: designator }, echo: `a look at ${designator}` };
  if (quantity === "resistance" && lifted.includes(designator))
    return { proposal: { quantity, lifted: branch }, echo: `ohms of ${branch} alone, power off` };
  return quantity === "voltage"
    ? { proposal: { quantity, from, to }, echo: `volts across ${branch}, ${from} to ${to}` }
    : { proposal: { quantity, from, to }, echo: `ohms across ${branch}, ${from} to ${to}, power off` };
}
