import { diagnose } from "./diagnose.ts";

/** What each thread of the pool runs. */
export default diagnose;
