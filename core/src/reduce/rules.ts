import type { Law, Network } from "../circuit/index.ts";
import { relationOf } from "./relation.ts";

/** Where the ohms of a part come from that are not written. */
const OHMS: Readonly<Partial<Record<Law["kind"], (name: string) => string>>> = {
  filament: (name) => `${name} as hot as it gets at its voltage`,
  junction: (name) =>
    `V(${name}) ÷ I(${name}) just here: a junction has no ohms of its own, and others at another current`,
  contact: (name) => `${name} as its coil puts it`,
  thermal: (name) => `${name} warm, as it is at work`,
};

/** Why a part has the voltage, current, resistance or power that it has: the shortest reason a person would give. */
export function ruleFor(network: Network, branch: number, cell: "volts" | "amps" | "ohms" | "watts"): string {
  const { name, law, from, to } = network.branches[branch];
  const { nodes } = network;
  if (cell === "watts") return `P(${name}) = V(${name}) × I(${name}), which equals I² × R and V² ÷ R`;
  if (law.kind === "supply") {
    if (cell === "volts") return `E(${name}) less what its current drops inside: E − I(${name}) × ri`;
    if (cell === "ohms") return `the internal resistance of ${name}`;
    return `what flows out of ${name} is all that flows at ${nodes[from]} and back at ${nodes[to]}`;
  }
  if (cell === "ohms") return OHMS[law.kind]?.(name) ?? `as written for ${name}`;
  if (law.kind === "open")
    return cell === "amps" ? `${name} is open: nothing flows` : `V(${name}) = V(${nodes[from]}) − V(${nodes[to]})`;
  const wanted = cell === "amps" ? "series" : "parallel";
  const twins = network.branches.flatMap((twin, other) => {
    if (other === branch || twin.law.kind === "open" || (other > branch && twin.kind !== "supply")) return [];
    if (relationOf(network, other, branch).kind !== wanted) return [];
    return [{ twin, meeting: [from, to].find((n) => n === twin.from || n === twin.to) }];
  });
  const found = twins.find((t) => t.meeting !== undefined) ?? twins[0];
  if (found && cell === "volts")
    return `drop shared with ${found.twin.name}: same two nodes, ${nodes[from]} and ${nodes[to]}`;
  if (found)
    return found.meeting === undefined
      ? `same current as ${found.twin.name}: what branches off between them comes together again`
      : `same current as ${found.twin.name}: nothing branches off at ${nodes[found.meeting]}`;
  if (cell === "volts") return `Ohm’s law: V(${name}) = I(${name}) × R(${name})`;
  return `Ohm’s law: I(${name}) = V(${name}) ÷ R(${name}), its voltage being that from ${nodes[from]} to ${nodes[to]}`;
}
