import { useNotice } from "../app/Notice.tsx";
import type { JobDesk } from "./desk.ts";

/** Changes fields of a job; what could not be kept is said. */
export function useJobChange(desk: JobDesk): (change: Parameters<JobDesk["changeJob"]>[0]) => Promise<void> {
  const notice = useNotice();
  return async (change) => {
    try {
      await desk.changeJob(change);
    } catch (error) {
      notice({ text: `Not changed: ${(error as Error).message}` });
    }
  };
}
