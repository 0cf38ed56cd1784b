/** One name for two points, whichever is named first; without a second one, against the reference. */
export function pairKey(from: string, to = ""): string {
  return [from, to].sort().join("~");
}
