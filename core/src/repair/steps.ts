import type { Circuit, NodeName } from "../circuit/index.ts";
import type { ChangeOfCircuit, Configuration } from "../configuration/index.ts";
import { isMended, keyOfStep, type MendStep, type RepairWork } from "../record/index.ts";

/** One thing to be done in a repair; `key` names it for good, `change` is what the circuit becomes by it. */
export interface WorkStep {
  readonly key: string;
  readonly what: /** Power off and proved dead; on again. */
    | { readonly kind: "off" | "on" }
    /** A fuse went: what made it go comes first. */
    | { readonly kind: "cause"; readonly part: string }
    /** Measure the new part before it goes in; put it in. */
    | { readonly kind: "check" | "fit"; readonly part: string }
    | { readonly kind: "clear"; readonly nodes: readonly [NodeName, NodeName] }
    /** Something done for a test that is not to stay. */
    | { readonly kind: "restore"; readonly undo: StillThere }
    /** Try whether it does again what was complained of; read the proof. */
    | { readonly kind: "try" | "prove" };
  readonly change: ChangeOfCircuit | null;
}

/** What of a test is still there. */
export type StillThere =
  | { readonly as: "lifted" | "out" | "off" | "value" | "swapped" | "metered"; readonly part: string }
  | { readonly as: "switch"; readonly part: string; readonly drawn: "open" | "closed" }
  | { readonly as: "added" | "meteredAcross"; readonly from: NodeName; readonly to?: NodeName };

/** The steps of a repair, in order: first what is dead work, then what shows that it was one. */
export function repairSteps(circuit: Circuit, steps: readonly MendStep[], standing: Configuration): WorkStep[] {
  const mended = new Set(steps.map(keyOfStep));
  const back = stillThere(circuit, standing, mended);
  const kindOf = (name: string) => circuit.parts.find((p) => p.designator === name)?.kind;
  const fuses = steps.flatMap((s) => ("part" in s && kindOf(s.part) === "fuse" ? [s.part] : []));
  const isOnlyFuses = fuses.length > 0 && fuses.length === steps.length;
  const found: WorkStep[] = [{ key: "off", what: { kind: "off" }, change: null }];
  if (isOnlyFuses)
    for (const part of fuses) found.push({ key: `cause ${part}`, what: { kind: "cause", part }, change: null });
  for (const step of steps) {
    if ("nodes" in step) continue;
    const { part } = step;
    found.push({ key: `check ${part}`, what: { kind: "check", part }, change: null });
    found.push({ key: `fit ${part}`, what: { kind: "fit", part }, change: { part, change: "swapped" } });
  }
  for (const undo of back)
    found.push({ key: `restore ${nameOfUndo(undo)}`, what: { kind: "restore", undo }, change: changeBack(undo) });
  // Behind what is put back: between two nodes that takes back all there is.
  for (const step of steps) {
    if (!("nodes" in step)) continue;
    const [from, to] = step.nodes;
    const key = `clear ${keyOfStep(step)}`;
    found.push({ key, what: { kind: "clear", nodes: step.nodes }, change: { from, to, change: "cleared" } });
  }
  found.push({ key: "on", what: { kind: "on" }, change: null });
  found.push({ key: "try", what: { kind: "try" }, change: null });
  found.push({ key: "prove", what: { kind: "prove" }, change: null });
  return found;
}

/**
 * The keys of the steps that are done: those that were ticked, new parts that stand in the circuit already, for a test or
 * as the repair, with their check; and power off where nothing that needs it is left.
 */
export function stepsDone(
  steps: readonly WorkStep[],
  standing: Configuration,
  { done, checks }: Pick<RepairWork, "done" | "checks">,
  isProved: boolean,
): ReadonlySet<string> {
  const isIn = (part: string) => isMended({ part }, standing);
  const isDone = ({ what, key }: WorkStep): boolean => {
    switch (what.kind) {
      case "prove":
        return isProved;
      case "fit":
        return isIn(what.part);
      case "check":
        return checks[what.part] !== undefined || isIn(what.part) || done.includes(key);
      case "clear":
        return isMended({ nodes: what.nodes }, standing);
      default:
        return done.includes(key);
    }
  };
  const found = new Set(steps.filter(isDone).map((s) => s.key));
  const dead = steps.filter(({ what }) => ["check", "fit", "clear", "restore"].includes(what.kind));
  // Who found it by a swap has the power on again: there is nothing to switch it off for.
  if (dead.length > 0 && !done.includes("off") && dead.every((s) => found.has(s.key)))
    for (const key of ["off", "on"]) found.add(key);
  return found;
}

/** What is still lifted, open, swapped or left in, beyond the repair itself; a branch in hand is led to its end by the coach. */
export function stillThere(circuit: Circuit, standing: Configuration, mended: ReadonlySet<string>): StillThere[] {
  const {
    lifted = [],
    out = [],
    off = [],
    values = {},
    swapped = [],
    switches = {},
    added = [],
    meters = [],
  } = standing;
  const as = (how: "lifted" | "out" | "off" | "value" | "swapped", parts: readonly string[]) =>
    parts.filter((p) => !mended.has(p)).map((part): StillThere => ({ as: how, part }));
  return [
    ...as("lifted", lifted),
    ...as("out", out),
    ...as("value", Object.keys(values)),
    ...as("swapped", swapped),
    ...as("off", off),
    ...meters.map(
      (m): StillThere =>
        "through" in m
          ? { as: "metered", part: String(m.through) }
          : { as: "meteredAcross", from: m.from as NodeName, ...(m.to === undefined ? {} : { to: m.to as NodeName }) },
    ),
    ...added.map((a): StillThere => ({ as: "added", from: a.from, ...(a.to === undefined ? {} : { to: a.to }) })),
    ...Object.entries(switches).flatMap(([part, position]): StillThere[] => {
      const drawn = circuit.parts.find((p) => p.designator === part);
      return drawn?.kind === "switch" && drawn.position !== position
        ? [{ as: "switch", part, drawn: drawn.position }]
        : [];
    }),
  ];
}

function nameOfUndo(undo: StillThere): string {
  return "part" in undo ? `${undo.as} ${undo.part}` : `${undo.as} ${undo.from}-${undo.to ?? ""}`;
}

function changeBack(undo: StillThere): ChangeOfCircuit {
  if ("part" in undo) return { part: undo.part, change: "restored" };
  return { from: undo.from, ...(undo.to === undefined ? {} : { to: undo.to }), change: "restored" };
}
