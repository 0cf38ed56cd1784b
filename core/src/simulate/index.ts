export { type Random, seededRandom } from "../kernels/index.ts";
export { BenchMeter, displayed, drawGain, type Shown } from "./benchMeter.ts";
export { drawCircuit, type ToDraw } from "./drawCircuit.ts";
export { FaultDrawer } from "./drawFaults.ts";
export { monteCarlo } from "./monteCarlo.ts";
export {
  drawPieces,
  drawTolerances,
  takeOn,
  takeReadings,
} from "./takeReadings.ts";
