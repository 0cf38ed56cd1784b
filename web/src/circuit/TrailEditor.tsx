import type { EditorView } from "@codemirror/view";
import type { PartNode } from "@hound/core/notation";
import { useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { isTypedInto } from "../app/typing.ts";
import type { TrailDocument } from "../trail/trailDocument.ts";
import { lightUpIn } from "../trail/trailLanguage.ts";
import { PlainTrail } from "./PlainTrail.tsx";

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
  const plain = useRef<HTMLTextAreaElement>(null);
  const [view, setView] = useState<EditorView | null>(null);
  const now = useRef({ places, onCursor, onPoint });
  now.current = { places, onCursor, onPoint };
  useEffect(() => {
    let close: (() => void) | null = null;
    let isGone = false;
    document.ready().then((engine) => {
      if (isGone || !host.current) return;
      // Whoever types goes on where they are.
      const field = plain.current === window.document.activeElement ? plain.current : null;
      const { selectionStart: anchor = 0, selectionEnd: head = 0 } = field ?? {};
      const shown = engine.show(host.current);
      close = shown.close;
      if (field) shown.view.dispatch({ selection: { anchor, head } });
      if (field || (shown.view.state.doc.length === 0 && !isTypedInto())) shown.view.focus();
      // The plain field goes in the same moment: there are never two.
      flushSync(() => setView(shown.view));
    });
    return () => {
      isGone = true;
      close?.();
      setView(null);
    };
  }, [document]);
  useEffect(() => {
    if (!view) return;
    const partAt = (offset: number | null) =>
      offset === null
        ? null
        : ([...now.current.places.values()].find((p) => p.from <= offset && offset <= p.to)?.designator ?? null);
    const atCursor = () => {
      const found = partAt(view.state.selection.main.head);
      if (found) now.current.onCursor(found);
    };
    const atPointer = (event: MouseEvent) =>
      now.current.onPoint(partAt(view.posAtCoords({ x: event.clientX, y: event.clientY })));
    // They go with the view.
    view.dom.addEventListener("keyup", atCursor);
    view.dom.addEventListener("mouseup", atCursor);
    view.dom.addEventListener("mousemove", atPointer);
    view.dom.addEventListener("mouseleave", () => now.current.onPoint(null));
  }, [view]);
  useEffect(() => {
    if (!goTo || !view) return;
    const anchor = Math.min(goTo.offset, view.state.doc.length);
    view.dispatch({ selection: { anchor }, scrollIntoView: true });
    view.focus();
  }, [goTo, view]);
  useEffect(() => {
    const part = lit === null ? undefined : places.get(lit);
    if (view) lightUpIn(view, part ? { from: part.from, to: part.to } : null);
  }, [lit, places, view]);
  return (
    <div
      ref={host}
      className="relative h-full min-h-40 overflow-hidden rounded-lg border border-rule lg:[contain:strict]"
    >
      {!view && <PlainTrail document={document} field={plain} />}
    </div>
  );
}
