/** Sheets that can be handed over, one table for routes, tabs and tests. */
export const SHEETS = {
  expected: "Expected values",
  reduction: "Reduction",
  measured: "Measured against expected",
  variants: "Variants",
  job: "Job sheet",
  report: "Report",
} as const;
export type SheetName = keyof typeof SHEETS;
export const SHEET_NAMES = Object.keys(SHEETS) as SheetName[];

export const PAPERS = {
  a4: { name: "A4", size: "A4", width: "210mm" },
  letter: { name: "Letter", size: "Letter", width: "8.5in" },
} as const;
export type Paper = keyof typeof PAPERS;

/** Width of what is printed, in the drawing's pixels: a sheet without its margins of 14 mm. */
export const PRINTED_WIDTH: Readonly<Record<Paper, number>> = { a4: 688, letter: 710 };
