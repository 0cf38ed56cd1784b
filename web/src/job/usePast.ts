import { believedAt, type Job, jobAt, situationOf } from "@hound/core/record";
import type { Then } from "@hound/core/whatif";
import { useQuery } from "@tanstack/react-query";
import { jobsApi } from "../api/jobs.ts";

/** More than any job has. */
const ALL = 10_000;

/**
 * What went with each number of readings when they were all there were: meter, priors and habits as they were kept then.
 * @returns from none to all readings; null until it is known
 */
export function usePast({ id, updatedAt }: Job): readonly Then[] | null {
  const { data } = useQuery({
    queryKey: ["past", id, updatedAt],
    queryFn: async () => {
      const [job, { entries }, { revisions }, { believed }] = await Promise.all([
        jobsApi.open(id),
        jobsApi.history(id, ALL),
        jobsApi.circuits(id, ALL),
        jobsApi.believed(id),
      ]);
      return [job.createdAt, ...job.readings.map((r) => r.createdAt)].map((at): Then => {
        const { meter, priors, ...then } = jobAt(job, entries, revisions, at);
        return { meter, priors, habits: believedAt(believed, at), situation: situationOf(then, then.readings) };
      });
    },
  });
  return data ?? null;
}
