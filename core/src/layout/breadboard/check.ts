import { joinOf } from "./holes.ts";
import type { BreadboardPlan } from "./plan.ts";

/**
 * Compares what the holes connect with the circuit: leads that ought to meet and do not, and leads that meet and ought
 * not to. Empty where the board is the circuit.
 */
export function checkBreadboard(plan: BreadboardPlan): string[] {
  const parent = new Map<string, string>();
  const root = (key: string): string => {
    const up = parent.get(key);
    return up === undefined || up === key ? key : root(up);
  };
  for (const { from, to } of plan.jumpers) parent.set(root(joinOf(from)), root(joinOf(to)));
  const ends = [
    { name: `${plan.supply} plus`, node: plan.plus, key: root("left rail +") },
    { name: `${plan.supply} minus`, node: plan.minus, key: root("left rail -") },
    ...plan.leads.map((l) => ({ name: `${l.part} ${l.lead}`, node: l.node, key: root(joinOf(l.hole)) })),
  ];
  const wrong: string[] = [];
  ends.forEach((a, i) => {
    for (const b of ends.slice(i + 1)) {
      const meets = a.key === b.key;
      const should = a.node === b.node && a.node >= 0;
      if (meets && !should) wrong.push(`${a.name} and ${b.name} meet and must not`);
      if (!meets && should) wrong.push(`${a.name} and ${b.name} do not meet and must`);
    }
  });
  return wrong;
}
