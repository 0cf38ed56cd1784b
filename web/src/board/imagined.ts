import { type Network, unitOfValue } from "@hound/core/circuit";
import type { SuspectFault } from "@hound/core/rank";
import type { Comparison, PartMode, Supposed } from "@hound/core/whatif";
import { print } from "../words/print.ts";
import { shown } from "../words/quantities.ts";
import type { BoardFacts } from "./boardFacts.ts";

/** Faults that the board draws beside the healthy circuit: those supposed, or a chosen suspect's. */
export interface Imagined {
  readonly supposed: readonly Supposed[];
  readonly comparison: Comparison;
  readonly isSuspect: boolean;
}

const MARKS: Readonly<Record<Exclude<PartMode, "high" | "low" | "weak" | "leaky">, string>> = {
  open: "open",
  short: "shorted",
  dead: "dead",
  stuckOpen: "stuck open",
  stuckClosed: "stuck closed",
  wiperOpen: "open",
  reversed: "reversed",
};

/** What stands beside a faulty part's designator: `open`, `2 kΩ`, `inside 4 Ω`. */
export function markOf(fault: Extract<Supposed, { part: string }>, network: Network): string {
  const { mode, part, value = 0 } = fault;
  if (mode !== "high" && mode !== "low" && mode !== "weak" && mode !== "leaky") return MARKS[mode];
  const kind = network.branches.find((b) => b.name === part)?.kind;
  const figure = print(Number(value.toPrecision(3)), kind ? unitOfValue(kind, mode) : "ohm");
  if (mode === "leaky") return `leaks ${figure}`;
  return mode === "weak" ? `inside ${figure}` : figure;
}

/** A suspect's faults at their estimated values; null where one has no place here (a lead on the wrong node). */
export function supposedOf(faults: readonly SuspectFault[]): Supposed[] | null {
  const found = faults.map((f): Supposed | null => {
    if ("nodes" in f) return { nodes: f.nodes, mode: "bridged" };
    if (f.mode === "misplaced" || f.mode === "bridged") return null;
    const mode = f.part.endsWith(".wiper") && f.mode === "open" ? "wiperOpen" : f.mode;
    return f.value === undefined
      ? { part: f.part, mode }
      : { part: f.part, mode, value: Number(f.value.toPrecision(4)) };
  });
  return found.includes(null) ? null : (found as Supposed[]);
}

/** The board's facts with the imagined figures beside the healthy ones. */
export function withImagined(facts: BoardFacts, { supposed, comparison }: Imagined, network: Network): BoardFacts {
  if (supposed.length === 0) return facts;
  const bridges = supposed.flatMap((f) =>
    "nodes" in f
      ? [{ a: network.nodes.indexOf(f.nodes[0]), b: network.nodes.indexOf(f.nodes[1]), probability: null }]
      : [],
  );
  return {
    ...facts,
    nodes: facts.nodes.map((node, n) => {
      const { volts, limits } = comparison.nodes[n];
      const text = Number.isNaN(volts.whatif) ? "floats" : shown(volts.whatif, "V");
      return node.expected === null ? node : { ...node, imagined: { text, limits, volts: volts.whatif } };
    }),
    branches: facts.branches.map((branch, k) => {
      const { name, amps } = comparison.parts[k];
      const fault = supposed.find((f) => "part" in f && f.part === name);
      const mark = fault && "part" in fault ? markOf(fault, network) : null;
      return {
        ...branch,
        suspicion: 0,
        odd: null,
        imagined: { text: shown(amps.whatif, "A", 3), mark: mark && `${name} ${mark}` },
      };
    }),
    bridges,
  };
}
