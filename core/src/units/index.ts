export { type ParsedQuantity, parseQuantity, type Unit } from "./parseQuantity.ts";
export { type DecimalMark, type PrintOptions, printQuantity, writeQuantity } from "./printQuantity.ts";
