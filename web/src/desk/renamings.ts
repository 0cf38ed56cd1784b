import { type Configuration, renamed as inNames } from "@hound/core/configuration";
import type { Edited } from "@hound/core/notation";
import type { Reading, Repaired, RepairWork } from "@hound/core/record";
import { inverseOf, type Op, type ReadingOp } from "./ops.ts";

/** What goes with a step from one text to another, and what goes with the step back. */
interface Step {
  readonly from: string;
  readonly to: string;
  readonly forth: readonly Op[];
  readonly back: readonly Op[];
}

/** What edits of the circuit did to readings, so that undoing and redoing the edit does the same to them. */
export class Renamings {
  private readonly known: Step[] = [];

  remember(
    from: string,
    edited: Extract<Edited, { kind: "edited" }>,
    readings: readonly { readonly id: string; readonly reading: Reading }[],
  ) {
    const changes = readings.flatMap(({ id, reading }) => {
      const after = renamed(reading, edited);
      const op: ReadingOp = { op: "change", id, before: reading, reading: after };
      return JSON.stringify(after) === JSON.stringify(reading) ? [] : [op];
    });
    if (changes.length === 0) return;
    this.rememberStep({ from, to: edited.text, forth: changes, back: changes.map(inverseOf) });
  }

  rememberStep(step: Step) {
    this.known.push(step);
  }

  /** Changes that go with a step from one text to another. */
  between(from: string, to: string): readonly Op[] {
    const step = this.known.findLast((k) => k.from === from && k.to === to);
    return step?.forth ?? this.known.findLast((k) => k.to === from && k.from === to)?.back ?? [];
  }
}

/** A reading with the new names of the nodes and parts it speaks of. */
export function renamed(reading: Reading, edited: Extract<Edited, { kind: "edited" }>): Reading {
  const { node, part } = namesAfter(edited);
  const state = reading.state && { state: standingIn(reading.state, edited) };
  switch (reading.quantity) {
    case "current":
      return { ...reading, ...state, through: part(reading.through) };
    case "observation":
      return { ...reading, ...state, part: part(reading.part) };
    case "voltage":
      return {
        ...reading,
        ...state,
        from: node(reading.from),
        ...(reading.to === undefined ? {} : { to: node(reading.to) }),
      };
    case "resistance":
      return {
        ...reading,
        ...state,
        ...(reading.from === undefined ? {} : { from: node(reading.from) }),
        ...(reading.to === undefined ? {} : { to: node(reading.to) }),
        ...(reading.lifted === undefined ? {} : { lifted: part(reading.lifted) }),
      };
    default:
      return reading satisfies never;
  }
}

function namesAfter({ nodes, parts }: Extract<Edited, { kind: "edited" }>) {
  const node = (name: string) => nodes.get(name) ?? name;
  const part = (name: string) => {
    const [own, section] = name.split(".");
    const now = parts.get(own) ?? own;
    return section === undefined ? now : `${now}.${section}`;
  };
  return { node, part };
}

/** A repair under way, in the names after an edit. */
export function workIn(work: RepairWork, edited: Extract<Edited, { kind: "edited" }>): RepairWork {
  const { node, part } = namesAfter(edited);
  const named = <T>(record: Readonly<Record<string, T>>) =>
    Object.fromEntries(Object.entries(record).map(([name, value]) => [part(name), value]));
  return {
    ...work,
    faults: work.faults.map((f): Repaired => {
      if (!("nodes" in f)) return { ...f, part: part(String(f.part)) };
      const [a, b] = f.nodes as [string, string];
      return { ...f, nodes: [node(a), node(b)], mode: "bridged" };
    }),
    checks: named(work.checks),
    fitted: named(work.fitted),
    // Keys of steps end with the part that they are about.
    done: work.done.map((key) => key.replace(/\S+$/, part)),
  };
}

/** How the circuit stands, in the names after an edit. */
export function standingIn(state: Configuration, edited: Extract<Edited, { kind: "edited" }>): Configuration {
  return inNames(state, namesAfter(edited));
}
