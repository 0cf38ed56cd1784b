/** How long the server goes on with a task, in seconds. */
export interface Limits {
  /** Reading a text that is to be saved. */
  readonly readingSeconds: number;
  /** One request to diagnose cases. */
  readonly diagnosingSeconds: number;
}

export const LIMITS: Limits = { readingSeconds: 10, diagnosingSeconds: 60 };

/** The limits of a machine so many times slower than usual. */
export function limitsTimes(patience: number): Limits {
  const { readingSeconds, diagnosingSeconds } = LIMITS;
  return { readingSeconds: readingSeconds * patience, diagnosingSeconds: diagnosingSeconds * patience };
}

/** Ends what takes longer than so many seconds. */
export function after(seconds: number): AbortSignal {
  return AbortSignal.timeout(Math.ceil(1000 * seconds));
}
