import { type Branch, buildNetwork, type Law, lawOf, MODES, type Mode, type Network } from "@hound/core/circuit";
import { bridgeBetween } from "@hound/core/faults";
import { AS_DRAWN } from "@hound/core/measure";
import { settleUnknowns } from "@hound/core/rank";
import { meterData } from "@hound/core/record";
import { solveNetwork } from "@hound/core/solve";
import { parseQuantity } from "@hound/core/units";
import { InputError, UsageError } from "./failure.ts";
import { readFile } from "./files.ts";

/** `hound solve`: node voltages, branch currents and powers, healthy or with faults; values left unknown are estimated from the readings. */
export function solve(path: string, faults: readonly string[], bridges: readonly string[]): object {
  const { circuit, file, readings } = readFile(path);
  if (!circuit) throw new InputError(`${path}: there is no circuit in this file`);
  const settled = settleUnknowns(circuit, readings, meterData(file?.meter));
  const open = settled?.estimates.filter((e) => !e.isSettled).map((e) => e.designator) ?? [];
  if (open.length > 0) throw new InputError(`${path}: ${open.join(", ")} cannot be told from the readings given`);
  const network = buildNetwork(settled?.circuit ?? circuit);
  const laws = network.branches.map((b) => b.law);
  for (const text of faults) applyFault(network, laws, text);
  const bridged = withBridges(network, bridges);
  const bridgeLaws = bridged.branches.slice(network.branches.length).map((b) => b.law);
  const solution = solveNetwork(bridged, [...laws, ...bridgeLaws]);
  if (solution.kind === "unsolvable") throw new InputError(`${path}: ${solution.at}: ${solution.why}`);
  const named = (values: Float64Array, sign: (b: Branch) => number) =>
    Object.fromEntries(bridged.branches.map((b, k) => [b.name, sign(b) * values[k] || 0]));
  return {
    title: file?.title || circuit.title,
    reference: circuit.reference,
    ...(settled ? { unknowns: settled.estimates } : {}),
    volts: Object.fromEntries(
      network.nodes.map((name, i) => [name, Number.isNaN(solution.volts[i]) ? null : solution.volts[i]]),
    ),
    amps: named(solution.amps, (b) => (b.kind === "supply" ? -1 : 1)),
    watts: named(solution.watts, () => 1),
    floating: solution.floating,
  };
}

/** Modes that need no further node. */
const PART_MODES: readonly string[] = MODES.filter((m) => m !== "bridged" && m !== "misplaced");

/** `R3=open`, `R2=high:1820`. */
function applyFault(network: Network, laws: Law[], text: string) {
  const match = /^([^=]+)=([A-Za-z]+)(?::(.+))?$/.exec(text);
  if (!match)
    throw new UsageError(`--fault ${text}: write PART=MODE or PART=MODE:VALUE, such as R3=open or R2=high:1820`);
  const [, name, mode, value] = match;
  const k = network.branches.findIndex((b) => b.name === name);
  if (k < 0) throw new InputError(`--fault ${text}: there is no part ${name} in this circuit`);
  if (!PART_MODES.includes(mode)) {
    throw new UsageError(`--fault ${text}: modes are ${PART_MODES.join(", ")}`);
  }
  const needsValue = mode === "high" || mode === "low" || mode === "weak";
  const read = value === undefined ? null : parseQuantity(value);
  if (needsValue && read?.kind !== "quantity")
    throw new UsageError(`--fault ${text}: ${mode} needs the value it has become`);
  laws[k] = lawOf(network.branches[k], AS_DRAWN, {
    mode: mode as Mode,
    value: read?.kind === "quantity" ? read.value : 0,
  });
}

function withBridges(network: Network, bridges: readonly string[]): Network {
  const added = bridges.map((text): Branch => {
    for (let at = text.indexOf("-"); at > 0; at = text.indexOf("-", at + 1)) {
      const from = network.nodes.indexOf(text.slice(0, at));
      const to = network.nodes.findIndex((n) => n === text.slice(at + 1));
      if (from < 0 || to < 0) continue;
      return { ...bridgeBetween(network, [from, to]), name: `bridge ${text}` };
    }
    throw new InputError(`--bridge ${text}: there are no two nodes of these names in this circuit`);
  });
  return { ...network, branches: [...network.branches, ...added] };
}
