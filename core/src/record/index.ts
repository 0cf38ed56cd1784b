export {
  Closing,
  isMended,
  isSameRepair,
  keyOfStep,
  MendStep,
  OUTCOMES,
  Outcome,
  RepairWork,
  Said,
  stepOf,
  TIMED_STAGES,
  type TimedStage,
  wasFirstRight,
} from "./closing.ts";
export { ConventionChange, Conventions, DEFAULT_CONVENTIONS } from "./conventions.ts";
export { CopyList, Paired, PairedBrowsers, Progress, Restored } from "./copies.ts";
export {
  Believed,
  CircuitChange,
  CircuitRevisions,
  Claims,
  Damaged,
  DETAILS,
  Details,
  HistoryEntry,
  isOver,
  JOB_FIELDS,
  JOB_STATES,
  Job,
  JobChange,
  type JobField,
  JobHistory,
  JobList,
  JobReading,
  JobState,
  JobSummary,
  MOST_READINGS,
  NEW_JOB_FIELDS,
  NewJob,
  NewNote,
  NewReading,
  ProblemDetails,
  ReadingChange,
  TEXT_LIMITS,
} from "./job.ts";
export { believedAt, jobAt } from "./jobAt.ts";
export { LibraryChange, LibraryCircuit, LibraryList, LibrarySummary, NewLibraryCircuit } from "./library.ts";
export {
  FailureOfCircuit,
  FaultCount,
  HabitChange,
  HabitSettings,
  Habits,
  Letterhead,
  LetterheadChange,
  type LogbookFilter,
  PartCount,
  People,
  PeopleChange,
  PersonName,
  PICTURE_LIMITS,
  Picture,
  PictureChange,
  PictureList,
  PictureWords,
  Rate,
  SORTS,
  Sort,
  Spent,
  Statistics,
  withHabitChange,
} from "./logbook.ts";
export { Accuracy, Meter, MeterCheck } from "./meter.ts";
export {
  idealMeter,
  type MeterData,
  meterData,
  meterNameOf,
  meterOf,
  type Quantity,
  type RangeData,
  UNIT_OF,
} from "./meterData.ts";
export {
  DEFAULT_METER_LINK,
  HeldReading,
  MeterAddress,
  MeterChange,
  MeterLinkSettings,
  MeterLinkState,
  MeterList,
  ProbesAt,
  WorkshopMeter,
} from "./meterLink.ts";
export { isSamePlace } from "./place.ts";
export { Opinion, Priors, Repaired, Situation } from "./priors.ts";
export {
  DIODE_TEST,
  isDiodeTest,
  isUnpowered,
  isVolts,
  type NumericReading,
  Reading,
  SEEN,
  type Seen,
} from "./reading.ts";
export { SHIPPED_METERS, type ShippedMeter } from "./shippedMeters.ts";
export { situationOf } from "./situationOf.ts";
export { takenSo } from "./takenSo.ts";
export { clipped, isWellFormed, wellFormed } from "./text.ts";
