import { type CaseFile, writeCase } from "@hound/core/notation";
import { readingsOf } from "../desk/ops.ts";
import type { DeskState } from "../desk/savedJob.ts";

/** All there is of a job, saved or not, as a case file; what was refused is among it. */
export function caseOf({ job, text, pending, refused }: DeskState, now = new Date()): string {
  const more = refused.flatMap((one) => (one.what === "op" ? [one.op] : []));
  const { title, complaint, finding, details, meter, priors, situation, isWet, standing } = job;
  const readings = readingsOf({ job, pending: [...pending, ...more] }).map((r) => r.reading);
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
    situation,
    ...(isWet ? { isWet } : {}),
    standing,
    readings,
    // Says of itself when it was taken, and of which version.
    exported: { at: now.toISOString(), circuitVersion: job.circuit.revision + 1, jobRevision: job.revision },
  };
  return writeCase(file);
}
