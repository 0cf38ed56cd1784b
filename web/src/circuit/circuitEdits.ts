import { branchCalled, designatorOf, type NodeName } from "@hound/core/circuit";
import {
  type Edited,
  freeDesignator,
  insertInParallel,
  insertInSeries,
  joinNodes,
  movePart,
  nameNode,
  removePart,
  renamePart,
  swapParts,
  type Trail,
} from "@hound/core/notation";
import type { LetterAction } from "../app/letterKeys.ts";
import type { Selection } from "../desk/pointing.ts";

/** What the board is told about when it asks something before it can edit. */
export type Question =
  | {
      readonly kind: "words";
      readonly ask: string;
      readonly start: string;
      /** The words are those of new parts. */
      readonly isNew?: true;
      readonly answer: (words: string) => Edited;
    }
  | {
      readonly kind: "pick";
      readonly ask: string;
      readonly wants: "part" | "node";
      readonly answer: (picked: string) => Edited | Question;
    };

/** What is selected: parts (the last one first), or a node. */
export interface Target {
  readonly trail: Trail;
  readonly parts: readonly string[];
  readonly node: NodeName | null;
}

export interface Command {
  readonly key: LetterAction | "Delete";
  readonly shift?: true;
  readonly label: string;
  readonly does: string;
  readonly on: "part" | "node" | "either";
  /** Null where it does not apply to what is selected. */
  readonly run: (target: Target) => Edited | Question | null;
}

/** Asks for the words of a new part. */
const askForNew = (trail: Trail, ask: string, answer: (words: string) => Edited): Question => ({
  kind: "words",
  ask,
  start: `${freeDesignator(trail, "resistor")} `,
  isNew: true,
  answer,
});

const onPart =
  (act: (trail: Trail, part: string, parts: readonly string[]) => Edited | Question) =>
  ({ trail, parts }: Target) =>
    parts.length > 0 ? act(trail, parts[0], parts) : null;

const onNode =
  (act: (trail: Trail, node: NodeName) => Edited | Question) =>
  ({ trail, node }: Target) =>
    node === null ? null : act(trail, node);

const inSeries = (side: "before" | "after") =>
  onPart((trail, _, parts) =>
    askForNew(trail, `New part ${side} ${[...parts].reverse().join(", ")}`, (words) =>
      insertInSeries(trail, parts, side, words),
    ),
  );

/** Every edit that the board offers, one table for keys, buttons and help. */
export const COMMANDS: readonly Command[] = [
  {
    key: "before",
    label: "Before",
    on: "part",
    does: "new part in series, before it or the stretch selected",
    run: inSeries("before"),
  },
  {
    key: "after",
    label: "After",
    on: "part",
    does: "new part in series, after it or the stretch selected",
    run: inSeries("after"),
  },
  {
    key: "parallel",
    label: "Parallel",
    on: "part",
    does: "new branch beside the part, or round the stretch selected",
    run: onPart((trail, part, parts) => {
      const round = `New branch round ${[...parts].reverse().join(", ")}`;
      const ask = parts.length > 1 ? round : `New part in parallel with ${part}`;
      return askForNew(trail, ask, (words) => insertInParallel(trail, parts, words));
    }),
  },
  {
    key: "move",
    label: "Move",
    on: "part",
    does: "move the part into series with another",
    run: onPart((trail, part) => ({
      kind: "pick",
      wants: "part",
      ask: `Move ${part} behind which part? Pick it on the board`,
      answer: (beside) => movePart(trail, part, beside, "after"),
    })),
  },
  {
    key: "swap",
    label: "Swap",
    on: "part",
    does: "let two parts change places",
    run: onPart((trail, part, parts) =>
      parts.length === 2
        ? swapParts(trail, parts[0], parts[1])
        : {
            kind: "pick",
            wants: "part",
            ask: `Swap ${part} with which part? Pick it on the board`,
            answer: (other) => swapParts(trail, part, other),
          },
    ),
  },
  {
    key: "name",
    label: "Name",
    on: "either",
    does: "another designator, or a node's name",
    run: (target) =>
      onNode((trail, node) => ({
        kind: "words",
        ask: `Name of node ${node}`,
        start: trail.unnamed.has(node) ? "" : node,
        answer: (words) => nameNode(trail, node, words.trim()),
      }))(target) ??
      onPart((trail, part) => ({
        kind: "words",
        ask: `New designator for ${part}`,
        start: part,
        answer: (words) => renamePart(trail, part, words.trim()),
      }))(target),
  },
  {
    key: "join",
    label: "Join",
    on: "node",
    does: "a new part from this node to another",
    run: onNode((trail, node) => ({
      kind: "pick",
      wants: "node",
      ask: `Join ${node} to which node? Pick it on the board`,
      answer: (other) =>
        askForNew(trail, `New part from ${node} to ${other} (a supply’s plus to ${other})`, (words) =>
          joinNodes(trail, node, other as NodeName, words),
        ),
    })),
  },
  {
    key: "Delete",
    label: "Remove, close the gap",
    on: "part",
    does: "take the part out; its two nodes become one",
    run: onPart((trail, part) => removePart(trail, part, "close")),
  },
  {
    key: "Delete",
    shift: true,
    label: "Remove, leave open",
    on: "part",
    does: "take the part out; nothing takes its place",
    run: onPart((trail, part) => removePart(trail, part, "open")),
  },
];

/** The commands that go with what is selected. */
export function commandsFor({ parts, node }: Target): readonly Command[] {
  const kind = node !== null ? "node" : parts.length > 0 ? "part" : null;
  return COMMANDS.filter(({ on }) => kind !== null && (on === "either" || on === kind));
}

/** The branch that stands for a part on the board. */
export function nameOnBoard(places: Trail["places"], designator: string): string {
  const part = places.get(designator);
  return part ? branchCalled(designator, part.kind) : designator;
}

/** Parts and node that a selection stands for; a potentiometer's sections are the potentiometer. */
export function targetOf(trail: Trail, selection: Selection, stretch: readonly string[]): Target {
  const parts = [...new Set(stretch.map(designatorOf))].filter((name) => trail.places.has(name));
  return { trail, parts, node: selection?.kind === "node" ? (selection.name as NodeName) : null };
}
