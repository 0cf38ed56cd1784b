import { aKind, type Part, rowOf } from "../circuit/index.ts";
import { SEEN, type Seen } from "../record/index.ts";

/** What can be seen of a kind of part, besides what can be seen of any; the likeliest first. */
const SEEN_OF: Partial<Record<Part["kind"], readonly Seen[]>> = {
  lamp: ["dark", "dim", "lit", "bright", "blown", "intact", "works"],
  led: ["dark", "dim", "lit", "bright", "works"],
  fuse: ["blown", "intact", "works"],
  coil: ["silent", "pulls", "runs", "cold", "works"],
  load: ["silent", "runs", "cold", "works"],
  resistor: ["cold"],
  sensor: ["cold"],
  switch: ["works"],
  contact: ["works"],
};
const SEEN_OF_ANY: readonly Seen[] = ["hot", "burnt", "loose"];

/** How else one says it at the bench; where two say the same, the part's kind decides. */
const ALSO: Readonly<Record<Seen, readonly string[]>> = {
  dark: ["off", "dead", "unlit", "not lit", "no light", "not on", "not shining", "does not light"],
  dim: ["dimly", "faint", "weak", "half lit", "too dim", "not bright"],
  lit: ["on", "lights", "lights up", "shines", "shining", "light on", "glows", "glowing"],
  bright: ["too bright", "brighter", "very bright"],
  blown: ["open", "broken", "gone", "not intact", "melted"],
  intact: ["whole", "not blown", "unbroken"],
  hot: ["too hot", "very hot", "overheated", "smells"],
  burnt: ["burned", "burnt out", "charred", "scorched", "black", "brown"],
  loose: ["wobbly", "wobbles", "not tight"],
  silent: ["dead", "off", "quiet", "stands still", "no click", "nothing", "does nothing", "not pulling", "not running"],
  pulls: ["clicks", "click", "pulled in", "picks up", "energised", "on"],
  runs: ["running", "turns", "turning", "spins", "on"],
  cold: ["not warm", "not hot", "no heat"],
  works: ["ok", "good", "fine", "working", "all right", "alright", "normal"],
};

/** What stands before what is seen, and says nothing by itself. */
const BEFORE = /^(?:is|are|was|looks|looked|seems|stays|stayed|remains|still|again|now|it|the|comes?|goes|went)\s+/;

/** What can be seen of a part, the likeliest first. */
export function seenOf({ kind }: Pick<Part, "kind">): readonly Seen[] {
  return [...(SEEN_OF[kind] ?? []), ...SEEN_OF_ANY];
}

/**
 * What is seen of a part in words: `dark`, `looks intact`, `still off`, `ok`, `glows dimly`.
 * @param words behind the part, of which any may also be said of something else
 * @returns null where nothing of the kind is said; what this kind never shows is known too, for it to be asked about
 */
export function seenIn(words: string, part: Pick<Part, "kind">): Seen | null {
  const said = words.toLowerCase().replace(/[.,!]/g, " ").trim().replace(/\s+/g, " ").replaceAll("doesn't", "does not");
  const phrases = [said];
  for (let rest = said; BEFORE.test(rest); ) {
    rest = rest.replace(BEFORE, "");
    phrases.push(rest);
  }
  const own = seenOf(part);
  for (const phrase of phrases) {
    const exact = (Object.keys(SEEN) as Seen[]).find((seen) => phrase === seen || phrase === SEEN[seen].toLowerCase());
    if (exact) return exact;
    const also = own.find((seen) => ALSO[seen].includes(phrase));
    // Of a part that works by being whole, that it is fine is what the eye finds.
    if (also === "works" && rowOf(part.kind).works === "intact") return "intact";
    if (also) return also;
  }
  return null;
}

/** @returns what is wrong with saying so of such a part; null where it can be seen */
export function troubleWithLook(part: Pick<Part, "kind" | "designator">, seen: Seen): string | null {
  if (seenOf(part).includes(seen)) return null;
  return `nobody sees that ${part.designator} ${SEEN[seen]}; ${whatOneSees(part)}`;
}

/** `of a coil one sees silent, pulls, runs …`. */
export function whatOneSees(part: Pick<Part, "kind">): string {
  return `of ${aKind(part.kind)} one sees ${seenOf(part).join(", ")}`;
}
