import type { Circuit, NodeName, TestPoint } from "../../circuit/index.ts";
import type { Lines, Mistake, TextEdit } from "../mistake.ts";
import { Complaints } from "./complaints.ts";
import { type Fix, insertAt, takeOut, writeInstead } from "./fixes.ts";
import { partOf } from "./partOf.ts";
import { doubtsOfSources, hasSupply, type Junction, type Loop, secondSource } from "./sources.ts";
import type { GroupNode, NodeMark, PartNode, SeriesNode, Span, Statement } from "./tree.ts";

export interface Elaborated {
  readonly circuit: Circuit;
  readonly mistakes: readonly Mistake[];
  /** Where each part was written. */
  readonly places: ReadonlyMap<string, PartNode>;
  /** Shown names of junctions that nobody named, with the offset at which a name would go. */
  readonly unnamed: ReadonlyMap<NodeName, number>;
}

/** Walks the tree of a trail: numbers junctions, checks what single words cannot show, makes the circuit. */
export function elaborate(
  text: string,
  statements: readonly Statement[],
  lines: Lines,
  aliases: ReadonlyMap<string, string> = new Map(),
): Elaborated {
  return new Walk(text, lines, aliases).run(statements);
}

class Walk {
  private readonly said: Complaints;
  private readonly named = new Map<string, Junction>();
  private readonly order = new Set<Junction>();
  private readonly placed: { node: PartNode; from: Junction; to: Junction }[] = [];
  private readonly places = new Map<string, PartNode>();
  private readonly loops: Loop[] = [];
  /** The loop that is walked just now. */
  private inLoop: Loop | null = null;
  private isToldAlready = false;
  private firstRunEnd: Junction | null = null;

  constructor(
    private readonly text: string,
    private readonly lines: Lines,
    private readonly aliases: ReadonlyMap<string, string>,
  ) {
    this.said = new Complaints(lines);
  }

  run(statements: readonly Statement[]): Elaborated {
    const titles = statements.filter((s) => s.type === "title");
    for (const again of titles.slice(1))
      this.said.add(again, "there is a title already", writeInstead({ from: again.from, to: again.from + 5 }, "note"));
    for (const statement of statements) {
      if (statement.type === "loop") this.loop(statement.supply, statement.series);
      else if (statement.type === "run") this.runOf(statement.series);
    }
    this.checkNames();
    const points = this.testPoints(statements);
    const reference = this.reference(statements);
    const unnamed = this.nameTheRest();
    for (const { at, message, fix } of doubtsOfSources(this.text, this.loops, this.placed, this.called("0"), reference))
      this.said.add(at, message, fix, "question");
    const nameOf = (j: Junction) => j.name as NodeName;
    return {
      circuit: {
        title: titles[0]?.type === "title" ? titles[0].value : "",
        notes: statements.flatMap((s) => (s.type === "note" ? [s.value] : [])),
        parts: this.placed.map(({ node, from, to }) => partOf(node, nameOf(from), nameOf(to))),
        reference: reference ? nameOf(reference) : ("0" as NodeName),
        ...(points.length > 0 ? { points } : {}),
      },
      mistakes: this.said.mistakes,
      places: this.places,
      unnamed,
    };
  }

  private loop(supply: PartNode, series: SeriesNode) {
    const { items } = series;
    const first = items[0]?.type === "node" ? items[0] : null;
    const last = items.length > 1 && items.at(-1)?.type === "node" ? (items.at(-1) as NodeMark) : null;
    const plus = first ? this.junction(first) : this.fresh(this.text.indexOf(":", supply.to) + 1, true);
    const minus = last ? this.junction(last) : this.byName("0", series.to);
    const inner = items.slice(first ? 1 : 0, last ? -1 : undefined);
    if (!inner.some((item) => item.type !== "node")) {
      this.said.add(
        supply,
        `nothing is connected to ${supply.designator}: write what the current meets on its way back`,
        insertAt(series.to, ` ${this.freePart("R")} ?`, "put a resistor there, its value unknown"),
      );
    }
    this.place(supply, plus, minus);
    const loop = { supply, minus, mark: last, series };
    this.loops.push(loop);
    this.inLoop = loop;
    this.isToldAlready = false;
    this.walk(inner, plus, minus);
    this.inLoop = null;
  }

  private runOf(series: SeriesNode) {
    const { items } = series;
    const first = items[0];
    const last = items.at(-1);
    if (!first || !last) return;
    if (first.type !== "node" || last.type !== "node" || items.length < 3) {
      const what = first.type !== "node" ? first : last.type !== "node" ? last : series;
      const hint =
        first.type === "part" && first.kind === "supply" ? `; is a colon missing behind ${first.designator}?` : "";
      const missing = items.length < 3 && first.type === "node" && last.type === "node";
      this.said.add(
        what,
        missing ? "there is no part on this line" : `a line that is no loop begins and ends with a [node]${hint}`,
        hint ? insertAt(first.to, ":", "add the colon") : this.withEnds(series, missing),
      );
    }
    const start = first.type === "node" ? this.junction(first) : this.fresh(first.from);
    const inner = items.slice(first.type === "node" ? 1 : 0, last.type === "node" && items.length > 1 ? -1 : undefined);
    const end = last.type === "node" && items.length > 1 ? this.junction(last) : this.fresh(last.to);
    this.firstRunEnd ??= end;
    this.walk(inner, start, end);
  }

  private walk(items: SeriesNode["items"], start: Junction, end: Junction) {
    let here = start;
    const lastElement = items.findLastIndex((item) => item.type !== "node");
    items.forEach((item, i) => {
      if (item.type === "node") return;
      const after = items[i + 1];
      const next: Junction =
        i === lastElement ? end : after.type === "node" ? this.junction(after) : { name: null, offset: item.to };
      if (item.type === "group") this.group(item, here, next);
      else if (item.kind === "supply") this.place(item, next, here);
      else this.place(item, here, next);
      if (next !== end && next.name === null) this.order.add(next);
      here = next;
    });
  }

  private group(group: GroupNode, start: Junction, end: Junction) {
    for (const branch of group.branches) {
      const { items } = branch;
      const edges = [items[0], items.at(-1)] as const;
      edges.forEach((item, side) => {
        const junction = side === 0 ? start : end;
        if (item?.type !== "node" || this.nameOf(item.name) === junction.name) return;
        const where = side === 0 ? "before the parenthesis" : "after the parenthesis";
        const at = side === 0 ? group.from : group.to;
        const edits = [
          { from: item.from, to: item.to, insert: "" },
          { from: at, to: at, insert: side === 0 ? `[${item.name}] ` : ` [${item.name}]` },
        ];
        const fix = junction.name === null ? { label: `write it ${where}`, edits } : this.without(item);
        this.said.add(item, `[${item.name}] is where the branches meet: write it ${where}`, fix);
      });
      this.walk(items, start, end);
    }
  }

  private place(node: PartNode, plusOrFrom: Junction, minusOrTo: Junction) {
    const turned = node.kind === "supply" ? (node.written.volts ?? 0) < 0 : node.written.isTurned === true;
    const [from, to] = turned ? [minusOrTo, plusOrFrom] : [plusOrFrom, minusOrTo];
    const twin = this.places.get(node.designator);
    if (twin) {
      const { line, column } = this.lines.at(twin.from);
      if (this.inLoop && this.isSameWay(node, twin, plusOrFrom)) {
        const meets = this.placed.find((p) => p.node === twin)?.from as Junction;
        const said = secondSource(this.text, this.inLoop, node, meets, this.freeNodes()[0] ?? "A_");
        // What follows is written already as well: it is said once.
        if (!this.isToldAlready) this.said.add(said.at, said.message, said.fix);
        this.isToldAlready = true;
        return;
      }
      const free = this.freePart(node.designator.replace(/\d.*$/, ""));
      this.said.add(
        node.designatorSpan,
        `${node.designator} is used already, at line ${line}, column ${column}`,
        writeInstead(node.designatorSpan, free),
      );
      return;
    }
    this.places.set(node.designator, node);
    this.placed.push({ node, from, to });
    for (const lead of [node.written.wiper, node.written.plus, node.written.minus])
      if (lead !== undefined) this.byName(lead, node.to);
  }

  /** True of a part that another loop went through already, word for word, from the same node or none that is named. */
  private isSameWay(node: PartNode, twin: PartNode, from: Junction): boolean {
    const own = (n: PartNode) => this.text.slice(n.from, n.to);
    const before = this.placed.find((p) => p.node === twin)?.from;
    const isElsewhere = this.inLoop !== null && twin.from < this.inLoop.supply.from;
    return isElsewhere && own(node) === own(twin) && (from === before || (from.name ?? before?.name ?? null) === null);
  }

  private junction(mark: NodeMark): Junction {
    return this.byName(mark.name, mark.from);
  }

  private byName(name: string, offset: number): Junction {
    const known = this.called(name);
    if (known) return known;
    const own = this.nameOf(name);
    const junction: Junction = { name: own, offset };
    this.named.set(own, junction);
    return junction;
  }

  /** The name that a node of two names goes by. */
  private nameOf(name: string): string {
    return this.aliases.get(name) ?? name;
  }

  private called(name: string): Junction | undefined {
    return this.named.get(this.nameOf(name));
  }

  private fresh(offset: number, plus = false): Junction {
    const junction: Junction = { name: null, offset, plus };
    this.order.add(junction);
    return junction;
  }

  private checkNames() {
    for (const [name, junction] of this.named) {
      if (this.places.has(name)) {
        const at = junction.offset;
        this.said.add(
          { from: at, to: at + name.length + 2 },
          `[${name}] is the name of a part; a node needs one of its own`,
          { label: `call it [${name}_]`, edits: this.marksOf(name).map((m) => ({ ...m, insert: `[${name}_]` })) },
        );
      }
    }
  }

  /** Long names and notes of nodes: `point C TB2-4, blue wire`. */
  private testPoints(statements: readonly Statement[]): TestPoint[] {
    const written = statements.flatMap((s): TestPoint[] => {
      if (s.type !== "point" || s.value === "") return [];
      const [, node, called, note] = /^\[?\s*([^\s\],]+)\s*\]?[\s,]*([^,]*?)\s*(?:,\s*(.*))?$/s.exec(s.value) ?? [];
      if (node === undefined || !(this.called(node) || this.isShown(node))) {
        this.said.add(s, `there is no node ${node ?? s.value} in this circuit`, this.without(s), "question");
        return [];
      }
      if (!called && !note) {
        const example = `what is ${node} called? such as point ${node} TB2-4, blue wire`;
        this.said.add(s, example, this.without(s), "question");
        return [];
      }
      return [{ node: this.nameOf(node) as NodeName, called: called ?? "", ...(note ? { note } : {}) }];
    });
    const also = [...this.aliases].flatMap(([called, node]): TestPoint[] =>
      this.named.has(node) && !written.some((p) => p.node === node) ? [{ node: node as NodeName, called }] : [],
    );
    // Of three names the third is only written.
    return [...written, ...also.filter((p, i) => also.findIndex((o) => o.node === p.node) === i)];
  }

  /** True of the minus that goes by the name 0 though nobody wrote it. */
  private isShown(node: string): boolean {
    return node === "0" && this.loops.length > 0;
  }

  /** The `reference` line, else node 0, else the first supply's minus, else the end of the first run. */
  private reference(statements: readonly Statement[]): Junction | null {
    const directives = statements.filter((s) => s.type === "reference");
    for (const again of directives.slice(1)) this.said.add(again, "there is a reference already", this.without(again));
    const wanted = directives[0];
    if (wanted?.type === "reference" && wanted.value !== "") {
      const found = this.called(wanted.value.replace(/^\[|\]$/g, ""));
      if (found) return found;
      this.said.add(wanted, `there is no node ${wanted.value} in this circuit`, this.without(wanted));
    }
    const supply = this.placed.find(({ node }) => node.kind === "supply");
    return this.called("0") ?? this.loops[0]?.minus ?? supply?.to ?? this.firstRunEnd;
  }

  private nameTheRest(): Map<NodeName, number> {
    const unnamed = new Map<NodeName, number>();
    let count = 0;
    let pluses = 0;
    for (const junction of this.order) {
      if (junction.name !== null) continue;
      let name: string;
      if (junction.plus) {
        pluses += 1;
        name = pluses === 1 ? "+" : `+${pluses}`;
      } else {
        do name = `n${++count}`;
        while (this.named.has(name) || this.places.has(name));
      }
      junction.name = name;
      unnamed.set(name as NodeName, junction.offset);
    }
    return unnamed;
  }

  /** A run's ends written out, or a wire where it has no part. */
  private withEnds({ items, from, to }: SeriesNode, hasNoPart: boolean): Fix {
    const [first, last] = [items[0], items[items.length - 1]];
    if (hasNoPart) return insertAt(last.from, `${this.freePart("W")} `, "put a wire there");
    const edits: TextEdit[] = [];
    if (first.type !== "node" && last.type !== "node" && this.loops.length === 0 && items.some(hasSupply))
      return {
        label: "close it into a loop at 0",
        edits: [
          { from, to: from, insert: "[0] " },
          { from: to, to, insert: " [0]" },
        ],
      };
    const free = this.freeNodes();
    if (first.type !== "node") edits.push({ from, to: from, insert: `[${free.shift() ?? "A_"}] ` });
    if (last.type !== "node") edits.push({ from: to, to, insert: ` [${free.shift() ?? "B_"}]` });
    if (edits.length === 0) edits.push({ from: to, to, insert: ` ${this.freePart("W")} [${free.shift() ?? "B_"}]` });
    return { label: edits.length > 1 ? "name both ends" : "name that end", edits };
  }

  private freeNodes(): string[] {
    return [..."ABCDEFGHIJKLMNOPQRSTUVWXYZ"].filter((n) => this.marksOf(n).length === 0 && !this.places.has(n));
  }

  private freePart(letters: string): string {
    let number = 1;
    while (this.places.has(`${letters}${number}`) || new RegExp(`\\b${letters}${number}\\b`).test(this.text))
      number += 1;
    return `${letters}${number}`;
  }

  private marksOf(name: string): Span[] {
    return [...this.text.matchAll(/\[\s*(\w+)\s*\]/g)].flatMap((m) =>
      m[1] === name ? [{ from: m.index, to: m.index + m[0].length }] : [],
    );
  }

  /** Takes a stretch out of the text. */
  private without({ from, to }: Span): Fix {
    return takeOut({ from, to, text: this.text.slice(from, to) });
  }
}
