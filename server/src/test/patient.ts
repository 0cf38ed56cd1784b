import { limitsTimes } from "../threads/limits.ts";

/** The server's limits, stretched as the machine is slower than a quiet one: no test is about how fast it is. */
export const PATIENT = limitsTimes(Number(process.env.HOUND_PATIENCE ?? 4));
