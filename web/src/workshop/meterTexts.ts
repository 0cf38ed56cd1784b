import { Meter, type MeterCheck, meterData, type Quantity, UNIT_OF } from "@hound/core/record";
import { parseQuantity } from "@hound/core/units";
import { print, printNumber } from "../words/print.ts";

/** One range as it stands in the form. */
export interface RangeTexts {
  readonly span: string;
  readonly digit: string;
  readonly percent: string;
  /** Counts of the last digit; of a needle percent of the full scale. */
  readonly counts: string;
  /** Ohms of the input, of the burden; of a needle on ohms what stands at the middle. */
  readonly ohms: string;
  readonly fuse: string;
  readonly socket: string;
}

/** A meter as it stands in the form. */
export interface MeterTexts {
  readonly name: string;
  readonly analogue: boolean;
  readonly dial: "ranges" | "functions";
  readonly common: string;
  readonly category: string;
  readonly volts: string;
  readonly leadOhms: string;
  readonly leadVolts: string;
  readonly beepsBelow: string;
  readonly top: string;
  readonly ohmsPerVolt: string;
  readonly ranges: Readonly<Record<Quantity, readonly RangeTexts[]>>;
}

export const FUNCTIONS = { voltage: "Volts", current: "Amperes", resistance: "Ohms" } as const;
export const EMPTY_RANGE: RangeTexts = { span: "", digit: "", percent: "", counts: "", ohms: "", fuse: "", socket: "" };

export function textsOf(meter: Meter): MeterTexts {
  const data = meterData(meter);
  const ohms = (value: number) => (Number.isFinite(value) ? print(value, "ohm") : "ideal");
  return {
    name: data.name,
    analogue: data.isAnalogue,
    dial: data.dial,
    common: data.common,
    category: data.category.class ?? "",
    volts: print(data.category.volts, "V"),
    leadOhms: print(data.leads.ohms, "ohm"),
    leadVolts: print(data.leads.volts, "V"),
    beepsBelow: print(data.beepsBelow, "ohm"),
    top: print(data.topOhms, "ohm"),
    ohmsPerVolt: meter.voltage?.ohmsPerVolt === undefined ? "" : print(meter.voltage.ohmsPerVolt, "ohm"),
    ranges: byFunction((quantity) =>
      data.ranges[quantity].map((r) => ({
        span: print(r.span, UNIT_OF[quantity]),
        digit: print(r.resolution, UNIT_OF[quantity]),
        percent: printNumber(r.percent),
        counts: printNumber(data.isAnalogue ? (r.ofSpan ?? 0) : r.counts),
        ohms: quantity === "resistance" ? (r.middle === undefined ? "" : ohms(r.middle)) : ohms(r.ohms),
        fuse: r.fuse === undefined ? "" : print(r.fuse, "A"),
        socket: r.socket,
      })),
    ),
  };
}

function byFunction<T>(of: (quantity: Quantity) => T): Record<Quantity, T> {
  return { voltage: of("voltage"), current: of("current"), resistance: of("resistance") };
}

/** What is wrong with the form, and in which field: `name`, `voltage 2 span`. */
export interface MeterMistake {
  readonly field: string;
  readonly message: string;
}

/**
 * The meter that the form describes, or all that is wrong with it. What the form does not show stays as it was; what is
 * emptied in it is as usual again.
 */
export function meterFrom(texts: MeterTexts, before: Meter): Meter | readonly MeterMistake[] {
  const mistakes: MeterMistake[] = [];
  const wrong = (field: string, message: string) => {
    mistakes.push({ field, message });
    return 0;
  };
  const number = (field: string, text: string, unit: "V" | "A" | "ohm" | "%", isAboveZero = false): number => {
    if (text.trim() === "") return isAboveZero ? wrong(field, "is missing") : 0;
    const read = parseQuantity(text);
    if (read.kind === "mistake") return wrong(field, read.why);
    if (read.unit !== null && read.unit !== unit) return wrong(field, `is in ${unit === "ohm" ? "ohms" : unit}`);
    if (read.value < 0 || (isAboveZero && read.value === 0)) return wrong(field, "is above zero");
    return read.value;
  };
  const name = texts.name.trim();
  if (name === "") wrong("name", "a meter needs a name");
  if (/[\s/@]/.test(name)) wrong("name", "a name is one word: it is typed behind a range, as in @20V/bench");
  const rangesOf = (quantity: Quantity) => {
    const unit = UNIT_OF[quantity] as "V" | "A" | "ohm";
    const list = texts.ranges[quantity].map((r, i) => {
      const at = (field: string) => `${quantity} ${i + 1} ${field}`;
      const span = number(at("span"), r.span, unit, true);
      const percent = number(at("percent"), r.percent, "%");
      const counts = number(at("counts"), r.counts, "%");
      const isIdeal = r.ohms.trim().toLowerCase() === "ideal";
      const ohms = isIdeal || r.ohms.trim() === "" ? null : number(at("ohms"), r.ohms, "ohm", quantity !== "current");
      return {
        span,
        ...(r.digit.trim() === "" ? {} : { resolution: number(at("digit"), r.digit, unit, true) }),
        accuracy: texts.analogue ? { percent, counts: 1, ofSpan: counts } : { percent, counts },
        ...(quantity === "voltage" && isIdeal ? { inputResistance: "ideal" as const } : {}),
        // A needle's input goes by the volt.
        ...(quantity === "voltage" && ohms !== null && !texts.analogue ? { inputResistance: ohms } : {}),
        ...(quantity === "current" && ohms !== null ? { burdenResistance: ohms } : {}),
        ...(quantity === "resistance" && texts.analogue && ohms !== null ? { middle: ohms } : {}),
        ...(quantity === "current" && r.fuse.trim() !== "" ? { fuse: number(at("fuse"), r.fuse, "A", true) } : {}),
        ...(r.socket.trim() === "" ? {} : { socket: r.socket.trim() }),
      };
    });
    if (list.length === 0) wrong(`${quantity} 1 span`, `${FUNCTIONS[quantity].toLowerCase()} have no range`);
    return list;
  };
  const perVolt = texts.analogue && texts.ohmsPerVolt.trim() !== "";
  const { common: _, ...shown } = before;
  const { ohmsPerVolt: __, inputResistance, ...voltage } = before.voltage ?? {};
  const { burdenResistance, ...current } = before.current ?? {};
  // What a whole function has counts for the ranges that say nothing: none does where a range was emptied.
  const isSaid = (quantity: Quantity) => texts.ranges[quantity].every((r) => r.ohms.trim() !== "");
  const meter = {
    ...shown,
    name,
    analogue: texts.analogue,
    dial: texts.dial,
    ...(texts.common.trim() === "" ? {} : { common: texts.common.trim() }),
    category: {
      ...(/^(II|III|IV)$/.test(texts.category) ? { class: texts.category } : {}),
      volts: number("volts", texts.volts, "V", true),
    },
    leads: {
      ohms: number("leadOhms", texts.leadOhms, "ohm"),
      volts: number("leadVolts", texts.leadVolts, "V", true),
    },
    voltage: {
      ...voltage,
      ...(inputResistance !== undefined && !texts.analogue && isSaid("voltage") ? { inputResistance } : {}),
      ...(perVolt ? { ohmsPerVolt: number("ohmsPerVolt", texts.ohmsPerVolt, "ohm", true) } : {}),
      ranges: rangesOf("voltage"),
    },
    current: {
      ...current,
      ...(burdenResistance !== undefined && isSaid("current") ? { burdenResistance } : {}),
      ranges: rangesOf("current"),
    },
    resistance: {
      ...before.resistance,
      beepsBelow: number("beepsBelow", texts.beepsBelow, "ohm", true),
      top: number("top", texts.top, "ohm", true),
      ranges: rangesOf("resistance"),
    },
  };
  if (mistakes.length > 0) return mistakes;
  const parsed = Meter.safeParse(meter);
  if (parsed.success) return parsed.data;
  return parsed.error.issues.map((i) => ({ field: i.path.join(" "), message: i.message }));
}

export interface CheckTexts {
  readonly quantity: Quantity;
  readonly known: string;
  readonly plusMinus: string;
  readonly shown: string;
}

/** A check as typed; what is wrong with it as words. */
export function checkFrom({ quantity, known, plusMinus, shown }: CheckTexts): MeterCheck | string {
  const value = (text: string, what: string): number | string => {
    const read = parseQuantity(text);
    if (read.kind === "mistake") return `${what}: ${read.why}`;
    return read.unit !== null && read.unit !== UNIT_OF[quantity] ? `${what}: another unit` : read.value;
  };
  const values = [value(known, "known"), plusMinus.trim() === "" ? 0 : value(plusMinus, "±"), value(shown, "shows")];
  const wrong = values.find((v) => typeof v === "string");
  if (wrong !== undefined) return wrong as string;
  const [k, p, s] = values as number[];
  return { quantity, known: k, plusMinus: Math.abs(p), shown: s };
}
