import { type Circuit, designatorOf, type NodeName } from "../circuit/index.ts";
import { UNIT_OF } from "../record/index.ts";
import { parseQuantity, type Unit } from "../units/index.ts";
import { readDiodeTest } from "./quickDiode.ts";
import { partTarget, type Target, targetOf } from "./quickTarget.ts";
import { type QuickReading, SPAN, type ValueReader, type Word, wrong } from "./quickValue.ts";

/** What a bare value, or a bare word for what is seen, is taken for. */
export type Proposal =
  | {
      readonly quantity: "voltage";
      readonly from: NodeName;
      readonly to?: NodeName;
      /** By the meter's diode test; of the part alone, with one lead lifted. */
      readonly test?: "diode";
      readonly lifted?: string;
    }
  | { readonly quantity: "resistance"; readonly from: NodeName; readonly to?: NodeName }
  | { readonly quantity: "resistance"; readonly lifted: string }
  | { readonly quantity: "current"; readonly through: string }
  | { readonly quantity: "look"; readonly part: string; readonly alone?: true };

const CALLED: Record<Unit, string> = { V: "volts", A: "amperes", ohm: "ohms", W: "watts", "%": "percent" };

/**
 * A value without a point before it: taken for what is proposed. One in another unit, or over a range where that could
 * mean two things, is asked about and never recorded as something else than was proposed.
 */
export function bareReading(
  word: Word,
  proposal: Proposal | undefined,
  circuit: Circuit,
  nodes: readonly NodeName[],
  values: ValueReader,
): QuickReading {
  const [value, ...extras] = word.text.split(/ (?=@|null=)/i);
  if (!proposal) return wrong(word, `where? write the point first, such as “${nodes[0]} ${word.text}”`);
  if (proposal.quantity === "look")
    return wrong(word, `what does ${proposal.part} show? or write the point before the value`);
  if (proposal.quantity === "voltage" && proposal.test === "diode") return bareTest(word, proposal, circuit);
  const place = placeOf(proposal);
  const target = targetOf(circuit, nodes, place);
  if (!target) return wrong(word, `where? there is no ${place} in this circuit now`);
  const wanted = UNIT_OF[proposal.quantity];
  const how = proposal.quantity === "resistance" && "lifted" in proposal ? "lifted" : "in circuit";
  const read = (text: string) =>
    values.measured(
      target,
      [text, ...extras].map((t) => ({ text: t, column: word.column })),
      how,
    );
  if (/^(ol|beep|nobeep)$/i.test(value)) {
    const isOver = /^ol$/i.test(value);
    if (wanted === "ohm" || (isOver && extras.some((e) => /^@\S*[va]\b/i.test(e)))) return read(value);
    return isOver
      ? wrong(word, `OL of what? over the range of ${CALLED[wanted]}: which range? or ohms with the power off`, [
          ...values.spans(proposal.quantity).map((span) => `${place} OL @${span}`),
          `${place} OL`,
        ])
      : wrong(word, `${value} where ${CALLED[wanted]} are proposed: of ohms, with the power off?`, [
          `${place} ${value}`,
        ]);
  }
  const { unit, prefix, last } = unitOf(value);
  if (unit === null && wanted === "A" && prefix === "" && Number(last) !== 0)
    return wrong(word, `${value} through ${place}: milliamperes or amperes?`, [
      `${place} ${value}mA`,
      `${place} ${value}A`,
    ]);
  // A bare M is asked about where it is read, and a bare m of ohms: of volts and amperes it is a thousandth.
  const isPlain = unit === null && (!/^m$/i.test(prefix) || (prefix === "m" && wanted !== "ohm"));
  if (isPlain && (wanted !== "V" || prefix === "m")) return read(`${value}${wanted}`);
  if (unit === null || unit === wanted) return read(value);
  return wrong(
    word,
    `${value} where ${CALLED[wanted]} ${wanted === "A" ? "through" : "at"} ${place} are proposed: ${CALLED[unit]} instead?`,
    otherwise(value, unit, target, circuit, place),
  );
}

/** A bare value where the diode test is proposed. */
function bareTest(
  word: Word,
  { from, to, lifted }: Extract<Proposal, { quantity: "voltage" }>,
  circuit: Circuit,
): QuickReading {
  const part = circuit.parts.find((p) => lifted !== undefined && p.designator === designatorOf(lifted));
  const target: Target = part
    ? partTarget(part, lifted ?? part.designator)
    : { kind: "nodes", from, ...(to === undefined ? {} : { to }) };
  const words = word.text.split(/\s+/).map((text) => ({ text, column: word.column }));
  return readDiodeTest(target, word, words, circuit, { line: word.text, isLifted: part !== undefined });
}

/** What was probably meant by a value in another unit than the one proposed. */
function otherwise(value: string, unit: Unit, target: Target, circuit: Circuit, place: string): string[] {
  if (unit !== "A" || target.kind === "part")
    return unit === "V" || unit === "ohm" || unit === "A" ? [`${place} ${value}`] : [];
  const ends = [target.from, target.to].filter((n) => n !== undefined);
  const beside = circuit.parts.filter((p) => ends.includes(p.from) || ends.includes(p.to));
  return beside.slice(0, 3).map((p) => `${p.designator} ${value}`);
}

function unitOf(value: string): { unit: Unit | null; prefix: string; last: number } {
  const last = value.split(SPAN).at(-1) ?? "";
  const read = parseQuantity(last);
  return read.kind === "quantity"
    ? { unit: read.unit, prefix: read.prefix, last: read.value }
    : { unit: null, prefix: "", last: 1 };
}

function placeOf(proposal: Exclude<Proposal, { quantity: "look" }>): string {
  if (proposal.quantity === "current") return proposal.through;
  if (proposal.quantity === "resistance" && "lifted" in proposal) return proposal.lifted;
  return proposal.to === undefined ? proposal.from : `${proposal.from}-${proposal.to}`;
}
