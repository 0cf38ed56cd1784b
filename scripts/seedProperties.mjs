// Set-up of the unit tests: properties draw the same examples in every run, so that a red run tells of a change.
// PROPERTY_SEED=random (or a number) draws others; what fails then is kept as an example of its own.
import fc from "fast-check";

const asked = process.env.PROPERTY_SEED ?? "20261125";
const seed = asked === "random" ? Date.now() % 2 ** 31 : Number(asked);
if (!Number.isInteger(seed)) throw new Error(`PROPERTY_SEED is "random" or a whole number, not "${asked}".`);
// Looking for a smaller example of what failed can take for ever: it ends after a minute.
fc.configureGlobal({ seed, interruptAfterTimeLimit: 60_000 });
