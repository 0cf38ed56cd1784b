export { HEADINGS, headAt, type PartColumn } from "./headings.ts";
export { lostInPartsTable, type ReadParts, readParts, writeParts } from "./parts.ts";
export { type ReadTable, readReadings, writeReadings } from "./readings.ts";
export { sheetOf, unparse as writeTable } from "./sheet.ts";
