import { saveFile } from "../app/saveFile.ts";

/** Columns of a parts table as one would head them, and two rows that show how they are filled in. */
const TEMPLATE = `Part,From,To,Value,Tol,Rating,Note\r\nBT1,P,0,12V,,,"plus, then minus"\r\nR1,P,0,4k7,5%,0.25W,\r\n`;

/** Saves a parts table to be filled in with a spreadsheet. */
export function saveTemplate() {
  saveFile(TEMPLATE, "parts-template.csv", "text/csv");
}
