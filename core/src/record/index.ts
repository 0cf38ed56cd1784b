export { Conventions, DEFAULT_CONVENTIONS } from "./conventions.ts";
export {
  CircuitChange,
  CircuitRevisions,
  JOB_STATES,
  Job,
  JobChange,
  JobList,
  JobReading,
  JobState,
  JobSummary,
  NewJob,
  NewReading,
  ProblemDetails,
  ReadingChange,
  TEXT_LIMITS,
} from "./job.ts";
export { LibraryChange, LibraryCircuit, LibraryList, LibrarySummary, NewLibraryCircuit } from "./library.ts";
export { Accuracy, DEFAULT_METER, Meter, type MeterData, meterData } from "./meter.ts";
export { MODES, type Mode, Priors, Repaired } from "./priors.ts";
export { Configuration, type NumericReading, Reading, SEEN, type Seen } from "./reading.ts";
export { afterChange, type ChangeOfCircuit, partsNotAsDrawn, standingWith, takenSo } from "./standing.ts";
