export { AutoHold, type Held, USUAL_HOLD } from "./hold.ts";
export { MeterLines, meterName, NoMeter } from "./lines.ts";
export { IDENTIFY, NOTE, QUERIES, type Sample, STAND_IN, sampleIn } from "./protocol.ts";
export { readingAt, stepOf } from "./reading.ts";
