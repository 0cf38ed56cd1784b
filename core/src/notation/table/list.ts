import type { NodeName, Part } from "../../circuit/index.ts";
import { foldCharacters, parseQuantity } from "../../units/index.ts";
import type { Mistake } from "../mistake.ts";
import type { PartColumn } from "./headings.ts";
import type { TableRow } from "./parts.ts";
import type { Cells } from "./rowPart.ts";
import { mistakeIn, type Sheet } from "./sheet.ts";

const DESIGNATOR = /^[A-Za-z]{1,4}[-_]?\d+[a-z]?[:.,;)]?$/;
const columnOf = (column: PartColumn) => (column === "designator" ? 1 : 2);

/** Parts of a list without headings: columns told apart by what is in them, or words of a letter. */
export function listedParts(text: string, sheet: Sheet): { rows: TableRow[]; mistakes: Mistake[] } {
  const rows: TableRow[] = [];
  const mistakes: Mistake[] = [];
  const put = (cells: Cells, number: number) => rows.push({ cells, number, columnOf });
  if (sheet.delimiter !== " ") {
    for (const { cells, number } of sheet.rows) {
      const said = cellsByContent(cells.filter((c) => c !== ""));
      if (said) put(said, number);
      else mistakes.push(aside(number, cells.join(" ")));
    }
    return { rows, mistakes };
  }
  text.split(/\r?\n/).forEach((line, i) => {
    const words = line.trim();
    if (words === "" || /^#/.test(words)) return;
    const found = partsInWords(words);
    for (const cells of found) put(cells, i + 1);
    if (found.length === 0) mistakes.push(aside(i + 1, words));
  });
  return { rows, mistakes };
}

/** Words with no part in them. */
export function aside(number: number, words: string): Mistake {
  const shown = words.length > 60 ? `${words.slice(0, 60)} …` : words;
  return mistakeIn(number, 1, `no part in “${shown}”: passed over`, "question");
}

/** Cells in any order: the designator is told by its form, nodes by theirs, values by their units. */
function cellsByContent(cells: readonly string[]): Cells | null {
  const at = cells.findIndex((c) => DESIGNATOR.test(foldCharacters(c)));
  if (at < 0) return null;
  const designator = cells[at].replace(/[:.,;)]$/, "");
  const others = cells.filter((c, i) => i !== at && !/^(?:→|->|–|—|-|=|:|,|to|and)$/i.test(c));
  const [first, second, third] = others;
  // Two nodes in digits, and a value behind them.
  if (others.length > 2 && isNode(first) && isNode(second) && isValue(third))
    return {
      designator,
      from: first,
      to: second,
      value: others.slice(2).filter(isSaid).join(" "),
      ...noteOf(others.slice(3)),
    };
  const values = others.filter(isSaid);
  const names = others.filter((c) => !isSaid(c));
  const [pair] =
    names.flatMap((n) => /^(\S+?)\s*(?:→|->|–|—|-|\/| to )\s*(\S+)$/.exec(n) ?? []).length > 0 ? [names[0]] : [];
  if (pair !== undefined && names.length < 2) return { designator, ends: pair, value: values.join(" ") };
  const [from, to, ...notes] = names;
  return {
    designator,
    ...(from && to ? { from, to } : {}),
    value: values.join(" "),
    ...noteOf(from && !to ? [from] : notes),
  };
}

function noteOf(cells: readonly string[]): Cells {
  const note = cells.filter((c) => !isSaid(c)).join(" ");
  return note === "" ? {} : { note };
}

function isNode(text: string): boolean {
  return /^[+-]?\w{0,12}$/.test(text) && !/^\d+[a-zµΩ%]/i.test(text);
}

function isValue(text: string): boolean {
  return text === "?" || parseQuantity(text.replace(/^±/, "")).kind === "quantity";
}

/** True of a cell that is a value, or several. */
function isSaid(text: string): boolean {
  if (/^(open|closed|ac|mains|dc)$/i.test(text) || /^(ri|limit|at|kind)=/i.test(text)) return true;
  return (
    isValue(text) || (/\d/.test(text) && text.split(/[\s/;]+/).every((w) => isValue(w) || /^\d+\/\d+W?$/i.test(w)))
  );
}

const NAME = "([A-Za-z0-9_+][\\w.-]*|\\[[^\\]]+\\])";
const ENDS: readonly RegExp[] = [
  new RegExp(`\\bplus (?:at|to|on|is at) ${NAME}.*?\\bminus (?:at|to|on|is at) ${NAME}`, "i"),
  new RegExp(`\\b(?:from|between) ${NAME}\\s*(?:,\\s*)?(?:to|and|→|->|–|-)\\s*${NAME}`, "i"),
  /\[([^\]]+)\]\s*(?:to|→|->|–|—|-|,|\/)?\s*\[([^\]]+)\]/,
  new RegExp(`(?:^|[\\s(,:])${NAME}\\s*(?:→|->|–|—)\\s*${NAME}(?=[\\s),;.]|$)`),
  /(?:^|[\s(,:])([A-Za-z]\w{0,5})-([A-Za-z0-9]\w{0,5})(?=[\s),;.]|$)/,
  new RegExp(`(?:^|[\\s(,:])${NAME} to ${NAME}(?=[\\s),;.]|$)`, "i"),
];

/** Characters before a name that tell whether it is a node. */
const BEFORE = 24;

/** Every part that a line of words speaks of, with what is said of it until the next one. */
function partsInWords(line: string): Cells[] {
  const words = foldCharacters(line)
    .replace(/^\s*(?:[-*•>]|\d{1,3}[.)])\s+/, "")
    .replace(/(?<=(?:^|[\s=:,(])[±-]?\d[\d.,/]*)\s+(?=(?:[pnuµmkMG]?(?:Ω|ohms?|V|A|W)|%)(?:[\s,;.)]|$))/gi, "");
  // A name within “from … to …” may look like a designator; it is one only where a part is spoken of.
  const starts = [...words.matchAll(/(?:^|[\s(,;])([A-Za-z]{1,4}[-_]?\d+[a-z]?)(?=[\s:=,;.)(]|$)/g)]
    .map((m) => ({ name: m[1], at: m.index + m[0].length - m[1].length }))
    .filter(
      ({ at }) =>
        !/\b(?:from|to|between|and|at|on|node|pin|terminal)\s+\[?$/i.test(words.slice(Math.max(0, at - BEFORE), at)) &&
        !/[-–→>]\s*$/.test(words.slice(Math.max(0, at - BEFORE), at)),
    );
  return starts.flatMap(({ name, at }, i): Cells[] => {
    let rest = words.slice(at + name.length, starts[i + 1]?.at ?? words.length).replace(/^\s*[:=,.)]\s*/, " ");
    const plain = cellsByContent([
      name,
      ...rest
        .trim()
        .split(/\s+/)
        .filter((w) => w !== ""),
    ]);
    if (
      plain?.from !== undefined &&
      isNode(plain.from) &&
      isNode(plain.to ?? "") &&
      plain.note === undefined &&
      !ENDS[1].test(rest) &&
      !ENDS[0].test(rest)
    )
      return [plain];
    let ends: [string, string] | null = null;
    for (const pattern of ENDS) {
      const match = pattern.exec(rest);
      if (!match || (isValue(match[1]) && isValue(match[2]) && !/^\d$/.test(match[1]))) continue;
      ends = [match[1], match[2]].map((n) => n.replace(/[.,;]+$/, "")) as [string, string];
      rest = rest.replace(match[0], " ");
      break;
    }
    const values = [...rest.matchAll(VALUES)].map((m) => m[0].trim());
    if (values.length === 0 && ends === null && !/^\s*$/.test(rest)) return [];
    return [{ designator: name, value: values.join(" "), ...(ends ? { from: ends[0], to: ends[1] } : {}) }];
  });
}

/** Values in running words: a number with a unit or a prefix, a fraction of a watt, or the first bare number. */
const VALUES =
  /(?<![\w.])(?:\d+\/\d+\s*W|[±]?\d[\d.,]*\s*(?:%|[pnuµmkKMG]?(?:Ω|[oO]hms?|V(?:olts?|DC|AC)?|A|W)(?![A-Za-z])|kilohms?|volts?|amps?|watts?|percent|[kKMR]\d*\b)|\d+[RkKM]\d*\b|\d[\d.,]*(?=\s*(?:[,;.)]|$|[a-zA-Z])))/g;

/** Parts in a row, a supply as the loop they hang on. */
export function chainOf(parts: readonly Part[]): Part[] {
  const [supply] = parts.filter((p) => p.kind === "supply");
  const others = parts.filter((p) => p !== supply);
  const name = (i: number): NodeName =>
    (supply && i === others.length ? "0" : i < 26 ? String.fromCharCode(65 + i) : `N${i}`) as NodeName;
  const chain = others.map((part, i) => ({ ...part, from: name(i), to: name(i + 1) }));
  return supply ? [{ ...supply, from: name(0), to: "0" as NodeName }, ...chain] : chain;
}
