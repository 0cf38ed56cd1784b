/** What a stored text says; null where it is not JSON. */
export function jsonOf(text: string): object | null {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
