import { DEFAULTS, KINDS, meterOhms, type NodeName, type Part } from "../../circuit/index.ts";
import type { PartNode } from "./tree.ts";

/** A part with every default filled in; the kinds table and the model give them. */
export function partOf(node: PartNode, from: NodeName, to: NodeName): Part {
  const { designator, kind, written } = node;
  const shared = {
    designator,
    from,
    to,
    tolerance: written.tolerance ?? KINDS[kind].tolerance,
    ...(written.powerRating === undefined ? {} : { powerRating: written.powerRating }),
    ...(written.currentRating === undefined ? {} : { currentRating: written.currentRating }),
    ...(written.note === undefined ? {} : { note: written.note }),
  };
  const ohms = written.resistance?.by === "ohms" ? written.resistance.ohms : undefined;
  switch (kind) {
    case "supply":
      return {
        ...shared,
        kind,
        volts: written.volts == null ? null : Math.abs(written.volts),
        internalOhms: written.internalOhms ?? DEFAULTS.internalOhms,
        ...(written.internalOhms === DEFAULTS.internalOhms ? { saysInternal: true as const } : {}),
        ...(written.limit === undefined ? {} : { limit: written.limit }),
        ...(written.safety === undefined ? {} : { safety: written.safety }),
      };
    case "potentiometer":
      return {
        ...shared,
        kind,
        ohms: ohms ?? 1,
        at: written.at ?? 0.5,
        ...(written.wiper === undefined ? {} : { wiper: written.wiper as NodeName }),
      };
    case "fuse":
      return { ...shared, kind, ohms: ohms ?? DEFAULTS.fuseVolts / (written.currentRating ?? DEFAULTS.fuseAmps) };
    case "switch":
      return { ...shared, kind, ohms: ohms ?? DEFAULTS.contactOhms, position: written.position ?? "closed" };
    case "connector":
    case "wire":
    case "joint":
      return { ...shared, kind, ohms: ohms ?? DEFAULTS.contactOhms };
    case "meter":
      return { ...shared, kind, ohms: ohms ?? meterOhms(designator) };
    case "resistor":
    case "sensor":
    case "lamp":
    case "coil":
    case "load":
      return { ...shared, kind, resistance: written.resistance ?? { by: "unknown" } };
    default:
      return kind satisfies never;
  }
}
