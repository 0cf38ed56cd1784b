import {
  aKind,
  CONTACT_KINDS,
  canBeTurned,
  IDEAL_OHMS,
  idealOhms,
  isVoltmeter,
  KIND_NAMES,
  KINDS,
  type Kind,
  MATERIALS,
  type Material,
  materialsOf,
  rowOf,
} from "../../circuit/index.ts";
import { parseQuantity } from "../../units/index.ts";
import type { WrittenPart } from "./tree.ts";

/** A complaint about one word, with the word that was probably meant. */
export interface Complaint {
  readonly message: string;
  readonly instead?: string;
}

const isRated = (kind: Kind) => rowOf(kind).byRating !== undefined;

/**
 * Reads one word behind a designator into `written`.
 * @returns null when understood, else what is wrong with the word
 */
export function readAttribute(given: string, name: string, kind: Kind, written: WrittenPart): Complaint | null {
  const word = given.replace(/^=\s*/, "");
  const rating = /^([^/\s]+[Vv])\/([^/\s]+[WwAa])$/.exec(word);
  if (rating && isRated(kind))
    return readValue(rating[1], name, kind, written) ?? readValue(rating[2], name, kind, written);
  const key = /^([A-Za-z]+)=(.*)$/s.exec(word);
  if (key) return readKeyed(key[1].toLowerCase(), key[2], name, kind, written);
  const plain = word.toLowerCase();
  if (Object.hasOwn(MATERIALS, plain)) return readMaterial(plain as Material, name, kind, written);
  if (plain === "rev" || plain === "reversed") {
    if (!canBeTurned(kind)) return { message: `“${word}” turns a diode round, and ${name} is ${aKind(kind)}` };
    written.isTurned = true;
    return null;
  }
  if (rowOf(kind).form === "capacitance" && FARADS.test(word)) return readFarads(word, name, written);
  // A type's name as it stands on a drawing says which one to buy: it is kept, and nothing is looked up.
  if (rowOf(kind).material !== undefined && TYPE_NAME.test(word) && written.note === undefined) {
    written.note = word;
    return null;
  }
  if (plain === "?") return readUnknown(name, kind, written);
  if (plain === "ideal") return readIdeal(name, kind, written);
  if (plain === "ac" || plain === "mains") {
    if (kind !== "supply") return { message: `“${word}” is for supplies, and ${name} is ${aKind(kind)}` };
    written.safety = plain;
    return null;
  }
  if (plain === "open" || plain === "closed") {
    if (kind !== "switch") return { message: `“${word}” is for switches, and ${name} is ${aKind(kind)}` };
    written.position = plain;
    return null;
  }
  return readValue(word, name, kind, written);
}

/** `1N4007`, `2N…`: digits, a letter or two, digits again; `5V1` and `20mA` are values. */
const TYPE_NAME = /^\d[A-Z]{1,3}\d{2,}[A-Z0-9-]*$/i;
const FARADS = /^([\d.,]+)\s*([pnuµμm]?)F?$/;

/** Red, green … of a shining one; silicon or Schottky of others. */
function readMaterial(material: Material, name: string, kind: Kind, written: WrittenPart): Complaint | null {
  const own = materialsOf(kind);
  if (!own.includes(material))
    return {
      message: `“${material}” is no ${KINDS[kind].word}'s: ${own.length > 0 ? `${name} may be ${own.join(", ")}` : `${name} is ${aKind(kind)}`}`,
    };
  written.material = material;
  return null;
}

/** Farads with their prefix: `100u`, `4.7uF`, `100nF`. */
function readFarads(word: string, name: string, written: WrittenPart): Complaint | null {
  const [, digits, prefix] = FARADS.exec(word) as RegExpExecArray;
  if (written.farads !== undefined) return { message: `${name} has two values` };
  const scale = { p: 1e-12, n: 1e-9, u: 1e-6, µ: 1e-6, μ: 1e-6, m: 1e-3, "": 1 }[prefix] ?? 1;
  const value = Number((Number(digits.replace(",", ".")) * scale).toPrecision(12));
  if (!(value > 0)) return { message: `“${word}” is no capacitance` };
  written.farads = value;
  return null;
}

function readUnknown(name: string, kind: Kind, written: WrittenPart): Complaint | null {
  if (kind === "supply") written.volts = null;
  else if (rowOf(kind).form === "resistance") written.resistance = { by: "unknown" };
  else return { message: `${name} is ${aKind(kind)}: its value cannot be left unknown` };
  return null;
}

/** A supply that holds its voltage, a contact or ammeter that drops nothing, a voltmeter that takes nothing. */
function readIdeal(name: string, kind: Kind, written: WrittenPart): Complaint | null {
  if (kind === "supply") written.internalOhms = 0;
  else if (CONTACT_KINDS.has(kind) || rowOf(kind).usual === "meter")
    written.resistance = { by: "ohms", ohms: idealOhms(kind, { designator: name }) };
  else return { message: `ideal are supplies, contacts, wires and meters, and ${name} is ${aKind(kind)}` };
  return null;
}

function readKeyed(key: string, value: string, name: string, kind: Kind, written: WrittenPart): Complaint | null {
  switch (key) {
    case "kind":
      return (KIND_NAMES as readonly string[]).includes(value)
        ? null
        : { message: `there is no kind “${value}”; kinds are ${KIND_NAMES.join(", ")}` };
    case "note":
      written.note = value.replace(/^"|"$/g, "");
      return /^".*"$/s.test(value) || !value.includes('"') ? null : { message: "the note's closing quote is missing" };
    case "wiper":
    case "plus":
    case "minus":
      return readLead(key, value, name, kind, written);
    case "hot":
    case "pulls":
    case "drops":
      return readBehaviour(key, value, name, kind, written);
    case "ri":
    case "limit":
    case "at":
      return readKeyedNumber(key, value, name, kind, written);
    default:
      return {
        message: `“${key}=” is not known; there are ri=, limit=, at=, wiper=, plus=, minus=, hot=, pulls=, drops=, kind= and note=`,
      };
  }
}

/** The node of a lead besides the two that a part is walked through. */
function readLead(
  key: "wiper" | "plus" | "minus",
  value: string,
  name: string,
  kind: Kind,
  written: WrittenPart,
): Complaint | null {
  const [form, owners] =
    key === "wiper" ? (["track", "potentiometers"] as const) : (["bridge", "bridge rectifiers"] as const);
  if (rowOf(kind).form !== form) return { message: `${key}= is for ${owners}, and ${name} is ${aKind(kind)}` };
  const [, node] = /^\[\s*([A-Za-z0-9_]+)\s*\]$/.exec(value) ?? [];
  if (node === undefined) {
    const bare = /^\w+$/.test(value) ? { instead: `${key}=[${value}]` } : {};
    return { message: `the node of ${key} is written ${key}=[NAME]`, ...bare };
  }
  written[key] = node;
  return null;
}

/** What a sensor is while it works, and at which share of its volts a coil pulls in or drops out. */
function readBehaviour(
  key: "hot" | "pulls" | "drops",
  value: string,
  name: string,
  kind: Kind,
  written: WrittenPart,
): Complaint | null {
  const owner = key === "hot" ? "sensors" : "coils";
  if (key === "hot" ? !rowOf(kind).warms : kind !== "coil")
    return { message: `${key}= is for ${owner}, and ${name} is ${aKind(kind)}` };
  const read = parseQuantity(value);
  if (read.kind === "mistake") return { message: `${key}=: ${read.why}` };
  if (key === "hot") {
    if (!(read.value > 0) || (read.unit !== null && read.unit !== "ohm"))
      return { message: "hot= takes the ohms of the part while it works" };
    written.hotOhms = read.value;
    return null;
  }
  const share = read.unit === "%" ? read.value / 100 : read.value;
  if (!(share > 0 && share < 1) || (read.unit !== null && read.unit !== "%"))
    return { message: `${key}= takes a share of the coil's volts, such as 70%` };
  written[key] = share;
  return null;
}

function readKeyedNumber(
  key: "ri" | "limit" | "at",
  value: string,
  name: string,
  kind: Kind,
  written: WrittenPart,
): Complaint | null {
  const owner = key === "at" ? ("potentiometer" as const) : ("supply" as const);
  const owners = { potentiometer: "potentiometers", supply: "supplies" }[owner];
  if (kind !== owner) return { message: `${key}= is for ${owners}, and ${name} is ${aKind(kind)}` };
  const read = parseQuantity(value);
  if (read.kind === "mistake") return { message: `${key}=: ${read.why}` };
  const unit = { ri: "ohm", limit: "A", at: "%" }[key];
  if (read.unit !== null && read.unit !== unit) return { message: `${key}= does not take ${read.unit}` };
  if (key === "ri") {
    if (read.value < 0) return { message: "an internal resistance cannot be negative" };
    written.internalOhms = read.value;
  } else if (key === "limit") {
    if (read.value <= 0) return { message: "a current limit is above zero" };
    written.limit = read.value;
  } else {
    const share = read.unit === "%" ? read.value / 100 : read.value;
    if (share < 0 || share > 1) return { message: "at= lies between 0 % and 100 %" };
    written.at = share;
  }
  return null;
}

function readValue(word: string, name: string, kind: Kind, written: WrittenPart): Complaint | null {
  const read = parseQuantity(word);
  if (read.kind === "mistake") return { message: `“${word}” is not understood after ${name}: ${read.why}` };
  if (read.value < 0 && !(kind === "supply" && read.unit === "V")) {
    return { message: `${word}: only a supply's voltage can be negative` };
  }
  switch (read.unit) {
    case "%":
      if (read.value >= 100) return { message: "a tolerance is below 100 %" };
      written.tolerance = read.value / 100;
      return null;
    case "W":
      written.powerRating = read.value;
      return read.value > 0 ? null : { message: `${name} has a power rating of zero` };
    case "A":
      if (kind === "supply")
        return { message: `a supply's current limit is written limit=${word}`, instead: `limit=${word}` };
      written.currentRating = read.value;
      return read.value > 0 ? null : { message: `${name} has a current rating of zero` };
    case "V":
      return readVolts(read.value, word, name, kind, written);
    case "ohm":
    case null:
      return readOhms(read.value, read.unit === null, word, name, kind, written);
    default:
      return read.unit satisfies never;
  }
}

/** Forms of which volts are written: those of a junction, or what a capacitor stands. */
const TAKES_VOLTS: ReadonlySet<string> = new Set(["junction", "bridge", "capacitance"]);

function readVolts(value: number, word: string, name: string, kind: Kind, written: WrittenPart): Complaint | null {
  if (written.volts !== undefined) return { message: `${name} has two voltages` };
  if (kind === "supply") written.volts = value;
  else if ((isRated(kind) || TAKES_VOLTS.has(rowOf(kind).form)) && value > 0) written.volts = value;
  else return { message: `${word} on ${name}: ${aKind(kind)} takes no voltage` };
  return null;
}

function readOhms(
  value: number,
  bare: boolean,
  word: string,
  name: string,
  kind: Kind,
  written: WrittenPart,
): Complaint | null {
  if (kind === "supply") return { message: `${name} needs volts: ${word}V?`, ...(bare ? { instead: `${word}V` } : {}) };
  if (kind === "fuse" && bare) return { message: `a fuse takes its rated current: ${word}A?`, instead: `${word}A` };
  if (TAKES_VOLTS.has(rowOf(kind).form))
    return {
      message: `${name} is ${aKind(kind)}: ${word} is no value of it`,
      ...(bare ? { instead: `${word}V` } : {}),
    };
  if (written.resistance) return { message: `${name} has two values` };
  if (value > 0) {
    written.resistance = { by: "ohms", ohms: value };
    return null;
  }
  if (!CONTACT_KINDS.has(kind) && rowOf(kind).usual !== "meter")
    return { message: `${name} has 0 Ω; a plain connection is a wire, W1`, instead: "kind=wire" };
  if (isVoltmeter({ designator: name }) && rowOf(kind).usual === "meter")
    return { message: `${name} would be a short circuit; one that takes nothing is ideal`, instead: "ideal" };
  written.resistance = { by: "ohms", ohms: IDEAL_OHMS };
  return null;
}
