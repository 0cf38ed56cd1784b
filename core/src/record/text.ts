/** Whether a text has no half of a character: UTF-16 surrogates come in pairs (Unicode, 3.8). */
export function isWellFormed(text: string): boolean {
  return !/\p{Surrogate}/u.test(text);
}

/** The text with a mark in the place of each half of a character. */
export function wellFormed(text: string): string {
  return text.replace(/\p{Surrogate}/gu, "\ufffd");
}

/** As many whole characters of a text as fit into so many UTF-16 units. */
export function clipped(text: string, most: number): string {
  return text.slice(0, most).replace(/[\ud800-\udbff]$/, "");
}
