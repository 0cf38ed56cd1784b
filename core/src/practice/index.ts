export {
  Act,
  BenchNow,
  COSTS,
  Costs,
  Display,
  freedEnd,
  Told,
  Touch,
  TRAPS,
  Trap,
  UNSAFE,
} from "./acts.ts";
export { type BenchState, benchAtFirst, type Done, doAct, NOTHING_BURNT, standingOf } from "./bench.ts";
export { CarefulHands } from "./carefulHands.ts";
export { FIRST_CIRCUITS } from "./circuits.ts";
export {
  type Choose,
  follow,
  type Hands,
  type LookAsked,
  namesOf,
  type Outcome,
  rightOf,
  type Step,
  type Way,
} from "./follow.ts";
export {
  HELP,
  Help,
  Hunt,
  HuntList,
  HuntSummary,
  MOST_ACTS,
  MOST_PARTS,
  NewAct,
  NewHunt,
  NewNaming,
  RunFile,
} from "./hunt.ts";
export { complaintOf, lookAt, looksOf, noticedIn } from "./lookAt.ts";
export { DoneAct, type Lead, type MarkedStep, type Marks, marksOf, Naming } from "./marks.ts";
export { Burnt, dialOf } from "./meterOn.ts";
export { anyNode, halving, outward, plainWay, WAYS, type WayName } from "./plainWays.ts";
export { type Progress, progressOf, type RunPoint, type SortProgress } from "./progress.ts";
export {
  drawWorld,
  FAULT_KINDS,
  FaultCount,
  FaultKind,
  HiddenFault,
  hiddenOf,
  kindOfMode,
  ownersOf,
  situationFor,
  type World,
  type WorldOptions,
  worldOf,
} from "./world.ts";
