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

/**
 * Does what may take so many seconds; the signal it is given is aborted then, or when `gone` is. The timer holds what it
 * ends: a signal made of others (`AbortSignal.any`) is forgotten by Node 20 with its timeout when garbage is collected.
 */
export async function within<T>(
  seconds: number,
  work: (signal: AbortSignal) => Promise<T>,
  gone?: AbortSignal,
): Promise<T> {
  const limit = new AbortController();
  const end = () => limit.abort();
  const timer = setTimeout(end, Math.ceil(1000 * seconds));
  gone?.addEventListener("abort", end);
  if (gone?.aborted) end();
  try {
    return await work(limit.signal);
  } finally {
    clearTimeout(timer);
    gone?.removeEventListener("abort", end);
  }
}
