import { type ReactNode, useEffect, useRef, useState } from "react";

interface ClampedProps {
  /** What it is about, for the button that shows the rest. */
  readonly of: string;
  readonly children: ReactNode;
}

/** Words in a room of two lines, whatever they say: what does not fit is shown when it is asked for. */
export function Clamped({ of, children }: ClampedProps) {
  const box = useRef<HTMLDivElement>(null);
  const words = useRef<HTMLDivElement>(null);
  const [isCut, setIsCut] = useState(false);
  const [isWhole, setIsWhole] = useState(false);
  // It is told when either has another size: asked at each rendering, it would have the page laid out each time.
  useEffect(() => {
    const { current } = box;
    if (!current || !words.current) return;
    const seen = new ResizeObserver(() => setIsCut(current.scrollHeight > current.clientHeight + 2));
    seen.observe(current);
    seen.observe(words.current);
    return () => seen.disconnect();
  }, []);
  return (
    <div className="flex items-end gap-2">
      <div ref={box} className={`min-w-0 grow text-bench ${isWhole ? "" : "h-12 overflow-hidden"}`}>
        <div ref={words} className="flow-root">
          {children}
        </div>
      </div>
      {(isCut || isWhole) && (
        <button
          type="button"
          aria-expanded={isWhole}
          aria-label={isWhole ? `Less about ${of}` : `All about ${of}`}
          className="shrink-0 rounded border border-rule px-2 leading-6 hover:bg-band"
          onClick={() => setIsWhole(!isWhole)}
        >
          {isWhole ? "less" : "all"}
        </button>
      )}
    </div>
  );
}
