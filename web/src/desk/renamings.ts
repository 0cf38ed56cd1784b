import { type Configuration, renamed as inNames } from "@hound/core/configuration";
import type { Edited } from "@hound/core/notation";
import type { Reading, Repaired, RepairWork } from "@hound/core/record";
import { isSameData } from "../app/isSameData.ts";
import type { Op, ReadingOp } from "./ops.ts";

interface Named {
  readonly id: string;
  readonly reading: Reading;
}

interface Step {
  readonly from: string;
  readonly to: string;
}

/** A step that came with other changes. */
interface Brought extends Step {
  readonly forth: readonly Op[];
  readonly back: readonly Op[];
}

/** A step that gave other names. */
interface Renaming extends Step {
  readonly names: Names;
  /** Nodes that had these names before: two became one. */
  readonly taken: ReadonlySet<string>;
  /** Readings as they were before it. */
  readonly readings: readonly Named[];
}

/** What goes with a change of the text: changes, and the names that all else has from then on. */
interface Going {
  readonly ops: readonly Op[];
  readonly names: Names | null;
}

/** What edits of the circuit are to readings, so that undoing and redoing the edit is the same to them. */
export class Renamings {
  private readonly known: (Brought | Renaming)[] = [];

  remember(step: Brought | Renaming) {
    this.known.push(step);
  }

  /** What goes with a step from one text to another, for the readings that there are; null where nothing does. */
  between(from: string, to: string, readings: readonly Named[]): Going | null {
    const step = this.known.findLast((k) => k.from === from && k.to === to);
    if (step) {
      if (!("names" in step)) return { ops: step.forth, names: null };
      return { ops: renamingOps(readings, step.names), names: step.names };
    }
    const back = this.known.findLast((k) => k.to === from && k.from === to);
    if (!back) return null;
    if (!("names" in back)) return { ops: back.back, names: null };
    const names = inverted(back);
    return { ops: readings.flatMap((one) => backOp(one, back, names)), names };
  }
}

/** What is not one with another now has its old name again. */
function inverted({ names: { nodes, parts }, taken }: Renaming): Names {
  const turned = (names: ReadonlyMap<string, string>) =>
    new Map([...names].flatMap(([was, is]) => (taken.has(is) ? [] : [[is, was] as const])));
  return { nodes: turned(nodes), parts: turned(parts) };
}

/** Where two nodes had become one, a reading from before goes back to where it was. */
function backOp({ id, reading }: Named, { names, readings }: Renaming, back: Names): ReadingOp[] {
  const before = readings.find((r) => r.id === id)?.reading;
  const isAsRenamed = before !== undefined && isSameData(renamed(before, names), reading);
  const after = isAsRenamed ? before : renamed(reading, back);
  return isSameData(after, reading) ? [] : [{ op: "change", id, before: reading, reading: after }];
}

/** Changes that give readings their new names; those that speak of none have none. */
export function renamingOps(readings: readonly Named[], names: Names): ReadingOp[] {
  return readings.flatMap(({ id, reading }): ReadingOp[] => {
    const after = renamed(reading, names);
    return isSameData(after, reading) ? [] : [{ op: "change", id, before: reading, reading: after }];
  });
}

/** What nodes and parts are called after an edit, by what they were called before. */
export type Names = Pick<Extract<Edited, { kind: "edited" }>, "nodes" | "parts">;

/** A reading with the new names of the nodes and parts it speaks of. */
export function renamed(reading: Reading, edited: Names): Reading {
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

function namesAfter({ nodes, parts }: Names) {
  const node = (name: string) => nodes.get(name) ?? name;
  const part = (name: string) => {
    const [own, section] = name.split(".");
    const now = parts.get(own) ?? own;
    return section === undefined ? now : `${now}.${section}`;
  };
  return { node, part };
}

/** A repair under way, in the names after an edit. */
export function workIn(work: RepairWork, edited: Names): RepairWork {
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
export function standingIn(state: Configuration, edited: Names): Configuration {
  return inNames(state, namesAfter(edited));
}
