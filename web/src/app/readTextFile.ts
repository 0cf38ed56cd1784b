/** Files larger than this are none of ours. */
const LARGEST = 5_000_000;

/** How files begin that are no text, and what to do with them. */
const OTHERS: readonly (readonly [readonly number[], string])[] = [
  [[0x89, 0x50, 0x4e, 0x47], "a picture (PNG)"],
  [[0xff, 0xd8, 0xff], "a picture (JPEG)"],
  [[0x47, 0x49, 0x46], "a picture (GIF)"],
  [[0x25, 0x50, 0x44, 0x46], "a PDF; copy the table out of it and paste it here"],
  [[0x50, 0x4b, 0x03, 0x04], "a workbook or an archive; save the sheet as CSV, or copy its cells and paste them here"],
  [[0xd0, 0xcf, 0x11, 0xe0], "an old workbook; save the sheet as CSV, or copy its cells and paste them here"],
];

/** The text of a file, or at once why it is none. */
export async function readTextFile(file: File): Promise<{ readonly text: string } | { readonly why: string }> {
  if (file.size > LARGEST)
    return { why: `${file.name} has ${Math.round(file.size / 1e6)} MB: too large to be a circuit` };
  const bytes = new Uint8Array(await file.arrayBuffer());
  const [, other] = OTHERS.find(([start]) => start.every((b, i) => bytes[i] === b)) ?? [];
  if (other) return { why: `${file.name} is ${other}` };
  const isWide = (bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff);
  if (isWide) return { text: new TextDecoder(bytes[0] === 0xff ? "utf-16le" : "utf-16be").decode(bytes) };
  if (bytes.subarray(0, 4096).includes(0)) return { why: `${file.name} is no text` };
  try {
    return { text: new TextDecoder("utf-8", { fatal: true }).decode(bytes) };
  } catch {
    // Spreadsheets save in the old Western encoding.
    return { text: new TextDecoder("windows-1252").decode(bytes) };
  }
}
