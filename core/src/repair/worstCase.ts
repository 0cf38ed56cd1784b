import { buildNetwork, type Circuit } from "../circuit/index.ts";
import { expectChart } from "../rank/index.ts";

/** The most that a part takes, healthy; SI units, amounts without sign. */
export interface Worst {
  readonly volts: number;
  readonly amps: number;
  readonly watts: number;
}

/** Up to so many switches are tried in every combination; with more, each is moved by itself. */
const COMBINED = 4;
/** A wiper's ends. */
const ENDS = [0, 1] as const;

/**
 * What every branch takes at worst in a healthy circuit, by name: over the positions of all switches and the ends of all
 * wipers, every part at the edge of its tolerance that makes it most (to first order). A circuit that cannot be solved in
 * some position has no say there.
 */
export function worstCases(circuit: Circuit): ReadonlyMap<string, Worst> {
  const found = new Map<string, Worst>();
  for (const one of variantsOf(circuit)) {
    const network = buildNetwork(one);
    const chart = expectChart(network);
    chart?.branches.forEach(({ volts, amps, watts }, k) => {
      const { name } = network.branches[k];
      const before = found.get(name) ?? { volts: 0, amps: 0, watts: 0 };
      const most = ({ value, worst }: { value: number; worst: number }) => Math.abs(value) + worst;
      found.set(name, {
        volts: Math.max(before.volts, most(volts)),
        amps: Math.max(before.amps, most(amps)),
        watts: Math.max(before.watts, most(watts)),
      });
    });
  }
  return found;
}

function variantsOf(circuit: Circuit): Circuit[] {
  const switches = circuit.parts.filter((p) => p.kind === "switch").map((p) => p.designator);
  const wipers = circuit.parts.filter((p) => p.kind === "potentiometer").map((p) => p.designator);
  const flips =
    switches.length <= COMBINED
      ? Array.from({ length: 2 ** switches.length }, (_, bits) => switches.filter((_, i) => (bits >> i) & 1))
      : [[], ...switches.map((one) => [one])];
  const levers = flips.map((flipped) => ({
    ...circuit,
    parts: circuit.parts.map((p) =>
      p.kind === "switch" && flipped.includes(p.designator)
        ? { ...p, position: p.position === "open" ? ("closed" as const) : ("open" as const) }
        : p,
    ),
  }));
  const turned = wipers.flatMap((one) =>
    ENDS.map((at) => ({
      ...circuit,
      parts: circuit.parts.map((p) => (p.kind === "potentiometer" && p.designator === one ? { ...p, at } : p)),
    })),
  );
  return [...levers, ...turned];
}
