import { readCase, readParts, readReadings, readTrail, recognise } from "@hound/core/notation";
import { seededRandom } from "@hound/core/simulate";
import { median, row, times } from "./timing.ts";

/** The readers of texts at their worst, a hundred thousand characters each, beside an ordinary trail of that length; milliseconds. */
const SIZE = 100_000;
const ROUNDS = Number(process.env.HOUND_ROUNDS ?? 5);
const filled = (piece: string) => piece.repeat(Math.ceil(SIZE / piece.length)).slice(0, SIZE);
const WORST: Readonly<Record<string, string>> = {
  "blank lines": filled("\n"),
  titles: filled("title x\n"),
  parentheses: filled("("),
  forks: `BT1 9V: ${filled("(R1 1|")}`,
  "loose words": filled("x "),
  brackets: filled("["),
  "open names": filled("[a "),
  quotes: filled('"'),
  "one part again": filled("R1 1k "),
  loops: Array.from({ length: 7000 }, (_, i) => `V${i} 1V: R${i}`).join("\n"),
  "one word": filled("a"),
};
const ordinary = Array.from({ length: 2900 }, (_, i) => `R${i + 1} ${1 + (i % 9)}k 5% # in row ${i}`).join("\n+ ");
const plain = median(times(ROUNDS, () => readTrail(`BT1 9V: ${ordinary}`)));
row("text", "median", "times ordinary");
row(`ordinary (${ordinary.length})`, plain);
for (const [name, text] of Object.entries(WORST)) {
  const took = median(times(ROUNDS, () => readTrail(text)));
  row(name, took, took / plain);
}

// Made-up texts through every reader: none may throw, and every mistake has its place.
const random = seededRandom(99);
const PIECES = [
  "R1",
  "1k",
  "(",
  ")",
  "|",
  "+",
  "[A]",
  ":",
  "BT1",
  "9V",
  "\n",
  " ",
  '"',
  "{",
  "}",
  ",",
  ";",
  "\t",
  "é",
  "0",
  "voltage",
  "#",
  "title ",
  "point A ",
  " from A to B",
  "R1=",
  "|",
];
const COUNT = Number(process.env.HOUND_FUZZ ?? 1_000_000);
let slowest = 0;
let mistakes = 0;
for (let i = 0; i < COUNT; i += 1) {
  const text = Array.from(
    { length: 1 + Math.floor(random.next() * 40) },
    () => PIECES[Math.floor(random.next() * PIECES.length)],
  ).join("");
  const start = performance.now();
  for (const read of [readTrail, readParts, readReadings, readCase, recognise]) {
    for (const m of read(text).mistakes) {
      mistakes += 1;
      if (!(m.line >= 1 && m.column >= 1 && m.from >= 0 && m.to <= text.length + 1))
        throw new Error(`no place: ${JSON.stringify([text, m])}`);
    }
  }
  slowest = Math.max(slowest, performance.now() - start);
}
row("");
row("made-up texts through five readers", COUNT, "slowest", slowest, "mistakes placed", mistakes);
