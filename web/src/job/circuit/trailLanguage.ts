import { type Diagnostic, linter } from "@codemirror/lint";
import { type Extension, RangeSetBuilder } from "@codemirror/state";
import { Decoration, type DecorationSet, type EditorView, ViewPlugin, type ViewUpdate } from "@codemirror/view";
import { kindOfDesignator } from "@hound/core/circuit";
import { readTrail, type TokenKind, tokenize } from "@hound/core/notation";

const CLASS_OF: Partial<Record<TokenKind, string>> = {
  name: "trail-node",
  comment: "trail-comment",
  title: "trail-word",
  note: "trail-word",
  reference: "trail-word",
  rest: "trail-text",
  open: "trail-mark",
  close: "trail-mark",
  bar: "trail-mark",
  plus: "trail-mark",
  colon: "trail-mark",
};

/** Colours from the very tokens the reader uses: no second grammar. */
function decorate(view: EditorView): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>();
  for (const token of tokenize(view.state.doc.toString())) {
    const isPart = token.kind === "word" && kindOfDesignator(token.text) !== null;
    const className = isPart ? "trail-part" : CLASS_OF[token.kind];
    if (className) builder.add(token.from, token.to, Decoration.mark({ class: className }));
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
    readTrail(view.state.doc.toString()).mistakes.map((m) => ({
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

export const trailLanguage: Extension = [highlighting, marks];
