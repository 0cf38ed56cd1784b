import { printFixed } from "./print.ts";

/** Bits below this are not worth a word. */
export const SAYS = 0.05;

/** What a reading says for or against something, in bits. */
export function bitsWords(bits: number | undefined): string {
  if (bits === undefined) return "";
  const size = Math.abs(bits);
  if (size < SAYS) return "says nothing";
  const digits = size >= 9.95 ? printFixed(size, 0) : printFixed(size, 1);
  return `${digits}\u00a0bit${size >= 0.95 && size < 1.05 ? "" : "s"} ${bits > 0 ? "for" : "against"}`;
}
