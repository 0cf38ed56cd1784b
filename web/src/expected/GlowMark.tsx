import type { Glow } from "./chartRows.ts";

/** A lamp as bright as it should be, with the word for it. */
export function GlowMark({ glow: { word, share } }: { glow: Glow }) {
  return (
    <span className="ml-2 inline-flex items-center gap-1.5 font-normal text-faint">
      <svg width="18" height="18" viewBox="-9 -9 18 18" aria-hidden>
        <circle r="8" className="fill-doubt" fillOpacity={Math.min(1, share)} />
        <circle r="8" fill="none" stroke="currentColor" strokeWidth="1.6" />
        <path d="M-5.6 -5.6 L5.6 5.6 M-5.6 5.6 L5.6 -5.6" stroke="currentColor" strokeWidth="1.2" />
      </svg>
      {word}
    </span>
  );
}
