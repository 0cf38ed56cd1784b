import { type Branch, CONTACT_KINDS, HAS_OHMS, type Network, type NodeName, unitOfValue } from "../circuit/index.ts";
import { MODE_SHARES } from "../faults/index.ts";
import { parseQuantity, type Unit, writeQuantity } from "../units/index.ts";
import { type Choice, choicesOf, driftMode, nominalOf, type PartMode, type Supposed } from "./supposed.ts";

export type ReadSupposed =
  | { readonly kind: "supposed"; readonly faults: readonly Supposed[] }
  | {
      readonly kind: "mistake";
      readonly message: string;
      /** Where in the text. */
      readonly at: number;
      readonly length: number;
    };

class Mistaken extends Error {}

const WORDS: readonly (readonly [RegExp, PartMode])[] = [
  [/^(?:open|blown|burnt(?: out)?|broken|dead|off|out|taken out|lifted)$/i, "open"],
  [/^closed$/i, "stuckClosed"],
  [/^short(?:ed)?$/i, "short"],
  [/^stuck ?open$/i, "stuckOpen"],
  [/^(?:stuck ?closed|welded)$/i, "stuckClosed"],
  [/^wiper ?open$/i, "wiperOpen"],
  [/^(?:high|up|climbed|contact)$/i, "high"],
  [/^(?:low|down|fallen)$/i, "low"],
  [/^weak$/i, "weak"],
  [/^(?:leaky|leaks|leaking)$/i, "leaky"],
  [/^(?:rev|reversed|the wrong way round|turned round)$/i, "reversed"],
];

/**
 * Faults in words: `R3 open`, `R2 470→2k`, `J1 +5ohm`, `BT1 weak 4ohm`, `A~D bridged`, `S1 stuck open`, `RV1 wiper open`,
 * `R3=high:2k`; and as changes: `LA1 out`, `R2 now 2k`, `S1 closed`. Several are parted by `;`, a comma and a space, “and”, or a new line.
 */
export function readSupposed(text: string, network: Network): ReadSupposed {
  const choices = choicesOf(network);
  const faults: Supposed[] = [];
  for (const { words, at } of pieces(text)) {
    try {
      const fault = readBridge(words, network) ?? readPart(words, network, choices);
      if ("part" in fault && faults.some((f) => "part" in f && f.part === fault.part))
        throw new Mistaken(`${fault.part} cannot be wrong in two ways at once`);
      faults.push(fault);
    } catch (error) {
      if (!(error instanceof Mistaken)) throw error;
      return { kind: "mistake", message: error.message, at, length: words.length };
    }
  }
  return { kind: "supposed", faults };
}

function pieces(text: string): { readonly words: string; readonly at: number }[] {
  const found: { words: string; at: number }[] = [];
  const parting = /;|,\s|\n|\sand\s|\s\+\s(?=[A-Za-z])/gi;
  let from = 0;
  for (const match of [...text.matchAll(parting), null]) {
    const raw = text.slice(from, match ? match.index : text.length);
    const words = raw.trim();
    if (words !== "") found.push({ words, at: from + raw.indexOf(words) });
    if (match) from = match.index + match[0].length;
  }
  return found;
}

/** `A~D`, `A–D bridged`, `bridge A D`, `A to D`. */
function readBridge(words: string, network: Network): Supposed | null {
  const isSaid = /^bridged? |\s?bridged$/i.test(words);
  const bare = words.replace(/^bridged? /i, "").replace(/\s?bridged$/i, "");
  const parting = isSaid || bare.includes("~") ? /\s*[~–—-]\s*|\s+to\s+|\s+/g : /\s+to\s+/g;
  for (const match of bare.matchAll(parting)) {
    const ends = [bare.slice(0, match.index), bare.slice(match.index + match[0].length)].map((n) =>
      nodeNamed(network, n.trim()),
    );
    const [from, to] = ends;
    if (!from || !to) continue;
    if (from === to) throw new Mistaken("a bridge is between two nodes");
    return { nodes: [from, to], mode: "bridged" };
  }
  if (isSaid || bare.includes("~")) throw new Mistaken(`which two nodes are bridged in “${words}”?`);
  return null;
}

function nodeNamed({ nodes }: Network, text: string): NodeName | undefined {
  return nodes.find((n) => n === text) ?? nodes.find((n) => n.toLowerCase() === text.toLowerCase());
}

function readPart(words: string, network: Network, choices: ReadonlyMap<string, readonly Choice[]>): Supposed {
  const match = /^([^\s=:→]+)[\s=:]*(.*)$/.exec(words);
  const named = match && branchesNamed(network, match[1]);
  if (!match || !named || named.length === 0)
    throw new Mistaken(`there is no part ${match?.[1] ?? words} in this circuit`);
  const rest = match[2].replace(/[:=]/g, " ").replace(/\s+/g, " ").trim();
  if (rest === "") throw new Mistaken(`what is wrong with ${match[1]}? ${offered(named, choices)}`);
  const now = /^now (.+)$/i.exec(rest);
  // A change that a reading line takes is imagined as what it does: another value.
  if (now) return withValue(named, undefined, now[1], choices);
  const mode = WORDS.find(([pattern]) => pattern.test(rest))?.[1];
  if (mode) return withoutValue(named, wordFor(named, mode), choices);
  const [first, ...others] = rest.split(" ");
  const leading = WORDS.find(([pattern]) => pattern.test(first))?.[1];
  return withValue(named, leading, (leading ? others : [first, ...others]).join(" "), choices);
}

/** Branches of a name: a part of several (a potentiometer) by its own name or by that of one of them. */
function branchesNamed({ branches }: Network, name: string): Branch[] {
  const is = (text: string) => text.toLowerCase() === name.toLowerCase();
  const exact = branches.filter((b) => is(b.name));
  return exact.length > 0 ? exact : branches.filter((b) => is(b.part.designator));
}

/** A supply that is open is dead; a stuck switch that is called open is stuck open. */
function wordFor([{ kind }]: readonly Branch[], mode: PartMode): PartMode {
  if (mode !== "open") return mode;
  return kind === "supply" ? "dead" : "stuckOpen" in MODE_SHARES[kind] ? "stuckOpen" : mode;
}

function withoutValue(
  named: readonly Branch[],
  mode: PartMode,
  choices: ReadonlyMap<string, readonly Choice[]>,
): Supposed {
  const found = named.flatMap((b) =>
    (choices.get(b.name) ?? []).flatMap((choice) => (choice.mode === mode ? [{ branch: b, choice }] : [])),
  );
  if (found.length === 0) throw new Mistaken(cannot(named, mode, choices));
  if (found.length > 1)
    throw new Mistaken(`say which of ${found.map((f) => f.branch.name).join(" and ")} is ${WORD_OF[mode]}`);
  const [{ branch, choice }] = found;
  const { reach } = choice;
  return reach ? { part: branch.name, mode, value: rounded(reach.usual) } : { part: branch.name, mode };
}

/** `470→2k`, `2k`, `+5ohm`, `×3`, `+20%`, after a mode or without one. */
function withValue(
  named: readonly Branch[],
  said: PartMode | undefined,
  text: string,
  choices: ReadonlyMap<string, readonly Choice[]>,
): Supposed {
  const found = named.filter((b) => (choices.get(b.name) ?? []).some((c) => c.reach));
  if (found.length > 1) throw new Mistaken(`say which of ${found.map((b) => b.name).join(" and ")} it is`);
  const branch = found[0];
  if (!branch)
    throw new Mistaken(`“${text}” is nothing that ${named[0].part.designator} can be: ${offered(named, choices)}`);
  const last =
    text
      .split(/→|->|⇒|=>/)
      .pop()
      ?.trim() ?? "";
  const own = ownOhms(branch, said, unitIn(last), choices);
  const nominal = nominalOf(branch, own ?? "high");
  const unit = unitOfValue(branch.kind, own ?? "high");
  const value = valueIn(last, nominal, unit);
  if (!(value > 0) && !(branch.kind === "supply" && own === null && value >= 0))
    throw new Mistaken(`${branch.name} cannot become “${last}”`);
  const mode = own ?? driftMode(branch, value);
  if (mode === null || (said !== undefined && said !== mode))
    throw new Mistaken(
      said === undefined || mode === null
        ? cannot([branch], value > nominal ? "high" : "low", choices)
        : `${last} is not ${said}: ${branch.name} is drawn as ${writeQuantity(nominal, unit)}`,
    );
  return { part: branch.name, mode, value: rounded(value) };
}

/** The fault with ohms of its own that is meant: said, or by a value in ohms of what counts in volts; null where none is. */
function ownOhms(
  branch: Branch,
  said: PartMode | undefined,
  unit: Unit | null,
  choices: ReadonlyMap<string, readonly Choice[]>,
): PartMode | null {
  if (said !== undefined) return HAS_OHMS.has(said) ? said : null;
  if (unit !== null && unit === unitOfValue(branch.kind)) return null;
  const has = (choices.get(branch.name) ?? []).find((c) => HAS_OHMS.has(c.mode))?.mode ?? null;
  const drifts = (choices.get(branch.name) ?? []).some((c) => c.mode === "high" || c.mode === "low");
  return unit === "ohm" || !drifts ? has : null;
}

function unitIn(text: string): Unit | null {
  const read = parseQuantity(text.replace(/^[+×x]\s*/, ""));
  return read.kind === "quantity" ? read.unit : null;
}

function valueIn(text: string, nominal: number, unit: "ohm" | "V"): number {
  const times = /^[×x*]\s*(.+)$/i.exec(text);
  const read = parseQuantity(times ? times[1] : text);
  if (read.kind === "mistake") throw new Mistaken(read.why);
  if (times) return nominal * read.value;
  if (read.unit === "%") return nominal * (1 + read.value / 100);
  if (read.unit !== null && read.unit !== unit)
    throw new Mistaken(`“${text}” is not in ${unit === "V" ? "volts" : "ohms"}`);
  return /^[+]/.test(text) ? nominal + read.value : read.value;
}

const WORD_OF: Readonly<Record<PartMode, string>> = {
  open: "open",
  short: "shorted",
  high: "high",
  low: "low",
  dead: "dead",
  weak: "weak",
  stuckOpen: "stuck open",
  stuckClosed: "stuck closed",
  wiperOpen: "open",
  leaky: "leaky",
  reversed: "reversed",
};

function offered(named: readonly Branch[], choices: ReadonlyMap<string, readonly Choice[]>): string {
  const modes = new Set(named.flatMap((b) => (choices.get(b.name) ?? []).map((c) => WORD_OF[c.mode])));
  return modes.size > 0 ? [...modes].join(", ") : "it has no faults here";
}

function cannot(named: readonly Branch[], mode: PartMode, choices: ReadonlyMap<string, readonly Choice[]>): string {
  return `a ${named[0].kind} is never ${WORD_OF[mode]} here: ${offered(named, choices)}`;
}

/** A value as it would be written. */
function rounded(value: number): number {
  return Number(value.toPrecision(6));
}

/** A fault as it is typed: `R3 open`, `R2 1k→2k2`, `J1 +5ohm`, `BT1 weak 4ohm`, `A~D bridged`. Read back, it is the same. */
export function writeSupposed(fault: Supposed, network: Network): string {
  if ("nodes" in fault) return `${fault.nodes[0]}~${fault.nodes[1]} bridged`;
  const { part, mode, value } = fault;
  const branch = network.branches.find((b) => b.name === part);
  if (mode === "wiperOpen") return `${branch?.part.designator ?? part} wiper open`;
  if (value === undefined || !branch) return `${part} ${WORD_OF[mode]}`;
  const unit = unitOfValue(branch.kind, mode);
  const written = writeQuantity(value, unit);
  if (HAS_OHMS.has(mode)) return `${part} ${mode} ${written}ohm`;
  const nominal = nominalOf(branch, mode);
  if (CONTACT_KINDS.has(branch.kind)) return `${part} +${writeQuantity(rounded(value - nominal), "ohm")}ohm`;
  return `${part} ${writeQuantity(rounded(nominal), unit)}→${written}`;
}
