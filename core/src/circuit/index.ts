export {
  CONTACT_KINDS,
  DEFAULTS,
  KIND_NAMES,
  KINDS,
  type Kind,
  kindOfDesignator,
  splitDesignator,
} from "./kinds.ts";
export {
  type Branch,
  buildNetwork,
  COLD_SHARE,
  FILAMENT_EXPONENT,
  IDEAL_OHMS,
  idealised,
  type Law,
  type Network,
  UnknownValueError,
} from "./network.ts";
export { Circuit, Designator, NodeName, nodesOf, Part, Resistance } from "./part.ts";
