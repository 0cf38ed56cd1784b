/** Whether all is tried in full counts (`npm test -- deep`), or in smaller ones. */
export const IS_DEEP = process.env.HOUND_DEEP === "1";

/** A count for this run. */
export const count = (deep: number, ordinary: number): number => (IS_DEEP ? deep : ordinary);
