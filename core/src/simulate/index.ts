export { BenchMeter, type BenchMeterOptions, type Shown } from "./benchMeter.ts";
export { drawCircuit } from "./drawCircuit.ts";
export { FaultDrawer } from "./drawFaults.ts";
export { monteCarlo, type Samples } from "./monteCarlo.ts";
export { type Random, seededRandom } from "./random.ts";
export {
  type BenchOptions,
  drawTolerances,
  type Slipped,
  type TakenReading,
  takeOn,
  takeReadings,
} from "./takeReadings.ts";
