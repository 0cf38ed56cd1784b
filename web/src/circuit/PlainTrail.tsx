import { type RefObject, useEffect, useSyncExternalStore } from "react";
import { isTypedInto } from "../app/typing.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import type { TrailDocument } from "../trail/trailDocument.ts";

interface PlainTrailProps {
  readonly document: TrailDocument;
  readonly field: RefObject<HTMLTextAreaElement | null>;
}

/** The trail in a plain field, as long as its editor is on the way: what is typed meanwhile is typed. */
export function PlainTrail({ document, field }: PlainTrailProps) {
  const { desk } = useDesk();
  // The text as it is typed: what the rest of the page shows may lag behind it, and would take letters back.
  const { text } = useSyncExternalStore(desk.subscribe, desk.snapshot);
  useEffect(() => {
    if (field.current?.value === "" && !isTypedInto()) field.current.focus();
  }, [field]);
  return (
    <textarea
      ref={field}
      aria-label="Trail of the circuit"
      data-trail
      value={text}
      spellCheck={false}
      autoCapitalize="off"
      autoComplete="off"
      onChange={(e) => document.replace(e.target.value)}
      className="absolute inset-0 size-full resize-none bg-sheet px-3 py-2 font-mono text-base focus:outline-none"
    />
  );
}
