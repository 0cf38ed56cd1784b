import type { Circuit, NodeName } from "../../circuit/index.ts";
import { applyEdits, Lines, type Mistake, type TextEdit } from "../mistake.ts";
import { elaborate } from "./elaborate.ts";
import type { Token } from "./lexer.ts";
import { parseTrail } from "./parser.ts";
import type { PartNode, Statement } from "./tree.ts";

export interface Trail {
  readonly text: string;
  /** All tokens, space and comments too: joined they are the text. */
  readonly tokens: readonly Token[];
  readonly statements: readonly Statement[];
  /** Mistakes and questions, in the order of the text. */
  readonly mistakes: readonly Mistake[];
  /** The circuit, or null while the text has mistakes. */
  readonly circuit: Circuit | null;
  readonly places: ReadonlyMap<string, PartNode>;
  /** Shown names of unnamed junctions, with the offset at which a name would be written. */
  readonly unnamed: ReadonlyMap<NodeName, number>;
}

/** Reads a trail: its tree, every mistake with position and likely fix, and the circuit if there is none. */
export function readTrail(text: string): Trail {
  const lines = new Lines(text);
  const { tokens, statements, mistakes: parsed, aliases, unclosed } = parseTrail(text, lines);
  const closed = new Map(unclosed.map(({ mistake, places }) => [mistake, closingOf(text, mistake, places)]));
  const mistakes = parsed.map((m) => closed.get(m) ?? m);
  const elaborated = elaborate(text, statements, lines, aliases);
  const all = [...mistakes, ...elaborated.mistakes].sort((a, b) => a.from - b.from || a.to - b.to);
  const sound = !all.some((m) => m.severity === "mistake") && elaborated.circuit.parts.length > 0;
  return {
    text,
    tokens,
    statements,
    mistakes: all,
    circuit: sound ? elaborated.circuit : null,
    places: elaborated.places,
    unnamed: elaborated.unnamed,
  };
}

/** Beyond these a parenthesis is closed at the end, without trying where it fits. */
const TRIED = { characters: 10_000, places: 12 } as const;

/**
 * A parenthesis is closed where fewest mistakes are left and every node gets two parts; of several such places at the
 * last one of the first line.
 */
function closingOf(text: string, mistake: Mistake, places: readonly number[]): Mistake {
  if (text.length > TRIED.characters || places.length > TRIED.places) return mistake;
  let best: { at: number; rank: readonly number[] } | null = null;
  for (const at of [...places].reverse()) {
    const whole = `${text.slice(0, at)})${text.slice(at)}`;
    const lines = new Lines(whole);
    const parsed = parseTrail(whole, lines);
    const { circuit, mistakes: found } = elaborate(whole, parsed.statements, lines, parsed.aliases);
    const wrong = [...parsed.mistakes, ...found].filter((m) => m.severity === "mistake").length;
    const rank = [wrong, looseEnds(circuit), text.slice(0, at).split("\n").length];
    if (best === null || isBefore(rank, best.rank)) best = { at, rank };
  }
  if (best === null) return mistake;
  return { ...mistake, fix: { label: "close it", edits: [{ from: best.at, to: best.at, insert: ")" }] } };
}

function isBefore(a: readonly number[], b: readonly number[]): boolean {
  const i = a.findIndex((value, k) => value !== b[k]);
  return i >= 0 && a[i] < b[i];
}

/** How many nodes have a single part. */
function looseEnds({ parts }: Circuit): number {
  const count = new Map<string, number>();
  for (const { from, to } of parts) for (const n of [from, to]) count.set(n, (count.get(n) ?? 0) + 1);
  return [...count.values()].filter((n) => n === 1).length;
}

/**
 * The edits that write an unnamed junction's name into the trail, so that later insertions cannot move it, with the
 * name it then has. The plus terminal, shown as “+”, becomes P. A node that has a name needs no edit.
 */
export function pinNode(trail: Trail, node: NodeName): { name: NodeName; edits: TextEdit[] } {
  const offset = trail.unnamed.get(node);
  if (offset === undefined) return { name: node, edits: [] };
  const taken = new Set([...(trail.circuit?.parts ?? []).flatMap((p) => [p.designator, p.from, p.to])]);
  let name = node.startsWith("+") ? "P" : node;
  for (let i = 2; taken.has(name) && name !== node; i += 1) name = `P_${i}`;
  return { name: name as NodeName, edits: [{ from: offset, to: offset, insert: ` [${name}]` }] };
}

/** Names several junctions at once. */
export function pinNodes(trail: Trail, nodes: readonly NodeName[]): { text: string; names: NodeName[] } {
  const pins = nodes.map((node) => pinNode(trail, node));
  return {
    text: applyEdits(
      trail.text,
      pins.flatMap((p) => p.edits),
    ),
    names: pins.map((p) => p.name),
  };
}
