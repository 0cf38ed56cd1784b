export { BenchMeter, type Shown } from "./benchMeter.ts";
export { drawCircuit } from "./drawCircuit.ts";
export { FaultDrawer } from "./drawFaults.ts";
export { monteCarlo } from "./monteCarlo.ts";
export { type Random, seededRandom } from "./random.ts";
export {
  drawTolerances,
  takeOn,
  takeReadings,
} from "./takeReadings.ts";
