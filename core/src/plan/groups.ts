import type { Outlook } from "./outlook.ts";

/**
 * Hypotheses that no measurement without dismantling could tell apart: whatever is on offer, their readings differ by
 * less than the meter's own error. Each hypothesis is judged by its heaviest outlook.
 * @param count hypotheses, @param offered numbers of candidates that need no dismantling,
 * @param errors the meter's standard deviation at each candidate
 * @returns the group number of each hypothesis; those without an outlook are groups of their own
 */
export function groupsOf(
  outlooks: readonly Outlook[],
  count: number,
  offered: readonly number[],
  errors: (candidate: number, value: number) => number,
): Int32Array {
  const group = Int32Array.from({ length: count }, (_, i) => i);
  const leading = new Map<number, Outlook>();
  for (const outlook of outlooks) {
    const known = leading.get(outlook.hypothesis);
    if (!known || known.probability < outlook.probability) leading.set(outlook.hypothesis, outlook);
  }
  const list = [...leading.values()];
  for (let a = 0; a < list.length; a += 1) {
    for (let b = 0; b < a; b += 1) {
      if (group[list[b].hypothesis] !== list[b].hypothesis) continue;
      const alike = offered.every((k) => {
        const off = Math.abs(list[a].mean[k] - list[b].mean[k]);
        return off <= 2 * errors(k, list[b].mean[k]);
      });
      if (!alike) continue;
      group[list[a].hypothesis] = list[b].hypothesis;
      break;
    }
  }
  return group;
}
