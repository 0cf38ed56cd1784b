/** Whether all examples are drawn (`npm test -- deep`), or a share of them. */
export const IS_DEEP = process.env.HOUND_DEEP === "1";

/** How many of so many a run draws: in an ordinary one a third. */
export const share = (all: number): number => (IS_DEEP ? all : Math.ceil(all / 3));

/** The same for fast-check. */
export const examples = (all: number): { numRuns: number } => ({ numRuns: share(all) });
