const TWO = (n: number) => String(n).padStart(2, "0");
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** `14:02`, of this place. */
export function clock(at: Date): string {
  return `${TWO(at.getHours())}:${TWO(at.getMinutes())}`;
}

/** `28 Nov 2026, 14:02`, of this place. */
export function dayAndTime(at: Date): string {
  return `${at.getDate()} ${MONTHS[at.getMonth()]} ${at.getFullYear()}, ${clock(at)}`;
}

/** `2026-11-28-1402`, for the name of a file. */
export function fileTime(at: Date): string {
  return `${at.getFullYear()}-${TWO(at.getMonth() + 1)}-${TWO(at.getDate())}-${clock(at).replace(":", "")}`;
}

/** `28 Nov 2026`, of this place. */
export function day(at: Date): string {
  return `${at.getDate()} ${MONTHS[at.getMonth()]} ${at.getFullYear()}`;
}
