import type { Kind, Material, Resistance } from "../../circuit/index.ts";

export interface Span {
  readonly from: number;
  readonly to: number;
}

/** A part as written: the words found, with where each stood. */
export interface PartNode extends Span {
  readonly type: "part";
  readonly designator: string;
  readonly designatorSpan: Span;
  readonly kind: Kind;
  readonly written: WrittenPart;
}

/** What a part's words say; SI units, fractions. */
export interface WrittenPart {
  resistance?: Resistance;
  valueSpan?: Span;
  volts?: number | null;
  tolerance?: number;
  powerRating?: number;
  currentRating?: number;
  internalOhms?: number;
  limit?: number;
  safety?: "ac" | "mains";
  position?: "open" | "closed";
  at?: number;
  wiper?: string;
  plus?: string;
  minus?: string;
  material?: Material;
  /** It is walked from its second end to its first. */
  isTurned?: true;
  hotOhms?: number;
  pulls?: number;
  drops?: number;
  farads?: number;
  note?: string;
}

/** A node's name; where it has two, one behind the other, the span holds both and the first is its name. */
export interface NodeMark extends Span {
  readonly type: "node";
  name: string;
  to: number;
}

export interface GroupNode extends Span {
  readonly type: "group";
  readonly branches: readonly SeriesNode[];
}

export interface SeriesNode extends Span {
  readonly type: "series";
  readonly items: readonly Item[];
}

export type Item = PartNode | NodeMark | GroupNode;

export interface LoopNode extends Span {
  readonly type: "loop";
  readonly supply: PartNode;
  readonly series: SeriesNode;
}

export interface RunNode extends Span {
  readonly type: "run";
  readonly series: SeriesNode;
}

export interface DirectiveNode extends Span {
  readonly type: "title" | "note" | "reference" | "point";
  readonly value: string;
}

export type Statement = LoopNode | RunNode | DirectiveNode;
