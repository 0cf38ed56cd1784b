import { splitDesignator } from "../../circuit/index.ts";
import { applyEdits } from "../mistake.ts";
import { readTrail, type Trail } from "../trail/index.ts";

/** Words of parts written elsewhere, to go into this trail: designators in use here become the next free ones. */
export function withFreeDesignators(trail: Trail, words: string): string {
  const { places } = readTrail(words);
  const taken = new Set([...trail.places.keys(), ...places.keys()]);
  const edits = [...places.values()].flatMap(({ designator, designatorSpan }) => {
    if (!trail.places.has(designator)) return [];
    const split = splitDesignator(designator);
    const stem = split?.letters ?? `${designator.replace(/_\d+$/, "")}_`;
    let number = split?.number ?? 2;
    while (taken.has(`${stem}${number}`)) number += 1;
    const insert = `${stem}${number}`;
    taken.add(insert);
    return [{ ...designatorSpan, insert }];
  });
  return applyEdits(words, edits);
}
