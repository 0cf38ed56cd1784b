export { Bending } from "./bending.ts";
export {
  aKind,
  branchCalled,
  calledAs,
  contactOf,
  DESIGNATOR_FORM,
  designatorOf,
  kindCalled,
  kindHintedBy,
  kindOfDesignator,
  splitDesignator,
} from "./designators.ts";
export type { Line } from "./element.ts";
export {
  bends,
  bendsSharply,
  coldLaw,
  coldSpreadOf,
  drawnValue,
  type Law,
  movedVolts,
  ohmsOf,
  RATED_LAWS,
  scaledLaw,
  unitOfLaw,
  valuedLaw,
  voltsOf,
  wattsOf,
} from "./elements.ts";
export { fingerprintOf } from "./fingerprint.ts";
export { LEAST_LEAK } from "./junction.ts";
export type { KindRow } from "./kindRow.ts";
export {
  CONTACT_KINDS,
  canBeTurned,
  HAS_OHMS,
  KIND_NAMES,
  KINDS,
  type Kind,
  type KindOf,
  materialsOf,
  rowOf,
  type SymbolName,
  unitOfValue,
} from "./kinds.ts";
export {
  type BranchFault,
  bridgeName,
  type CircuitState,
  DRAWN,
  isCleared,
  lawOf,
  lawsOf,
  pieceOf,
  type Setting,
} from "./laws.ts";
export { MATERIAL_NAMES, MATERIALS, type Material } from "./materials.ts";
export { MODES, type Mode } from "./modes.ts";
export {
  type Branch,
  buildNetwork,
  idealCircuit,
  type Network,
  UnknownValueError,
  withAdded,
} from "./network.ts";
export {
  branchEnds,
  Circuit,
  Designator,
  type FurtherLead,
  furtherLeads,
  NodeName,
  nodesOf,
  Part,
  pointAt,
  Resistance,
  TestPoint,
} from "./part.ts";
export {
  DEFAULTS,
  IDEAL_INPUT_OHMS,
  IDEAL_OHMS,
  idealOhms,
  isInstrumentOpen,
  isTakenForGranted,
  isToleranceWritten,
  isVoltmeter,
  usualOhms,
  windingOf,
} from "./usual.ts";
