export { fingerprintOf } from "./fingerprint.ts";
export {
  CONTACT_KINDS,
  DEFAULTS,
  isTakenForGranted,
  KIND_NAMES,
  KINDS,
  type Kind,
  kindHintedBy,
  kindOfDesignator,
  meterOhms,
  splitDesignator,
  windingOf,
} from "./kinds.ts";
export {
  type AddedPart,
  type BranchFault,
  bridgeName,
  type CircuitState,
  COLD_SHARE,
  DRAWN,
  FILAMENT_EXPONENT,
  filamentOhms,
  isCleared,
  type Law,
  lawOf,
  lawsOf,
  nameOfAdded,
  pieceOf,
  type Setting,
  scaledLaw,
  wattsOf,
} from "./laws.ts";
export { MODES, type Mode } from "./modes.ts";
export {
  type Branch,
  buildNetwork,
  IDEAL_OHMS,
  idealCircuit,
  type Network,
  UnknownValueError,
  withAdded,
} from "./network.ts";
export { Circuit, Designator, NodeName, nodesOf, Part, pointAt, Resistance, TestPoint } from "./part.ts";
