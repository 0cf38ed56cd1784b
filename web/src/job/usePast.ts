import { fingerprintOf } from "@hound/core/circuit";
import { habitsOf } from "@hound/core/faults";
import { readTrail } from "@hound/core/notation";
import { type Job, jobAt, situationOf } from "@hound/core/record";
import type { Then } from "@hound/core/whatif";
import { useQuery } from "@tanstack/react-query";
import { jobsApi } from "../api/jobs.ts";
import { workshopApi } from "../api/workshop.ts";

/** More than any job has. */
const ALL = 10_000;
/** Moments of which the habits are asked for; of longer jobs those of the beginning count all along. */
const MOMENTS = 60;

/**
 * What went with each number of readings when they were all there were: meter and priors as the job had them then, and
 * what closed jobs had taught by then; what it taught itself came later.
 * @returns from none to all readings; null until it is known
 */
export function usePast({ id, updatedAt }: Job): readonly Then[] | null {
  const { data } = useQuery({
    queryKey: ["past", id, updatedAt],
    queryFn: async () => {
      const [job, { entries }, { revisions }] = await Promise.all([
        jobsApi.open(id),
        jobsApi.history(id, ALL),
        jobsApi.circuits(id, ALL),
      ]);
      const moments = [job.createdAt, ...job.readings.map((r) => r.createdAt)];
      const asked = moments.length <= MOMENTS ? moments : [job.createdAt];
      const known = new Map(
        await Promise.all(
          [...new Set(asked)].map(async (at) => {
            const then = jobAt(job, entries, revisions, at);
            const { circuit } = readTrail(then.circuit.trail);
            const key = circuit ? fingerprintOf(circuit) : "";
            return [at, habitsOf(await workshopApi.habits(key, at), key)] as const;
          }),
        ),
      );
      return moments.map((at): Then => {
        const then = jobAt(job, entries, revisions, at);
        const habits = known.get(at) ?? known.get(job.createdAt);
        return { meter: then.meter, priors: then.priors, habits, situation: situationOf(then, then.readings) };
      });
    },
  });
  return data ?? null;
}
