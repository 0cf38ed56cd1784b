import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { recognise } from "@hound/core/notation";
import { seededRandom } from "@hound/core/simulate";
import { row } from "./timing.ts";

/**
 * Ten thousand damaged trails, tables and cases, from the demo's own: each must be read to the end, with every mistake in
 * its place, and none may take long. Prints how many were still sound, and the slowest.
 */
const ROUNDS = 10_000;
const root = join(import.meta.dirname, "..", "..", "demo");
const sources = ["circuits", "cases"].flatMap((folder) =>
  readdirSync(join(root, folder)).map((name) => readFileSync(join(root, folder, name), "utf8")),
);
sources.push("designator,from,to,value,unit\nBT1,P,0,12,V\nR1,P,A,4k7,ohm\nR2,A,0,470,ohm\n");
sources.push("quantity;from;to;value;unit\nvoltage;B;;7,42;V\ncurrent;;;0,01;A\n");
const SPICE = [
  "",
  "(",
  ")",
  "|",
  "[",
  "]",
  "+",
  ":",
  '"',
  "#",
  "\n",
  "%",
  "=",
  ",",
  ";",
  "R1",
  "BT2 9V",
  "é",
  "\u0000",
  "9e99",
  "{",
  "}",
  "null",
];

const random = seededRandom(17);
const pick = <T>(list: readonly T[]): T => list[Math.floor(random.next() * list.length)];
let [sound, slowest, misplaced] = [0, 0, 0];
for (let round = 0; round < ROUNDS; round += 1) {
  let text = pick(sources);
  for (let hit = 0; hit < 1 + random.next() * 5; hit += 1) {
    const at = Math.floor(random.next() * text.length);
    text = text.slice(0, at) + pick(SPICE) + text.slice(at + Math.floor(random.next() * 6));
  }
  const start = performance.now();
  const { mistakes, trail, readings } = recognise(text);
  slowest = Math.max(slowest, performance.now() - start);
  if (mistakes.length === 0 && (trail !== null || readings.length > 0)) sound += 1;
  for (const m of mistakes) if (!(m.line >= 1 && m.column >= 1 && m.message.length > 5)) misplaced += 1;
}
row("texts", "still sound", "mistakes without a place", "slowest, ms");
row(`${ROUNDS}`, `${sound}`, `${misplaced}`, slowest);
