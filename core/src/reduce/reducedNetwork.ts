import type { Branch, Network, Part } from "../circuit/index.ts";
import { type Item, madeBy, type Reduction } from "./steps.ts";

/** The circuit after a number of steps: composites stand for what they are made of; what is idle is left out. */
export function reducedNetwork(network: Network, { steps, source, idle, nodes }: Reduction, after: number): Network {
  const done = steps.slice(0, after);
  const inside = new Set(done.flatMap((s) => s.parts));
  const composites = done.flatMap(madeBy).filter((item) => !inside.has(item));
  const covered = new Set(composites.flatMap((c) => c.branches));
  const gone = after > 0 ? new Set(idle.map((i) => i.branch)) : new Set<number>();
  const kept = network.branches.flatMap((branch, k) => (covered.has(k) || gone.has(k) ? [] : [{ at: k, branch }]));
  const made = composites.map((item) => ({ at: Math.min(...item.branches), branch: branchFor(item, nodes) }));
  const ordered = [...kept, ...made].sort((a, b) => a.at - b.at).map((b) => b.branch);
  // The supply comes first, as it does in every circuit that was written as a loop.
  const supply = source >= 0 ? network.branches[source] : null;
  return { ...network, nodes, branches: supply ? [supply, ...ordered.filter((b) => b !== supply)] : ordered };
}

function branchFor(item: Item, nodes: Reduction["nodes"]): Branch {
  const part: Part = {
    designator: item.name,
    kind: "resistor",
    from: nodes[item.from],
    to: nodes[item.to],
    tolerance: 0,
    resistance: { by: "ohms", ohms: item.ohms },
  };
  return {
    name: item.name,
    part,
    kind: "resistor",
    from: item.from,
    to: item.to,
    law: { kind: "resistance", ohms: item.ohms },
  };
}
