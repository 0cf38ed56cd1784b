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
  const { tokens, statements, mistakes } = parseTrail(text, lines);
  const elaborated = elaborate(text, statements, lines);
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
