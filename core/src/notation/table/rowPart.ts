import {
  DESIGNATOR_FORM,
  KIND_NAMES,
  type Kind,
  kindCalled,
  kindHintedBy,
  kindOfDesignator,
  type Part,
  rowOf,
} from "../../circuit/index.ts";
import { foldCharacters, parseQuantity } from "../../units/index.ts";
import { applyEdits } from "../mistake.ts";
import { readTrail } from "../trail/index.ts";
import type { PartColumn } from "./headings.ts";

/** What a row says, by column; what is left out or empty is not said. */
export type Cells = Partial<Record<PartColumn, string>>;

/** Where a row's reader says what is wrong or doubtful, by column. */
export interface Say {
  readonly wrong: (column: PartColumn, message: string) => void;
  readonly ask: (column: PartColumn, message: string) => void;
}

/** Leads besides the two ends, each with a column of its own. */
export const LEADS = ["wiper", "plus", "minus"] as const;

/** Their nodes as a trail writes them, taken out of a value: `10k at=40% wiper=[W]`. */
export function leadsIn(cells: Cells): Cells {
  const found = { ...cells };
  for (const lead of LEADS) {
    // `wiper W` is said of nothing else; plus and minus are words of many values.
    const behind = lead === "wiper" ? "\\s*=?\\s*\\[?" : "\\s*(?:=\\s*\\[?|\\[)";
    const pattern = new RegExp(`\\s*\\b${lead}${behind}\\s*([A-Za-z0-9_+.]+)\\s*\\]?`, "i");
    const [written = "", node] = pattern.exec(found.value ?? "") ?? [];
    if (node === undefined || found[lead] !== undefined) continue;
    found.value = (found.value ?? "").replace(written, "");
    found[lead] = node;
  }
  return found;
}

/** A row of a table as a part between two nodes that are set later; null where it cannot be. */
export function partOfRow(cells: Cells, say: Say): Part | null {
  const designator = designatorIn(cells.designator ?? "");
  if (designator === null) {
    say.wrong("designator", `“${cells.designator ?? ""}” is no designator: one word, such as R3 or LEFT_LAMP`);
    return null;
  }
  const kind = kindIn(cells.kind ?? "", designator, say);
  if (kind === undefined) return null;
  const words = wordsOf(
    cells,
    kind ?? kindOfDesignator(designator) ?? kindHintedBy(designator.replace(/\d.*$/, "")),
    say,
  );
  const spelled = kind !== null && kind !== kindOfDesignator(designator) ? [`kind=${kind}`] : [];
  const part = readWords([designator, ...spelled, ...words].join(" "), say);
  if (part === null) return null;
  return cells.note ? { ...part, note: cells.note } : part;
}

/** `r1` and `R 1` are R1; any other one word stays as it is. */
function designatorIn(text: string): string | null {
  const plain = foldCharacters(text).trim();
  const [, letters, number] = /^([A-Za-z]+)[ .]?(\d+[a-z]?)$/.exec(plain) ?? [];
  if (letters === undefined) return DESIGNATOR_FORM.test(plain) && plain.length > 1 ? plain : null;
  return kindOfDesignator(letters + number) === null ? letters + number : letters.toUpperCase() + number;
}

/** A kind that is spelled out; null where none is; undefined where it is none of ours (said). */
function kindIn(text: string, designator: string, say: Say): Kind | null | undefined {
  const plain = text.toLowerCase().trim();
  if (plain === "") return null;
  const found = kindCalled(plain) ?? kindCalled(plain.split(/[\s,]/)[0]);
  if (found) return found;
  if (kindOfDesignator(designator) !== null) {
    say.ask("kind", `“${text}” is no kind of part here: ${designator} is taken for what its letters say`);
    return null;
  }
  say.wrong("kind", `“${text}” is no kind of part; kinds are ${KIND_NAMES.join(", ")}`);
  return undefined;
}

const NOTHING = /^(?:-+|n\/?a|none|nil)?$/i;
const PURE = /^[-+±]?\s*(?:\d[\d.,' ]*(?:e[-+]?\d+)?|\d+\/\d+)\s*[pnuµmkKMG]?$/i;
const POSITIONS: Readonly<Record<string, string>> = { on: "closed", nc: "closed", off: "open", no: "open" };

/** What the cells say in the words of a trail. */
function wordsOf(cells: Cells, kind: Kind | null, say: Say): string[] {
  const cell = (column: PartColumn) => {
    const text = foldCharacters(cells[column] ?? "").trim();
    return NOTHING.test(text) ? "" : text;
  };
  const words: string[] = [];
  const value = cell("value");
  if (value !== "") {
    const unit = cell("unit");
    const own = { supply: "V", fuse: "A" }[kind as string] ?? "";
    const position = POSITIONS[value.toLowerCase()];
    if (position !== undefined) words.push(position);
    else if (PURE.test(value)) words.push(tight(value) + (unit === "" ? own : unit.replace(/^[Ω ]*ohms?$/i, "ohm")));
    else
      words.push(
        value
          .replace(/\bDC\s+(?=[\d.])|\s+DC$/i, "")
          .replace(/(\d)\s+(?=[pnuµmkMG]?(?:Ω|ohms?|V|A|W|%)(?:\W|$))/gi, "$1"),
      );
  }
  const tolerance = cell("tolerance");
  if (tolerance !== "") words.push(toleranceWord(tolerance, say));
  const scaled = (column: PartColumn, unit: string) => {
    const text = cell(column);
    if (text !== "") words.push(PURE.test(text) ? `${tight(text)}${unit}` : tight(text));
  };
  scaled("power", "W");
  scaled("current", "A");
  const rating = cell("rating");
  const ratedIn = { power: "W", current: "A", limit: "W", volts: "V" }[kind === null ? "power" : rowOf(kind).rating];
  if (rating !== "")
    words.push(
      kind === "supply" && /A$/i.test(rating)
        ? `limit=${tight(rating)}`
        : PURE.test(rating)
          ? tight(rating) + ratedIn
          : rating,
    );
  const inside = cell("inside");
  if (inside !== "") words.push(`ri=${tight(inside)}`);
  const limit = cell("limit");
  if (limit !== "") words.push(`limit=${tight(limit)}`);
  const position = cell("position");
  // A share of the track, 40 % or 0.4; of a switch, how it stands.
  if (position !== "" && kind === "potentiometer") words.push(`at=${tight(position).replace(/^at=/i, "")}`);
  else if (position !== "") words.push(POSITIONS[position.toLowerCase()] ?? position.toLowerCase());
  // Which nodes they are is for the table to say.
  for (const lead of LEADS) if (cell(lead) !== "") words.push(`${lead}=[${lead}_]`);
  return words.map((w) => w.replace(/(^|\s)[±~](?=\d)/g, "$1"));
}

function tight(text: string): string {
  const read = parseQuantity(text);
  // Groups of thousands are read for what they are; a single comma may be either.
  return read.kind === "quantity" && /\d[ ']\d{3}|[.,]\d{3}[.,]/.test(text) && /^[-+\d.,' ]+$/.test(text)
    ? String(read.value)
    : text.replace(/\s+/g, "");
}

const LETTERS: Readonly<Record<string, number>> = { B: 0.1, C: 0.25, D: 0.5, F: 1, G: 2, J: 5, K: 10, M: 20 };

function toleranceWord(text: string, say: Say): string {
  const letter = LETTERS[text.toUpperCase()];
  if (letter !== undefined) return `${letter}%`;
  const plain = text.replace(/^(?:±|\+\/-)\s*/, "").replace(/\s+/g, "");
  const number = Number(plain.replace(",", "."));
  if (plain.endsWith("%") || !Number.isFinite(number)) return plain;
  if (number > 0 && number < 0.3) {
    say.ask(
      "tolerance",
      `${plain} is taken for a share, ${Number((number * 100).toPrecision(12))} %; or is it ${plain} %?`,
    );
    return `${Number((number * 100).toPrecision(12))}%`;
  }
  return `${plain}%`;
}

/** Slips that are mended in one row before it is given up. */
const MENDED = 5;

/** Reads the words as a trail would; a slip that has a likely remedy is mended and asked about. */
function readWords(words: string, say: Say): Part | null {
  const [open, close] = ["[from_] ", " [to_]"];
  let text = open + words.replace(/[()|:#]|(?<!=)\[|(?<!=\[\w+)\]/g, " ") + close;
  for (let round = 0; round <= MENDED; round += 1) {
    const { mistakes, circuit } = readTrail(text);
    const wrong = mistakes.find((m) => m.severity === "mistake");
    if (!wrong) {
      for (const m of mistakes) say.ask("value", m.message);
      const part = circuit?.parts[0];
      if (part && circuit.parts.length === 1) return part;
      say.wrong("value", `“${words}” is more than one part`);
      return null;
    }
    const inserted = wrong.fix?.edits[0].insert ?? "";
    // A word in the value's place is no note: then there would be no value.
    const isValueGone =
      inserted.startsWith("note=") && /^\[from_\] \S+ (?:kind=\S+ )?$/.test(text.slice(0, wrong.from));
    if (isValueGone || !wrong.fix || round === MENDED || inserted === "" || /[[\]()|]/.test(inserted)) {
      say.wrong(wrong.from <= open.length ? "designator" : "value", wrong.message);
      return null;
    }
    say.ask("value", `${wrong.message} (taken so: ${wrong.fix.label})`);
    text = applyEdits(text, wrong.fix.edits);
  }
  return null;
}
