import { type Circuit, fingerprintOf, furtherLeads } from "@hound/core/circuit";

/** Parts, values and what is joined to what, whatever the nodes are called. */
export function wiringOf(circuit: Circuit): string {
  const joined = new Map<string, string[]>();
  const join = (node: string, end: string) => joined.set(node, [...(joined.get(node) ?? []), end]);
  for (const part of circuit.parts) {
    join(part.from, `${part.designator}<`);
    join(part.to, `${part.designator}>`);
    for (const { lead, node } of furtherLeads(part)) join(node, `${part.designator}^${lead}`);
  }
  const nodes = [...joined.values()].map((ends) => ends.sort().join(" ")).sort();
  return [fingerprintOf(circuit), ...nodes].join("\n");
}
