import { type Circuit, type NodeName, nodesOf, type Part } from "../circuit/index.ts";
import { type Reading, SEEN, type Seen } from "../record/index.ts";
import { parseQuantity, printQuantity } from "../units/index.ts";
import { isChangeWord, readChange, troubleWithLook } from "./quickChange.ts";
import { isNear, type Target, targetOf } from "./quickTarget.ts";
import { type BenchNow, type QuickReading, ValueReader, type Word, wrong } from "./quickValue.ts";

/** What a bare value, or a bare word for what is seen, is taken for. */
export type Proposal =
  | { readonly quantity: "voltage"; readonly from: NodeName; readonly to?: NodeName }
  | { readonly quantity: "resistance"; readonly from: NodeName; readonly to?: NodeName }
  | { readonly quantity: "resistance"; readonly lifted: string }
  | { readonly quantity: "current"; readonly through: string }
  | { readonly quantity: "look"; readonly part: string; readonly alone?: true };

/**
 * Understands one line typed with both probes in hand: `B 7.42`, `B-D 3.1`, `R3 12mA`, `R3 lifted 470R`, `B-D OL`.
 * Names match exactly, then regardless of case. Never throws.
 */
export function readQuick(line: string, circuit: Circuit, proposal?: Proposal, now: BenchNow = {}): QuickReading {
  const plain = line.replaceAll("\u2212", "-");
  const words = [...plain.matchAll(/\S+/g)].map((m): Word => ({ text: m[0], column: m.index + 1 }));
  if (words.length === 0) return { kind: "empty" };
  return new Reader(circuit, plain, now).read(words, proposal);
}

class Reader {
  private readonly nodes: NodeName[];
  private readonly values: ValueReader;

  constructor(
    private readonly circuit: Circuit,
    private readonly line: string,
    private readonly now: BenchNow,
  ) {
    this.values = new ValueReader(circuit, line, now);
    this.nodes = nodesOf(circuit);
    if (!this.nodes.includes(circuit.reference)) this.nodes.push(circuit.reference);
  }

  read(words: Word[], proposal?: Proposal): QuickReading {
    const [first, ...rest] = words;
    if (rest.length === 0) {
      const said = first.text.toLowerCase();
      const isValue = parseQuantity(first.text).kind === "quantity" || /^(ol|beep|nobeep)$/.test(said);
      const isSeen = proposal?.quantity === "look" && said in SEEN;
      if ((isValue || isSeen) && targetOf(this.circuit, this.nodes, first.text) === null)
        return this.bare(first, proposal);
    }
    const target = targetOf(this.circuit, this.nodes, first.text);
    if (target === null && first.text.toLowerCase() === "leads") return this.leads(words);
    if (target === null) return this.unknown(first);
    if (rest.length === 0) return wrong(first, `what did ${first.text} read? write the value behind it`);
    const [second] = rest;
    const said = second.text.toLowerCase().replace(/,$/, "");
    if (target.kind === "part") {
      const { part } = target;
      const third = rest[1]?.text.toLowerCase();
      if (said in SEEN && rest.length === 1) return this.seen(part, said as Seen, false, second);
      if (said === "still" && rest.length === 2 && third in SEEN) return this.seen(part, third as Seen, false, rest[1]);
      if (said === "alone" && rest.length === 2 && third in SEEN) return this.seen(part, third as Seen, true, rest[1]);
      if (said === "lifted" && rest.length > 1) return this.values.measured(target, rest.slice(1), "lifted");
      if (said === "unloaded" && rest.length > 1) return this.unloaded(part, rest.slice(1));
    }
    if (isChangeWord(said)) return this.change(target, said, rest);
    const isLifted =
      target.kind === "part" &&
      (this.now.standing?.lifted ?? []).includes(target.part.designator) &&
      isOhms(rest.map((w) => w.text).join(" "));
    return this.values.measured(target, rest, isLifted ? "lifted" : "in circuit");
  }

  private bare(word: Word, proposal?: Proposal): QuickReading {
    if (!proposal) return wrong(word, `where? write the point first, such as “${this.nodes[0]} ${word.text}”`);
    if (proposal.quantity === "look") return this.bareLook(word, proposal);
    const isLimit = !/\d/.test(word.text);
    if (proposal.quantity === "voltage" && isLimit)
      return wrong(word, `${word.text} of what? over a range of volts, or ohms with the power off`, [
        `${proposal.from} OL @20V`,
        `${proposal.from}${proposal.to === undefined ? "" : `-${proposal.to}`} ${word.text}`,
      ]);
    if ("from" in proposal) {
      const points = { kind: "nodes" as const, from: proposal.from, to: proposal.to };
      const isBare = proposal.quantity === "resistance" && /[\d.]$/.test(word.text);
      return this.values.measured(points, isBare ? [{ ...word, text: `${word.text}ohm` }] : [word], "in circuit");
    }
    const name = proposal.quantity === "current" ? proposal.through : proposal.lifted;
    const target = targetOf(this.circuit, this.nodes, name);
    if (target?.kind !== "part") return wrong(word, `where? there is no ${name} in this circuit now`);
    if (proposal.quantity === "resistance") return this.values.measured(target, [word], "lifted");
    if (/[\d.]$/.test(word.text))
      return wrong(word, `${word.text} through ${name}: milliamperes or amperes?`, [
        `${name} ${word.text}mA`,
        `${name} ${word.text}A`,
      ]);
    return this.values.measured(target, [word], "in circuit");
  }

  private bareLook(word: Word, { part: name, alone }: Extract<Proposal, { quantity: "look" }>): QuickReading {
    const part = this.circuit.parts.find((p) => p.designator === name);
    const said = word.text.toLowerCase();
    if (!part || !(said in SEEN)) return wrong(word, `what does ${name} show? or write the point before the value`);
    return this.seen(part, said as Seen, alone ?? false, word);
  }

  private seen(part: Part, seen: Seen, alone: boolean, word: Word): QuickReading {
    const trouble = troubleWithLook(part, seen);
    if (trouble) return wrong(word, trouble);
    const reading = this.look(part, seen, alone);
    return {
      kind: "reading",
      reading,
      echo: `${part.designator} ${SEEN[seen]}${alone ? ", alone on the supply" : ""}`,
    };
  }

  private look(part: Part, seen: Seen, alone: boolean): Reading {
    return {
      quantity: "observation",
      part: part.designator,
      seen,
      ...(alone ? { alone } : {}),
      typed: this.line.trim(),
    };
  }

  /** A change, and what was seen after it: `LA1 swapped, still dark`. */
  private change(target: Target, said: string, [word, ...rest]: readonly Word[]): QuickReading {
    const behind = rest.filter((w) => !/^(,|still,?)$/i.test(w.text));
    const seen = behind[0]?.text.toLowerCase().replace(/^,/, "") ?? "";
    const isSeen = said !== "now" && target.kind === "part" && behind.length === 1 && seen in SEEN;
    const read = readChange(target, said, isSeen ? [] : rest.map((w) => w.text));
    if (typeof read === "string") return wrong(rest[0] && said !== "now" ? rest[0] : word, read);
    if (!isSeen || target.kind !== "part") return { kind: "change", ...read };
    const trouble = troubleWithLook(target.part, seen as Seen);
    if (trouble) return wrong(behind[0], trouble);
    const look = this.look(target.part, seen as Seen, false);
    return { kind: "change", change: read.change, after: look, echo: `${read.echo}; it ${SEEN[seen as Seen]}` };
  }

  /** `leads 0.3ohm`: leads held together. */
  private leads([first, ...rest]: readonly Word[]): QuickReading {
    const read = parseQuantity(rest.map((w) => w.text).join(""));
    if (rest.length === 0 || read.kind === "mistake" || read.value < 0 || (read.unit !== null && read.unit !== "ohm"))
      return wrong(rest[0] ?? first, "what do the leads show held together? such as leads 0.3ohm");
    const shown = printQuantity(read.value, "ohm", { digits: 3 });
    return {
      kind: "change",
      change: { change: "leads", value: read.value },
      echo: `${shown} of leads, taken off every ohms reading from here on`,
    };
  }

  private unloaded(part: Part, words: readonly Word[]): QuickReading {
    if (part.kind !== "supply") return wrong(words[0], "only a supply is measured unloaded");
    const read = this.values.measured({ kind: "part", part, branch: part.designator }, words, "in circuit");
    if (read.kind !== "reading" || read.reading.quantity !== "voltage") return read;
    const others = this.circuit.parts.filter((p) => p !== part && (p.from === part.from || p.to === part.from));
    const state = { lifted: others.map((p) => p.designator) };
    return { ...read, reading: { ...read.reading, state }, echo: `${read.echo}, with its load disconnected` };
  }

  private unknown(word: Word): QuickReading {
    const known = [...this.nodes, ...this.circuit.parts.map((p) => p.designator)];
    const near = known.filter((name) => isNear(name.toLowerCase(), word.text.toLowerCase())).slice(0, 3);
    const rest = this.line.slice(word.column - 1 + word.text.length);
    const looksLikePair = /^[A-Za-z0-9_+]+-[A-Za-z0-9_+]+$/.test(word.text);
    const what = looksLikePair
      ? `there are no two nodes ${word.text.replace("-", " and ")}`
      : `there is no node or part ${word.text}`;
    return wrong(
      word,
      `${what} in this circuit`,
      near.map((name) => `${name}${rest}`),
    );
  }
}

/** True of what an ohmmeter shows: a value in ohms or without a unit, OL, a beep or none. */
function isOhms(text: string): boolean {
  const [value] = text.split(/\s+(?=@|null=)/i);
  if (/^(ol|beep|nobeep)$/i.test(value.trim())) return !/@\S*[VA](\/|$)/.test(text);
  const read = parseQuantity(value.replaceAll(" ", ""));
  return read.kind === "quantity" && (read.unit === "ohm" || read.unit === null);
}
