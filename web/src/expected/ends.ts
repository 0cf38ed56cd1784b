import type { Network, NodeName } from "@hound/core/circuit";
import type { Seen } from "@hound/core/reduce";

/** From where a network is reduced, other than from its supply; null for as the supply sees it. */
export interface SeenFrom {
  readonly from: NodeName;
  readonly to: NodeName;
  readonly supplies: Seen["supplies"];
}

/** Nodes that one can put a lead on, by name. */
export function probed(network: Network): NodeName[] {
  return network.nodes.filter((n) => !n.endsWith(".tap"));
}

/** Nodes from which all leads to one other node only: where a network ends. */
export function looseNodes({ nodes, branches }: Network): NodeName[] {
  return nodes.filter((name, n) => {
    const others = branches.flatMap((b) => (b.from === n ? [b.to] : b.to === n ? [b.from] : []));
    return !name.endsWith(".tap") && new Set(others).size === 1;
  });
}

/** The two nodes from which a network without a supply is looked at first: its loose ends, else its first and its reference. */
export function looseEnds(network: Network): [NodeName, NodeName] {
  const loose = looseNodes(network);
  const reference = network.nodes[network.reference];
  const [first, last] = [loose[0], loose.at(-1)];
  if (first !== undefined && last !== undefined && first !== last) return [first, last];
  return [probed(network).find((n) => n !== reference) ?? reference, reference];
}

/** As the reduction takes it; a node that is there no more counts as none chosen. */
export function seenIn(network: Network, chosen: SeenFrom | null): Seen | null {
  const isDriven = network.branches.some((b) => b.kind === "supply");
  const numbersOf = (from: NodeName, to: NodeName) => [network.nodes.indexOf(from), network.nodes.indexOf(to)] as const;
  if (chosen) {
    const ends = numbersOf(chosen.from, chosen.to);
    if (ends.every((n) => n >= 0) && ends[0] !== ends[1]) return { ends, supplies: chosen.supplies };
  }
  return isDriven ? null : { ends: numbersOf(...looseEnds(network)), supplies: "out" };
}
