/** Dashes that a page, a letter or a keyboard may put where a hyphen or a minus is meant. */
const DASHES = /[\u2010-\u2015\u2212\ufe58\ufe63\uff0d]/g;
/** Printable characters in their full width, as some input methods type them. */
const FULL_WIDTH = /[\uff01-\uff5e]/g;
const SPACES = /[\u00a0\u2000-\u200a\u202f\u205f\u3000\t]/g;

/**
 * The text with full-width characters, every kind of dash, space and micro sign as a plain keyboard types them.
 * As long as before: columns stay what they are.
 */
export function foldCharacters(text: string): string {
  return text
    .replace(FULL_WIDTH, (c) => String.fromCharCode(c.charCodeAt(0) - 0xfee0))
    .replace(DASHES, "-")
    .replace(SPACES, " ")
    .replace(/\u2126/g, "Ω")
    .replace(/\u03bc/g, "µ");
}
