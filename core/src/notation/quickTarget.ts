import { branchEnds, type Circuit, designatorOf, type NodeName, type Part, rowOf } from "../circuit/index.ts";

/** What a reading was taken at: two points, or a part. */
export type Target =
  | { readonly kind: "nodes"; readonly from: NodeName; readonly to?: NodeName }
  | {
      readonly kind: "part";
      readonly part: Part;
      readonly branch: string;
      readonly ends: ReturnType<typeof branchEnds>;
    };

/** A part, or the branch of one that has several. */
export const partTarget = (part: Part, branch: string): Target => ({
  kind: "part",
  part,
  branch,
  ends: branchEnds(part, branch),
});

/**
 * What to ask where a part of several diodes is named for what only one of them has: what flows in it, what it is alone.
 * @returns null of all else
 */
export function whichOf(circuit: Circuit, name: string | undefined): string | null {
  const part = circuit.parts.find((p) => p.designator === name);
  const sections = part && "plus" in part ? rowOf(part.kind).sections : undefined;
  if (!part || !sections) return null;
  const said = sections.map((section) => {
    const { from, to } = branchEnds(part, `${part.designator}.${section}`);
    return `${part.designator}.${section} from ${from} to ${to}`;
  });
  return `which of its diodes? ${said.join(", ")}`;
}

/** A part, a node, or two nodes joined by a hyphen; exactly, then regardless of case. */
export function targetOf(circuit: Circuit, nodes: readonly NodeName[], text: string): Target | null {
  for (const same of [
    (a: string, b: string) => a === b,
    (a: string, b: string) => a.toLowerCase() === b.toLowerCase(),
  ]) {
    // A node goes by its name, and by what it is called where one probes it.
    const called = circuit.points?.find((p) => same(p.called, text))?.node;
    const node = nodes.find((n) => same(n, text)) ?? called;
    if (node !== undefined) return { kind: "nodes", from: node };
    const designator = designatorOf(text);
    const part = circuit.parts.find((p) => same(p.designator, designator));
    if (part) return partTarget(part, `${part.designator}${text.slice(designator.length).toLowerCase()}`);
    for (let at = text.indexOf("-"); at > 0; at = text.indexOf("-", at + 1)) {
      const from = nodes.find((n) => same(n, text.slice(0, at)));
      const to = nodes.find((n) => same(n, text.slice(at + 1)));
      if (from !== undefined && to !== undefined) return { kind: "nodes", from, to };
    }
  }
  return null;
}

/** Same but for one letter added, dropped or changed. */
export function isNear(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1) return false;
  let i = 0;
  while (i < a.length && a[i] === b[i]) i += 1;
  const [restA, restB] = [a.slice(i), b.slice(i)];
  return restA.slice(1) === restB.slice(1) || restA.slice(1) === restB || restA === restB.slice(1);
}
