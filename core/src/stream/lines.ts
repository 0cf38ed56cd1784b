import { clipped } from "../record/index.ts";

/** Characters of a line at most, and lines within a second: more is no meter. */
const LONGEST = 1000;
const MOST_LINES = 500;
/** Characters of a meter's name that are kept. */
const LONGEST_NAME = 120;

/** What comes from a meter makes no sense: said in words. */
export class NoMeter extends Error {}

/** Lines out of the text that a meter sends, as it comes in: they end with CR, LF or both. */
export class MeterLines {
  private rest = "";
  private count = 0;
  private second = Number.NEGATIVE_INFINITY;

  /** @param clock milliseconds that only go forward */
  constructor(private readonly clock: () => number) {}

  /**
   * @returns the lines that are complete now, without those that are empty
   * @throws NoMeter where lines never end, or come faster than anything measures
   */
  take(text: string): readonly string[] {
    const lines = (this.rest + text).split(/[\r\n]+/);
    this.rest = lines.pop() ?? "";
    if (this.rest.length > LONGEST || lines.some((line) => line.length > LONGEST))
      throw new NoMeter(`it sends lines of more than ${LONGEST} characters`);
    const told = lines.map((line) => line.trim()).filter((line) => line !== "");
    const now = this.clock();
    if (now - this.second > 1000) {
      this.second = now;
      this.count = 0;
    }
    this.count += lines.length;
    if (this.count > MOST_LINES) throw new NoMeter(`it sends more than ${MOST_LINES} lines a second`);
    return told;
  }
}

/** The name that a meter gives itself, as much of it as can be shown. */
export function meterName(line: string): string {
  const plain = line.replace(/\p{C}+/gu, " ").trim();
  return plain.length > LONGEST_NAME ? `${clipped(plain, LONGEST_NAME)}…` : plain;
}
