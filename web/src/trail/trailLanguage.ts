import { acceptCompletion, autocompletion, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, historyKeymap } from "@codemirror/commands";
import { bracketMatching, codeFolding, foldGutter, foldKeymap, foldService } from "@codemirror/language";
import { type Diagnostic, linter, lintGutter, lintKeymap } from "@codemirror/lint";
import { type Extension, RangeSetBuilder, StateEffect, StateField } from "@codemirror/state";
import {
  Decoration,
  type DecorationSet,
  drawSelection,
  EditorView,
  highlightActiveLine,
  keymap,
  lineNumbers,
  placeholder,
  ViewPlugin,
  type ViewUpdate,
} from "@codemirror/view";
import { kindOfDesignator } from "@hound/core/circuit";
import { formatTrail, recognise, type TokenKind } from "@hound/core/notation";
import { completeTrail } from "./completion.ts";
import { editorTheme } from "./editorTheme.ts";
import { readOnce } from "./readOnce.ts";

const CLASS_OF: Partial<Record<TokenKind, string>> = {
  name: "trail-node",
  comment: "trail-comment",
  title: "trail-word",
  note: "trail-word",
  reference: "trail-word",
  point: "trail-word",
  rest: "trail-text",
  open: "trail-mark",
  close: "trail-mark",
  bar: "trail-mark",
  plus: "trail-mark",
  colon: "trail-mark",
};

/** One mark a class: what looks the same is the same, and lines that did not change stay. */
const MARK_OF = new Map(
  ["trail-part", ...Object.values(CLASS_OF)].map((className) => [className, Decoration.mark({ class: className })]),
);

/** Colours from the very tokens the reader uses: no second grammar. */
function decorate(view: EditorView): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>();
  for (const token of readOnce(view.state.doc.toString()).tokens) {
    const isPart = token.kind === "word" && kindOfDesignator(token.text) !== null;
    const className = isPart ? "trail-part" : CLASS_OF[token.kind];
    const mark = className && MARK_OF.get(className);
    if (mark) builder.add(token.from, token.to, mark);
  }
  return builder.finish();
}

const highlighting = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = decorate(view);
    }
    update(update: ViewUpdate) {
      if (update.docChanged) this.decorations = decorate(update.view);
    }
  },
  { decorations: (plugin) => plugin.decorations },
);

/** Every mistake under its words, with its remedy as a button. */
const marks = linter(
  (view): Diagnostic[] =>
    readOnce(view.state.doc.toString()).mistakes.map((m) => ({
      from: Math.min(m.from, view.state.doc.length),
      to: Math.min(Math.max(m.to, m.from), view.state.doc.length),
      severity: m.severity === "mistake" ? "error" : "warning",
      message: m.message,
      actions: m.fix
        ? [
            {
              name: m.fix.label,
              apply: (v) => v.dispatch({ changes: [...(m.fix?.edits ?? [])], userEvent: "input.fix" }),
            },
          ]
        : [],
    })),
  { delay: 250 },
);

/** Applies the remedy of the mistake at the cursor, or of the nearest one in its line. */
function mend(view: EditorView): boolean {
  const { doc, selection } = view.state;
  const line = doc.lineAt(selection.main.head).number;
  // The mistake at the cursor, else the nearest in its line; one elsewhere is never mended unseen.
  const { head } = selection.main;
  const away = (m: { from: number; to: number }) => Math.max(m.from - head, head - m.to, 0);
  const [mistake] = readOnce(doc.toString())
    .mistakes.filter((m) => m.fix && (m.line === line || away(m) === 0))
    .sort((a, b) => away(a) - away(b) || Number(b.severity === "mistake") - Number(a.severity === "mistake"));
  if (!mistake?.fix) return false;
  view.dispatch({ changes: [...mistake.fix.edits], userEvent: "input.fix" });
  return true;
}

function format(view: EditorView): boolean {
  const text = view.state.doc.toString();
  const tidy = formatTrail(readOnce(text));
  if (tidy === text) return true;
  const head = Math.min(view.state.selection.main.head, tidy.length);
  view.dispatch({
    changes: { from: 0, to: text.length, insert: tidy },
    selection: { anchor: head },
    userEvent: "input.format",
  });
  return true;
}

/** A statement of several lines folds away behind its first. */
const folding = foldService.of((state, lineStart, lineEnd) => {
  const statement = readOnce(state.doc.toString()).statements.find((s) => s.from >= lineStart && s.from <= lineEnd);
  return statement && statement.to > lineEnd ? { from: lineEnd, to: statement.to } : null;
});

/** An arrow drawn, not written: the shipped fonts have none. */
function foldMark(isOpen: boolean): HTMLElement {
  const mark = document.createElement("span");
  mark.title = isOpen ? "Fold" : "Unfold";
  mark.style.cssText = `display:inline-block;forced-color-adjust:none;width:0;height:0;margin:0 3px;border:5px solid transparent;cursor:pointer;${
    isOpen ? "border-top-color:currentColor;translate:0 3px" : "border-left-color:currentColor"
  }`;
  return mark;
}

/** Stretch of the text that is pointed at on the board. */
const lightUp = StateEffect.define<{ from: number; to: number } | null>();

const lit = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(value, transaction) {
    let next = value.map(transaction.changes);
    for (const effect of transaction.effects) {
      if (!effect.is(lightUp)) continue;
      const range = effect.value;
      next =
        range && range.to <= transaction.newDoc.length
          ? Decoration.set([Decoration.mark({ class: "trail-lit" }).range(range.from, range.to)])
          : Decoration.none;
    }
    return next;
  },
  provide: (field) => EditorView.decorations.from(field),
});

/** Lights up a stretch of the text, or none, where it is not so already. */
export function lightUpIn(view: EditorView, wanted: { from: number; to: number } | null) {
  const { value, from, to } = view.state.field(lit).iter();
  const isSo = wanted ? value !== null && from === wanted.from && to === wanted.to : value === null;
  if (isSo) return;
  view.dispatch({ effects: lightUp.of(wanted) });
  keepCursor(view);
}

/**
 * Puts the browser's cursor where the editor has it. Around a text that is wrapped in a mark the browser moves it to the
 * line's beginning, and for a moment after it got the focus the editor does not notice: keys would go there.
 */
function keepCursor(view: EditorView) {
  const shown = window.getSelection();
  if (!view.hasFocus || view.composing || !shown?.focusNode) return;
  const { anchor, head } = view.state.selection.main;
  const isThere =
    view.posAtDOM(shown.focusNode, shown.focusOffset) === head &&
    (!shown.anchorNode || view.posAtDOM(shown.anchorNode, shown.anchorOffset) === anchor);
  if (isThere) return;
  const [from, to] = [view.domAtPos(anchor), view.domAtPos(head)];
  shown.setBaseAndExtent(from.node, from.offset, to.node, to.offset);
}

/**
 * Keys that stand in for [, ] and | on keyboards where those need AltGr; a trail has no use for these signs of its own but
 * in titles, notes and quotes, where they stay.
 */
export const STAND_INS: Readonly<Record<string, string>> = { "<": "[", ">": "]", "!": "|" };

const standIns = EditorView.inputHandler.of((view, from, to, typed) => {
  const insert = STAND_INS[typed];
  if (insert === undefined || view.composing) return false;
  const line = view.state.doc.lineAt(from);
  const before = line.text.slice(0, from - line.from);
  const isText =
    /^\s*(title|note|point)\b/i.test(before) || /(^|\s)#/.test(before) || before.split('"').length % 2 === 0;
  if (isText) return false;
  view.dispatch({ changes: { from, to, insert }, selection: { anchor: from + 1 }, userEvent: "input.type" });
  return true;
});

/** A pasted parts table is looked at first: it is no trail. */
const tablePasting = (onTable: (text: string) => void) =>
  EditorView.domEventHandlers({
    paste: (event) => {
      const text = event.clipboardData?.getData("text/plain") ?? "";
      if (!/\n|\t/.test(text.trim()) || recognise(text).format === "trail") return false;
      event.preventDefault();
      onTable(text);
      return true;
    },
  });

/** Everything the editor knows about trails, and its keys. */
export const trailEditing = (onTable: (text: string) => void): Extension => [
  standIns,
  tablePasting(onTable),
  lineNumbers(),
  lintGutter(),
  codeFolding(),
  foldGutter({ markerDOM: foldMark }),
  folding,
  drawSelection(),
  highlightActiveLine(),
  bracketMatching(),
  EditorView.lineWrapping,
  // Only Tab takes a suggestion, and it is pressed for nothing else: there is no need to wait for a slip of the hand.
  autocompletion({ override: [completeTrail], icons: false, defaultKeymap: false, interactionDelay: 0 }),
  keymap.of([
    { key: "Alt-Enter", run: mend },
    { key: "Alt-Shift-f", run: format },
    // Enter is for the next line: a suggestion is taken with Tab.
    ...completionKeymap.filter((binding) => binding.key !== "Enter"),
    { key: "Tab", run: acceptCompletion },
    ...foldKeymap,
    ...defaultKeymap,
    ...historyKeymap,
    ...lintKeymap,
  ]),
  placeholder("BT1 12V: F1 2A + [A] R1 220 + [B] R2 1k"),
  highlighting,
  marks,
  lit,
  editorTheme,
  EditorView.contentAttributes.of({
    "aria-label": "Trail of the circuit",
    "aria-describedby": "trail-mistakes",
    tabindex: "0",
    spellcheck: "false",
    autocapitalize: "off",
  }),
];
