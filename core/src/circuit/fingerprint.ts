import type { Circuit, Part } from "./part.ts";

/**
 * A key that is the same for circuits of the same parts with the same values, whatever their nodes are called and in
 * whatever order they are written: 16 hexadecimal digits. Two keys that differ are two circuits; that two circuits share
 * one is next to impossible (64 bits, FNV-1a, Fowler–Noll–Vo).
 */
export function fingerprintOf(circuit: Circuit): string {
  const words = circuit.parts.map((p) => `${p.designator} ${p.kind} ${valueOfPart(p)}`).sort();
  return fnv1a(words.join("\n"));
}

function valueOfPart(part: Part): string {
  if (part.kind === "supply") return String(part.volts ?? "?");
  if (part.kind === "potentiometer") return String(part.ohms);
  if (part.kind === "fuse") return String(part.currentRating ?? "");
  if ("material" in part) return `${part.material} ${part.volts}`;
  if (!("resistance" in part)) return "";
  const { resistance } = part;
  if (resistance.by === "unknown") return "?";
  return resistance.by === "ohms" ? String(resistance.ohms) : `${resistance.volts} ${resistance.watts}`;
}

const OFFSET = 0xcbf29ce484222325n;
const PRIME = 0x100000001b3n;

function fnv1a(text: string): string {
  let hash = OFFSET;
  for (let i = 0; i < text.length; i += 1) hash = BigInt.asUintN(64, (hash ^ BigInt(text.charCodeAt(i))) * PRIME);
  return hash.toString(16).padStart(16, "0");
}
