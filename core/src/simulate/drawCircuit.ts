import { type Circuit, DEFAULTS, KINDS, type Kind, type NodeName, type Part } from "../circuit/index.ts";
import type { Random } from "../kernels/index.ts";

const E12 = [10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82];
/** What workshop circuits are made of, as often as listed. */
const MIX: readonly Kind[] = [
  "resistor",
  "resistor",
  "resistor",
  "resistor",
  "resistor",
  "lamp",
  "fuse",
  "connector",
  "sensor",
  "coil",
];

/** What a circuit that is drawn may be like. */
export interface ToDraw {
  /** What goes across two nodes of its own choice, now and then. */
  readonly hasBridges?: boolean;
  /** Forks within forks, at most; 0 leaves all in a row. */
  readonly depth?: number;
  /** What it is made of, as often as listed. */
  readonly kinds?: readonly Kind[];
}

/**
 * A made-up circuit: one supply, and parts put in series with and in parallel to what is there, now and then across
 * two nodes of their own choice, which makes bridges.
 * @param count parts besides the supply
 */
export function drawCircuit(count: number, random: Random, how: ToDraw = {}): Circuit {
  const { hasBridges = true, depth = Number.POSITIVE_INFINITY, kinds = MIX } = how;
  const pick = <T>(list: readonly T[]) => list[Math.floor(random.next() * list.length)];
  const node = (i: number) => (i === 0 ? "0" : `N${i}`) as NodeName;
  /** From, to, and in how many forks it lies. */
  const edges: [number, number, number][] = [[1, 0, 0]];
  let nodes = 2;
  while (edges.length < count) {
    const u = random.next();
    const at = Math.floor(random.next() * edges.length);
    const [from, to, within] = edges[at];
    // Where one lies beside it already, another one makes no fork within it.
    const isForked = edges.some((e, k) => k !== at && e[0] === from && e[1] === to);
    const deeper = isForked ? within : within + 1;
    if (u < 0.55 || deeper > depth) {
      edges.splice(at, 1, [from, nodes, within], [nodes, to, within]);
      nodes += 1;
    } else if (u < 0.9 || nodes < 4 || !hasBridges) {
      edges[at] = [from, to, deeper];
      edges.push([from, to, deeper]);
    } else {
      const a = Math.floor(random.next() * nodes);
      edges.push([a, (a + 1 + Math.floor(random.next() * (nodes - 1))) % nodes, within]);
    }
  }
  const counts = new Map<string, number>();
  const named = (kind: Kind) => {
    const letters = KINDS[kind].letters[0];
    counts.set(letters, (counts.get(letters) ?? 0) + 1);
    return `${letters}${counts.get(letters)}`;
  };
  const ohms = () => pick(E12) * 10 ** Math.floor(random.next() * 3);
  const parts = edges.map(([from, to]): Part => {
    const kind = pick(kinds);
    const tolerance = kind === "resistor" ? pick([0.01, 0.02, 0.05, 0.1]) : KINDS[kind].tolerance;
    const shared = { designator: named(kind), from: node(from), to: node(to), tolerance };
    if (kind === "fuse") return { ...shared, kind, currentRating: 1, ohms: DEFAULTS.fuseVolts };
    if (kind === "connector") return { ...shared, kind, ohms: DEFAULTS.contactOhms };
    return { ...shared, kind: kind as "resistor", resistance: { by: "ohms", ohms: ohms() } };
  });
  const supply: Part = {
    designator: "BT1",
    kind: "supply",
    from: node(1),
    to: node(0),
    tolerance: KINDS.supply.tolerance,
    volts: pick([5, 9, 12, 24]),
    internalOhms: pick([0.05, 0.2, 0.5]),
  };
  return { title: "", notes: [], parts: [supply, ...parts], reference: node(0) };
}
