export { BAND_COLOURS, type BandColour, bandsOf, readBands, toleranceLetter } from "./bands.ts";
export {
  E_SERIES,
  type ESeries,
  likelySlip,
  matchTwo,
  nearestInSeries,
  seriesOf,
  type TwoResistors,
  valuesOfSeries,
} from "./eSeries.ts";
export { foldCharacters } from "./fold.ts";
export { type OhmsLaw, ohmsLaw } from "./ohmsLaw.ts";
export { parseQuantity, type Unit } from "./parseQuantity.ts";
export { type DecimalMark, type PrintOptions, printQuantity, printWithLimits, writeQuantity } from "./printQuantity.ts";
