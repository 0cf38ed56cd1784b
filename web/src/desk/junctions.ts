import { type Circuit, furtherLeads } from "@hound/core/circuit";

/** Leads of parts that meet at a junction, each by its part's name and side. */
export type Leads = ReadonlySet<string>;

/** Two junctions are the same where any lead is at both. */
export const isSameJunction = (one: Leads, other: Leads | undefined) =>
  other !== undefined && [...one].some((lead) => other.has(lead));

/** The name of the junction that has all these leads; null where there is none. */
export const sameIn = (nodes: ReadonlyMap<string, Leads>, leads: Leads) =>
  [...nodes].find(([, own]) => [...leads].every((lead) => own.has(lead)))?.[0] ?? null;

/** Leads by the node that they are at. */
export function leadsOf({ parts }: Circuit): ReadonlyMap<string, Leads> {
  const found = new Map<string, Set<string>>();
  const put = (node: string, lead: string) => {
    found.set(node, (found.get(node) ?? new Set()).add(lead));
  };
  for (const part of parts) {
    put(part.from, `${part.designator} from`);
    put(part.to, `${part.designator} to`);
    for (const { lead, node } of furtherLeads(part)) put(node, `${part.designator} ${lead}`);
  }
  return found;
}
