import type { Branch, Network } from "@hound/core/circuit";
import { afterwards, type Supposed } from "@hound/core/whatif";
import { InputError } from "./failure.ts";
import { faultsGiven } from "./faults.ts";
import { readKnown } from "./known.ts";

/** `hound solve`: node voltages, branch currents and powers, healthy or with faults; values left unknown are estimated from the readings. */
export function solve(path: string, faults: readonly string[], bridges: readonly string[]): object {
  const { network, circuit, estimates, title } = readKnown(path);
  const supposed = [...faultsGiven(network, faults), ...bridges.map((text) => bridgeGiven(network, text))];
  const after = afterwards(network, supposed);
  if (after.kind === "unsolved") throw new InputError(`${path}: ${after.at}: ${after.why}`);
  const { solution } = after;
  const nameOf = (b: Branch, k: number) =>
    k < network.branches.length ? b.name : `bridge ${b.name.replace("~", "-")}`;
  const named = (values: Float64Array, sign: (b: Branch) => number) =>
    Object.fromEntries(after.network.branches.map((b, k) => [nameOf(b, k), sign(b) * values[k] || 0]));
  return {
    title,
    reference: circuit.reference,
    ...(estimates ? { unknowns: estimates } : {}),
    volts: Object.fromEntries(
      network.nodes.map((name, i) => [name, Number.isNaN(solution.volts[i]) ? null : solution.volts[i]]),
    ),
    amps: named(solution.amps, (b) => (b.kind === "supply" ? -1 : 1)),
    watts: named(solution.watts, () => 1),
    floating: solution.floating,
  };
}

/** `--bridge B-D`: node names may have hyphens in them. */
function bridgeGiven({ nodes }: Network, text: string): Supposed {
  for (let at = text.indexOf("-"); at > 0; at = text.indexOf("-", at + 1)) {
    const from = nodes.find((n) => n === text.slice(0, at));
    const to = nodes.find((n) => n === text.slice(at + 1));
    if (from !== undefined && to !== undefined) return { nodes: [from, to], mode: "bridged" };
  }
  throw new InputError(`--bridge ${text}: there are no two nodes of these names in this circuit`);
}
