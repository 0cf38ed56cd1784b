import { fingerprintOf } from "@hound/core/circuit";
import { habitsOf } from "@hound/core/faults";
import { type CaseFile, writeCase } from "@hound/core/notation";
import { type Habits, situationOf } from "@hound/core/record";
import { useQueryClient } from "@tanstack/react-query";
import { readingsOf } from "./ops.ts";
import type { DeskState } from "./savedJob.ts";

/** Writes case files, with the workshop's habits as they count for the job's circuit. */
export function useCaseOf(): (state: DeskState) => string {
  const queries = useQueryClient();
  return (state) => {
    const { circuit } = state.trail;
    const key = circuit ? fingerprintOf(circuit) : "";
    return caseOf(state, new Date(), queries.getQueryData<Habits>(["habits", key]), key);
  };
}

/** All there is of a job, saved or not, as a case file; what was refused is among it. */
export function caseOf(
  { job, text, pending, refused }: DeskState,
  now = new Date(),
  learnt?: Habits,
  key = "",
): string {
  const more = refused.flatMap((one) => (one.what === "op" ? [one.op] : []));
  const { title, complaint, finding, details, meter, priors, isWet, standing, tags, claims, work, closing } = job;
  const readings = readingsOf({ job, pending: [...pending, ...more] }).map((r) => r.reading);
  const habits = learnt ? habitsOf(learnt, key) : {};
  const file: CaseFile = {
    format: "clever-hound-case",
    version: 1,
    title,
    complaint,
    finding,
    details,
    circuit: text,
    meter,
    priors,
    ...(Object.keys(habits).length > 0 ? { habits } : {}),
    situation: situationOf(
      job,
      readings.map((reading) => ({ reading })),
    ),
    ...(isWet ? { isWet } : {}),
    standing,
    ...(tags.length > 0 ? { tags } : {}),
    ...(Object.keys(claims).length > 0 ? { claims } : {}),
    ...(work ? { work } : {}),
    ...(closing ? { closing, repair: closing.faults } : {}),
    readings,
    // Says of itself when it was taken, and of which version.
    exported: { at: now.toISOString(), circuitVersion: job.circuit.revision + 1, jobRevision: job.revision },
  };
  return writeCase(file);
}
