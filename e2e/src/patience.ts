/** How much slower than a quiet machine this one is, as `npm test` measured it: time limits stretch by so much. */
export const PATIENCE = Number(process.env.HOUND_PATIENCE ?? 4);

/** A time limit for this machine. @param ms for a quiet one */
export const patient = (ms: number): number => ms * PATIENCE;
