import type { Item } from "./steps.ts";

/**
 * Arms of the star that does what a triangle does: each is the product of the two sides that meet at its corner over
 * the sum of all three (Kennelly, The equivalence of triangles and three-pointed stars in conducting networks, 1899).
 * @param sides ohms; side n lies across from corner n
 * @returns ohms; arm n is at corner n
 */
export function armsOf(sides: readonly number[]): number[] {
  const sum = sides[0] + sides[1] + sides[2];
  return sides.map((_, n) => (sides[(n + 1) % 3] * sides[(n + 2) % 3]) / sum);
}

/**
 * Sides of the triangle that does what a star does: the sum of the products of its arms, two and two, over the arm across.
 * @param arms ohms; arm n is at corner n
 * @returns ohms; side n lies across from corner n
 */
export function sidesOf(arms: readonly number[]): number[] {
  const products = arms.reduce((sum, arm, n) => sum + arm * arms[(n + 1) % 3], 0);
  return arms.map((arm) => products / arm);
}

interface Bridge {
  /** What is made of it. */
  readonly kind: "star" | "delta";
  /** Of a triangle, side n across from corner n; of a star, arm n at corner n. */
  readonly parts: readonly Item[];
  readonly corners: readonly number[];
  readonly middle: number;
}

/**
 * The triangle or star with which a reduction goes on: a triangle of which a corner joins one more part only (that part
 * and the arm are in series then), else a star (its middle is gone then).
 * @param kept nodes that stay
 * @returns null where there is neither
 */
export function bridgeIn(items: readonly Item[], kept: ReadonlySet<number>): Bridge | null {
  const at = new Map<number, Item[]>();
  for (const item of items) for (const node of [item.from, item.to]) at.set(node, [...(at.get(node) ?? []), item]);
  const isInner = (node: number) => !kept.has(node) && at.get(node)?.length === 3;
  const otherEnd = (item: Item, node: number) => (item.from === node ? item.to : item.from);
  for (const [corner, meeting] of at) {
    if (!isInner(corner)) continue;
    for (const [a, b] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ]) {
      const [first, second] = [meeting[a], meeting[b]];
      const ends = [otherEnd(first, corner), otherEnd(second, corner)];
      const across = items.find(
        (i) => i !== first && i !== second && ends.includes(i.from) && ends.includes(i.to) && i.from !== i.to,
      );
      if (across && ends[0] !== ends[1])
        return { kind: "star", parts: [across, second, first], corners: [corner, ends[0], ends[1]], middle: -1 };
    }
  }
  for (const [middle, parts] of at) {
    const corners = parts.map((p) => otherEnd(p, middle));
    if (isInner(middle) && new Set(corners).size === 3) return { kind: "delta", parts, corners, middle };
  }
  return null;
}
