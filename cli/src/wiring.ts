import { type Circuit, fingerprintOf } from "@hound/core/circuit";

/** Parts, values and what is joined to what, whatever the nodes are called. */
export function wiringOf(circuit: Circuit): string {
  const joined = new Map<string, string[]>();
  const join = (node: string, end: string) => joined.set(node, [...(joined.get(node) ?? []), end]);
  for (const part of circuit.parts) {
    join(part.from, `${part.designator}<`);
    join(part.to, `${part.designator}>`);
    if (part.kind === "potentiometer" && part.wiper) join(part.wiper, `${part.designator}^`);
  }
  const nodes = [...joined.values()].map((ends) => ends.sort().join(" ")).sort();
  return [fingerprintOf(circuit), ...nodes].join("\n");
}
