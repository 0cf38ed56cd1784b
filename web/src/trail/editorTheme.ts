import { EditorView } from "@codemirror/view";

/** The editor in the bench's own colours. */
export const editorTheme = EditorView.theme({
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
  ".cm-foldPlaceholder": { backgroundColor: "var(--band)", color: "var(--ink)", border: "1px solid var(--rule)" },
  ".cm-tooltip": { backgroundColor: "var(--sheet)", color: "var(--ink)", border: "1px solid var(--rule)" },
  ".cm-tooltip-autocomplete > ul > li": { padding: "0.25rem 0.6rem !important" },
  ".cm-tooltip-autocomplete > ul > li[aria-selected]": {
    backgroundColor: "var(--copper) !important",
    color: "var(--sheet) !important",
  },
  ".cm-completionDetail": { fontFamily: "var(--font-sans)", fontStyle: "normal", marginLeft: "1rem", opacity: "0.85" },
  ".cm-diagnostic": { fontFamily: "var(--font-sans)", fontSize: "1rem" },
  ".cm-panels": { backgroundColor: "var(--band)", color: "var(--ink)" },
  ".trail-part": { fontWeight: "700" },
  ".trail-node": { color: "var(--copper)", fontWeight: "700" },
  ".trail-mark": { color: "var(--suspect)", fontWeight: "700" },
  ".trail-comment": { color: "var(--faint)", fontStyle: "italic" },
  ".trail-word": { color: "var(--low)", fontWeight: "700" },
  ".trail-text": { color: "var(--low)" },
  ".trail-lit": { backgroundColor: "color-mix(in srgb, var(--copper) 26%, transparent)", borderRadius: "3px" },
});
