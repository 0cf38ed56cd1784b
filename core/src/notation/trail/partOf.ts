import {
  DEFAULTS,
  isInstrumentOpen,
  KINDS,
  type KindOf,
  MATERIALS,
  type NodeName,
  type Part,
  rowOf,
  usualOhms,
} from "../../circuit/index.ts";
import type { PartNode } from "./tree.ts";

/** A part with every default filled in; the kinds table and the model give them. */
export function partOf(node: PartNode, from: NodeName, to: NodeName): Part {
  const { designator, kind, written } = node;
  const shared = {
    designator,
    from,
    to,
    tolerance: written.tolerance ?? KINDS[kind].tolerance,
    ...(written.tolerance === KINDS[kind].tolerance ? { saysTolerance: true as const } : {}),
    ...(written.powerRating === undefined ? {} : { powerRating: written.powerRating }),
    ...(written.currentRating === undefined ? {} : { currentRating: written.currentRating }),
    ...(written.note === undefined ? {} : { note: written.note }),
  };
  const { hotOhms, pulls, drops } = written;
  const behaviour = {
    ...(hotOhms === undefined ? {} : { hotOhms }),
    ...(pulls === undefined ? {} : { pulls }),
    ...(drops === undefined ? {} : { drops }),
  };
  const row = KINDS[kind];
  const ohms = written.resistance?.by === "ohms" ? written.resistance.ohms : undefined;
  switch (row.form) {
    case "source":
      return {
        ...shared,
        kind: kind as KindOf<"source">,
        volts: written.volts == null ? null : Math.abs(written.volts),
        internalOhms: written.internalOhms ?? DEFAULTS.internalOhms,
        ...(written.internalOhms === DEFAULTS.internalOhms ? { saysInternal: true as const } : {}),
        ...(written.limit === undefined ? {} : { limit: written.limit }),
        ...(written.safety === undefined ? {} : { safety: written.safety }),
      };
    case "track":
      return {
        ...shared,
        kind: kind as KindOf<"track">,
        ohms: ohms ?? 1,
        at: written.at ?? 0.5,
        ...(written.wiper === undefined ? {} : { wiper: written.wiper as NodeName }),
      };
    case "lever": {
      const position = written.position ?? "closed";
      return { ...shared, kind: kind as KindOf<"lever">, ohms: ohms ?? usualOhms(kind, shared), position };
    }
    case "ohms": {
      const part = { ...shared, kind: kind as KindOf<"ohms">, ohms: ohms ?? usualOhms(kind, shared) };
      return ohms !== undefined && isInstrumentOpen(part) ? { ...part, saysOhms: true } : part;
    }
    case "junction": {
      const material = written.material ?? rowOf(kind).material ?? "silicon";
      const volts = written.volts ?? MATERIALS[material].volts;
      return { ...shared, kind: kind as KindOf<"junction">, material, volts };
    }
    case "bridge": {
      const material = written.material ?? row.material;
      return {
        ...shared,
        kind: kind as KindOf<"bridge">,
        material,
        volts: written.volts ?? MATERIALS[material].volts,
        plus: written.plus as NodeName,
        minus: written.minus as NodeName,
      };
    }
    case "capacitance":
      return {
        ...shared,
        kind: kind as KindOf<"capacitance">,
        ...(written.farads === undefined ? {} : { farads: written.farads }),
        ...(written.volts == null ? {} : { voltRating: written.volts }),
      };
    case "resistance":
      return {
        ...shared,
        kind: kind as KindOf<"resistance">,
        resistance: written.resistance ?? { by: "unknown" },
        ...behaviour,
      };
    default:
      return row satisfies never;
  }
}
