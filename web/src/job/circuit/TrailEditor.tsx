import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { bracketMatching } from "@codemirror/language";
import { lintGutter, lintKeymap } from "@codemirror/lint";
import { EditorState } from "@codemirror/state";
import { drawSelection, EditorView, highlightActiveLine, keymap, lineNumbers, placeholder } from "@codemirror/view";
import { useEffect, useRef } from "react";
import { trailLanguage } from "./trailLanguage.ts";

const theme = EditorView.theme({
  "&": { fontSize: "1.05rem", backgroundColor: "var(--sheet)", color: "var(--ink)", height: "100%" },
  "&.cm-focused": { outline: "3px solid var(--copper)", outlineOffset: "-1px" },
  ".cm-scroller": { fontFamily: "var(--font-mono)", lineHeight: "1.65" },
  ".cm-content": { caretColor: "var(--copper)", padding: "0.6rem 0" },
  ".cm-cursor": { borderLeftColor: "var(--copper)", borderLeftWidth: "2.5px" },
  ".cm-gutters": { backgroundColor: "var(--band)", color: "var(--faint)", border: "none" },
  ".cm-activeLine, .cm-activeLineGutter": { backgroundColor: "color-mix(in srgb, var(--copper) 8%, transparent)" },
  ".cm-selectionBackground, &.cm-focused .cm-selectionBackground": {
    backgroundColor: "color-mix(in srgb, var(--copper) 28%, transparent) !important",
  },
  ".cm-placeholder": { color: "var(--faint)" },
  ".cm-tooltip": { backgroundColor: "var(--sheet)", color: "var(--ink)", border: "1px solid var(--rule)" },
  ".cm-diagnostic": { fontFamily: "var(--font-sans)", fontSize: "1rem" },
  ".cm-panels": { backgroundColor: "var(--band)", color: "var(--ink)" },
  ".trail-part": { fontWeight: "700" },
  ".trail-node": { color: "var(--copper)", fontWeight: "700" },
  ".trail-mark": { color: "var(--suspect)", fontWeight: "700" },
  ".trail-comment": { color: "var(--faint)", fontStyle: "italic" },
  ".trail-word": { color: "var(--low)", fontWeight: "700" },
  ".trail-text": { color: "var(--low)" },
});

interface TrailEditorProps {
  readonly text: string;
  readonly onChange: (text: string) => void;
  /** The part or node at the cursor, by its place in the text. */
  readonly onCursor: (offset: number) => void;
  /** Place to put the cursor at; a new object moves it again. */
  readonly goTo: { readonly offset: number } | null;
  /** The editor's own state between visits, so that its history outlives the stage. */
  readonly memory: { current: EditorState | null };
}

/** The trail in a text editor; mistakes are marked where they are. */
export function TrailEditor({ text, onChange, onCursor, goTo, memory }: TrailEditorProps) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const calls = useRef({ onChange, onCursor });
  calls.current = { onChange, onCursor };
  const first = useRef(text);
  useEffect(() => {
    if (!host.current) return;
    const extensions = [
      lineNumbers(),
      lintGutter(),
      history(),
      drawSelection(),
      highlightActiveLine(),
      bracketMatching(),
      EditorView.lineWrapping,
      keymap.of([...defaultKeymap, ...historyKeymap, ...lintKeymap]),
      placeholder("BT1 12V: F1 2A + [A] R1 220 + [B] R2 1k"),
      trailLanguage,
      theme,
      EditorView.contentAttributes.of({
        "aria-label": "Trail of the circuit",
        spellcheck: "false",
        autocapitalize: "off",
      }),
      EditorView.updateListener.of((update) => {
        if (update.docChanged) calls.current.onChange(update.state.doc.toString());
        if (update.selectionSet && update.view.hasFocus) calls.current.onCursor(update.state.selection.main.head);
      }),
    ];
    const kept = memory.current;
    const state =
      kept && kept.doc.toString() === first.current ? kept : EditorState.create({ doc: first.current, extensions });
    const editor = new EditorView({ state, parent: host.current });
    view.current = editor;
    if (editor.state.doc.length === 0) editor.focus();
    return () => {
      memory.current = editor.state;
      editor.destroy();
      view.current = null;
    };
  }, [memory]);
  useEffect(() => {
    const editor = view.current;
    if (editor) editor.dispatch({ changes: smallestChange(editor.state.doc.toString(), text) });
  }, [text]);
  useEffect(() => {
    if (!goTo || !view.current) return;
    view.current.dispatch({ selection: { anchor: goTo.offset }, scrollIntoView: true });
    view.current.focus();
  }, [goTo]);
  return <div ref={host} className="h-full min-h-48 overflow-hidden rounded-lg border border-rule" />;
}

/** The one stretch in which two texts differ: the cursor and the history keep their places around it. */
function smallestChange(before: string, after: string): { from: number; to: number; insert: string }[] {
  if (before === after) return [];
  let from = 0;
  while (from < before.length && before[from] === after[from]) from += 1;
  let tail = 0;
  const most = Math.min(before.length, after.length) - from;
  while (tail < most && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail += 1;
  return [{ from, to: before.length - tail, insert: after.slice(from, after.length - tail) }];
}
