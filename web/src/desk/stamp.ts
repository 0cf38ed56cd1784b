import { dayAndTime, fileTime } from "../words/times.ts";
import type { DeskState } from "./savedJob.ts";

/** When something was taken out of a job, and from which version of its circuit. */
export function stampOf({ job, text }: Pick<DeskState, "job" | "text">, now: Date): string {
  const unsaved = text === job.circuit.trail ? "" : ", with changes not saved yet";
  return `${job.title}: circuit version ${job.circuit.revision + 1}${unsaved}, ${dayAndTime(now)}`;
}

/** The same for the name of a file. */
export function fileStamp({ job }: Pick<DeskState, "job">, now: Date): string {
  return `-v${job.circuit.revision + 1}-${fileTime(now)}`;
}
