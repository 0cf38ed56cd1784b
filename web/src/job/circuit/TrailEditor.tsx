import type { EditorView } from "@codemirror/view";
import type { PartNode } from "@hound/core/notation";
import { useEffect, useRef } from "react";
import type { TrailDocument } from "./trailDocument.ts";
import { lightUpIn } from "./trailLanguage.ts";

interface TrailEditorProps {
  readonly document: TrailDocument;
  readonly places: ReadonlyMap<string, PartNode>;
  /** Place to put the cursor at; a new object moves it again. */
  readonly goTo: { readonly offset: number } | null;
  /** The part that is pointed at elsewhere. */
  readonly lit: string | null;
  /** The part at the cursor, and the one under the pointer. */
  readonly onCursor: (designator: string) => void;
  readonly onPoint: (designator: string | null) => void;
}

/** The trail in a text editor; mistakes are marked where they are. */
export function TrailEditor({ document, places, goTo, lit, onCursor, onPoint }: TrailEditorProps) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const now = useRef({ places, onCursor, onPoint });
  now.current = { places, onCursor, onPoint };
  useEffect(() => {
    if (!host.current) return;
    const { view: shown, close } = document.show(host.current);
    view.current = shown;
    const partAt = (offset: number | null) =>
      offset === null
        ? null
        : ([...now.current.places.values()].find((p) => p.from <= offset && offset <= p.to)?.designator ?? null);
    const atCursor = () => {
      const found = partAt(shown.state.selection.main.head);
      if (found) now.current.onCursor(found);
    };
    const atPointer = (event: MouseEvent) =>
      now.current.onPoint(partAt(shown.posAtCoords({ x: event.clientX, y: event.clientY })));
    shown.dom.addEventListener("keyup", atCursor);
    shown.dom.addEventListener("mouseup", atCursor);
    shown.dom.addEventListener("mousemove", atPointer);
    shown.dom.addEventListener("mouseleave", () => now.current.onPoint(null));
    if (shown.state.doc.length === 0) shown.focus();
    return () => {
      close();
      view.current = null;
    };
  }, [document]);
  useEffect(() => {
    if (!goTo || !view.current) return;
    const anchor = Math.min(goTo.offset, view.current.state.doc.length);
    view.current.dispatch({ selection: { anchor }, scrollIntoView: true });
    view.current.focus();
  }, [goTo]);
  useEffect(() => {
    const part = lit === null ? undefined : places.get(lit);
    if (view.current) lightUpIn(view.current, part ? { from: part.from, to: part.to } : null);
  }, [lit, places]);
  return (
    <div ref={host} className="h-full min-h-40 overflow-hidden rounded-lg border border-rule lg:[contain:strict]" />
  );
}
