import type { Job } from "./job.ts";
import type { Situation } from "./priors.ts";
import type { Reading, Seen } from "./reading.ts";

/** What somebody sees that tells of a fault. */
const SYMPTOMS: ReadonlySet<Seen> = new Set(["dark", "dim", "bright", "blown", "burnt", "loose", "silent", "cold"]);

/**
 * Why a job is here: as it was said; where nobody said, a complaint or a symptom that was typed says it. Otherwise it is
 * neither a complaint nor a new build.
 */
export function situationOf(
  { situation, complaint }: Pick<Job, "situation" | "complaint">,
  readings: readonly { readonly reading: Reading }[],
): Situation {
  if (situation !== "unsaid") return situation;
  const isSymptom = ({ reading: r }: { readonly reading: Reading }) =>
    r.quantity === "observation" && SYMPTOMS.has(r.seen) && r.state === undefined;
  return complaint.trim() !== "" || readings.some(isSymptom) ? "complaint" : "unsaid";
}
