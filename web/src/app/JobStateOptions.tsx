import { JOB_STATES } from "@hound/core/record";

/** The states a job can be in, as choices. */
export function JobStateOptions() {
  return Object.entries(JOB_STATES).map(([key, word]) => (
    <option key={key} value={key}>
      {word}
    </option>
  ));
}
