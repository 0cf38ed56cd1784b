import { buildNetwork, type Circuit, type Part } from "../circuit/index.ts";
import { expectChart } from "../rank/index.ts";

/** The most that a part takes, healthy; SI units, amounts without sign. */
export interface Worst {
  readonly volts: number;
  /** Volts with every part at its nominal value: what is sold by its volts is made for these. */
  readonly nominalVolts: number;
  readonly amps: number;
  readonly watts: number;
  /** Volts from its second end to its first: against the way in which it conducts, of what matters which way round. */
  readonly backVolts: number;
}

/** So many ways in which levers and wipers can stand are all tried; of more only some. */
const COMBINED = 256;
/** A wiper's ends. */
const ENDS = [0, 1] as const;

/**
 * What every branch takes at worst in a healthy circuit, by name: over the positions of all switches together with the
 * ends of all wipers, every part at the edge of its tolerance that makes it most (to first order). A circuit that cannot
 * be solved in some position has no say there.
 */
export function worstCases(circuit: Circuit): ReadonlyMap<string, Worst> {
  const found = new Map<string, Worst>();
  for (const one of variantsOf(circuit)) {
    const network = buildNetwork(one);
    const chart = expectChart(network, { lines: true });
    chart?.branches.forEach(({ volts, amps, watts }, k) => {
      const { name } = network.branches[k];
      const before = found.get(name) ?? { volts: 0, nominalVolts: 0, amps: 0, watts: 0, backVolts: 0 };
      const most = ({ value, worst }: { value: number; worst: number }) => Math.abs(value) + worst;
      found.set(name, {
        volts: Math.max(before.volts, most(volts)),
        nominalVolts: Math.max(before.nominalVolts, Math.abs(volts.value)),
        amps: Math.max(before.amps, most(amps)),
        watts: Math.max(before.watts, most(watts)),
        backVolts: Math.max(before.backVolts, -volts.value + volts.worst),
      });
    });
  }
  return found;
}

/** A part as it may stand besides, by what moves it. */
type Moved = readonly [designator: string, part: Part];

function variantsOf(circuit: Circuit): Circuit[] {
  const movable = circuit.parts.flatMap((part): Moved[][] => {
    if (part.kind === "switch")
      return [[[part.designator, { ...part, position: part.position === "open" ? "closed" : "open" }]]];
    if (part.kind === "potentiometer") return [ENDS.map((at) => [part.designator, { ...part, at }])];
    return [];
  });
  const ways = movable.reduce((n, own) => n * (own.length + 1), 1);
  const moves = ways <= COMBINED ? everyWay(movable) : fewAtOnce(movable);
  return moves.map((moved) => {
    const by = new Map(moved);
    return { ...circuit, parts: circuit.parts.map((p) => by.get(p.designator) ?? p) };
  });
}

function everyWay(movable: readonly Moved[][]): Moved[][] {
  return movable.reduce<Moved[][]>(
    (ways, own) => ways.flatMap((way) => [way, ...own.map((moved) => [...way, moved])]),
    [[]],
  );
}

/** As drawn; one or two moved; and every switch closed with all wipers at one end or the other. */
function fewAtOnce(movable: readonly Moved[][]): Moved[][] {
  const pairs = movable.flatMap((one, i) =>
    movable.slice(i + 1).flatMap((other) => one.flatMap((a) => other.map((b) => [a, b]))),
  );
  const isOpen = ([, part]: Moved) => part.kind === "switch" && part.position === "open";
  const together = ENDS.map((_, end) => movable.flatMap((own) => (isOpen(own[0]) ? [] : [own[end] ?? own[0]])));
  return [[], ...movable.flatMap((own) => own.map((moved) => [moved])), ...pairs, ...together];
}
