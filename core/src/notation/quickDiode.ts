import type { Circuit } from "../circuit/index.ts";
import { DIODE_TEST, type NumericReading } from "../record/index.ts";
import { parseQuantity, printQuantity } from "../units/index.ts";
import type { Target } from "./quickTarget.ts";
import { type QuickReading, type Word, wrong } from "./quickValue.ts";

/** `diode`, `diode test`, `dtest`: what is said before what the test shows. */
export const isDiodeWord = (said: string): boolean => /^(?:diode|dtest)$/.test(said);

/**
 * What the meter's diode test shows: `D1 diode 0.62`, `D1 diode OL`, with the leads the other way round `D1 diode rev OL`.
 * @param words behind the word that says so
 */
export function readDiodeTest(
  target: Target,
  word: Word,
  words: readonly Word[],
  circuit: Circuit,
  { line, isLifted }: { readonly line: string; readonly isLifted: boolean },
): QuickReading {
  const said = words.filter((w) => !/^test[,:]?$/i.test(w.text));
  const isTurned = said.some((w) => /^(?:rev|reversed)$/i.test(w.text));
  const [value, ...more] = said.filter((w) => !/^(?:rev|reversed)$/i.test(w.text));
  if (!value) return wrong(word, "what does the diode test show? volts, or OL");
  if (more.length > 1 || (more.length === 1 && !/^V$/i.test(more[0].text)))
    return wrong(more[0], `“${more[0].text}” is one word too many`);
  const ends = target.kind === "nodes" ? target : target.ends;
  const [red, black] = isTurned ? [ends.to ?? circuit.reference, ends.from] : [ends.from, ends.to];
  if (red === (black ?? circuit.reference)) return wrong(word, `both leads would be on ${red}: name another point`);
  const place = {
    quantity: "voltage" as const,
    test: "diode" as const,
    from: red,
    ...(black === undefined || black === circuit.reference ? {} : { to: black }),
    ...(isLifted && target.kind === "part" ? { lifted: target.branch } : {}),
    typed: line.trim(),
  };
  const where = `by the diode test, red on ${red}, black on ${black ?? circuit.reference}, power off`;
  if (/^OL$/i.test(value.text)) {
    const reading: NumericReading = { ...place, value: DIODE_TEST.topVolts, beyond: "over" };
    return { kind: "reading", reading, echo: `OL ${where}` };
  }
  const read = parseQuantity(value.text);
  if (read.kind === "mistake") return wrong(value, read.why);
  if (read.unit !== null && read.unit !== "V") return wrong(value, "a diode test shows volts");
  // Some meters show millivolts, with no point: 612 is none that could be volts.
  const scale = read.unit === null && read.prefix === "" && Math.abs(read.value) > DIODE_TEST.topVolts ? 1e-3 : 1;
  const reading: NumericReading = { ...place, value: read.value * scale, step: read.step * scale };
  return { kind: "reading", reading, echo: `${printQuantity(reading.value, "V", { digits: 4 })} ${where}` };
}
