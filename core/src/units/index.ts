export { E_SERIES, type ESeries, nearestInSeries, seriesOf, valuesOfSeries } from "./eSeries.ts";
export { type ParsedQuantity, parseQuantity, type Unit } from "./parseQuantity.ts";
export { type DecimalMark, type PrintOptions, printQuantity, writeQuantity } from "./printQuantity.ts";
