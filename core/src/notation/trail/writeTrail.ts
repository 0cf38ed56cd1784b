import {
  type Circuit,
  furtherLeads,
  idealOhms,
  isTakenForGranted,
  isToleranceWritten,
  kindOfDesignator,
  MATERIALS,
  type NodeName,
  nodesOf,
  type Part,
  rowOf,
  usualOhms,
} from "../../circuit/index.ts";
import { writeQuantity } from "../../units/index.ts";

/** Writes a circuit as a trail of one part a line between two nodes; it reads back as the same circuit. */
export function writeTrail(circuit: Circuit): string {
  const name = legalNames(circuit);
  const lines = [
    ...(circuit.title === "" ? [] : [`title ${circuit.title}`]),
    ...circuit.notes.map((note) => `note ${note}`),
    `reference ${name(circuit.reference)}`,
    ...(circuit.points ?? []).map((p) => `point ${name(p.node)} ${p.called}${p.note ? `, ${p.note}` : ""}`),
    ...circuit.parts.map((part) => {
      const [first, last] = part.kind === "supply" ? [part.to, part.from] : [part.from, part.to];
      const leads = furtherLeads(part).map(({ lead, node }) => [lead, name(node)]);
      return `[${name(first)}] ${writePart({ ...part, ...Object.fromEntries(leads) })} [${name(last)}]`;
    }),
  ];
  return `${lines.join("\n")}\n`;
}

/** “+”, the plus terminal nobody named, is not a name one can write: it becomes P. */
function legalNames(circuit: Circuit): (node: NodeName) => string {
  const taken = new Set<string>([...nodesOf(circuit), ...circuit.parts.map((p) => p.designator)]);
  return (node) => {
    if (!node.startsWith("+")) return node;
    let name = `P${node.slice(1)}`;
    while (taken.has(name)) name = `${name}_`;
    return name;
  };
}

/** A part with its values as one would write them in a trail; defaults are left out. */
export function writePart(part: Part): string {
  const words = [part.designator];
  if (kindOfDesignator(part.designator) !== part.kind) words.push(`kind=${part.kind}`);
  words.push(...valueWords(part), ...furtherLeads(part).map(({ lead, node }) => `${lead}=[${node}]`));
  if (isToleranceWritten(part)) words.push(writeQuantity(percent(part.tolerance), "%"));
  if (part.powerRating !== undefined && !isRating(part)) words.push(writeQuantity(part.powerRating, "W"));
  if (part.currentRating !== undefined) words.push(writeQuantity(part.currentRating, "A"));
  if (part.note !== undefined) words.push(`note="${part.note.replaceAll('"', "'")}"`);
  return words.join(" ");
}

/** What a part is, in the words behind its designator: value, place, what it does at work. */
export function valueWords(part: Part): string[] {
  if (part.kind === "supply")
    return [
      part.volts === null ? "?" : writeQuantity(part.volts, "V"),
      ...(isTakenForGranted(part) ? [] : [`ri=${writeQuantity(part.internalOhms)}`]),
      ...(part.limit === undefined ? [] : [`limit=${writeQuantity(part.limit, "A")}`]),
      ...(part.safety === undefined ? [] : [part.safety]),
    ];
  if (part.kind === "potentiometer") return [writeQuantity(part.ohms), `at=${percent(part.at)}%`];
  if ("resistance" in part) return [...resistanceWords(part), ...behaviourWords(part)];
  if ("material" in part) {
    const { material, volts, kind } = part;
    const { material: usual, breaksDown } = rowOf(kind);
    return [
      ...(material === usual ? [] : [material]),
      ...(!breaksDown && volts === MATERIALS[material].volts ? [] : [writeQuantity(volts, "V")]),
    ];
  }
  if (!("ohms" in part))
    return [
      ...(part.farads === undefined ? [] : [`${writeQuantity(part.farads)}F`]),
      ...(part.voltRating === undefined ? [] : [writeQuantity(part.voltRating, "V")]),
    ];
  const isUsual = part.ohms === usualOhms(part.kind, part) && !("saysOhms" in part);
  if (part.ohms === idealOhms(part.kind, part))
    return ["ideal", ...(part.kind === "switch" && part.position === "open" ? ["open"] : [])];
  return [
    // A bare number behind a fuse would be its rated current.
    ...(isUsual ? [] : [`${writeQuantity(part.ohms)}${part.kind === "fuse" ? "ohm" : ""}`]),
    ...(part.kind === "switch" && part.position === "open" ? ["open"] : []),
  ];
}

function resistanceWords({ resistance }: Extract<Part, { resistance: unknown }>): string[] {
  if (resistance.by === "unknown") return ["?"];
  if (resistance.by === "ohms") return [writeQuantity(resistance.ohms)];
  return [writeQuantity(resistance.volts, "V"), writeQuantity(resistance.watts, "W")];
}

function behaviourWords({ hotOhms, pulls, drops }: Extract<Part, { resistance: unknown }>): string[] {
  return [
    ...(hotOhms === undefined ? [] : [`hot=${writeQuantity(hotOhms)}`]),
    ...(pulls === undefined ? [] : [`pulls=${percent(pulls)}%`]),
    ...(drops === undefined ? [] : [`drops=${percent(drops)}%`]),
  ];
}

function isRating(part: Part): boolean {
  return "resistance" in part && part.resistance.by === "rating";
}

/** 0.07 → 7, without the dust of binary fractions; falls back to the exact product where that would not read back. */
function percent(fraction: number): number {
  const tidy = Number((fraction * 100).toPrecision(15));
  return tidy / 100 === fraction ? tidy : fraction * 100;
}
