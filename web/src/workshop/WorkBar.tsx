import type { Work } from "./useWork.ts";

interface WorkBarProps {
  readonly work: Work;
  /** What is being done: "Packing", "Bringing it in". */
  readonly words: string;
  /** What is counted; left out, only the share is told. */
  readonly of?: string;
  /** Share of a file that is on its way to the server. */
  readonly sent?: number | null;
}

/** How far a long piece of work is, with the button that stops it; nothing where there is none. */
export function WorkBar({ work, words, of, sent = null }: WorkBarProps) {
  if (!work.isRunning) return null;
  const { done = 0, of: all = 0 } = work.progress ?? {};
  const isSending = sent !== null && sent < 1;
  const share = isSending ? sent : all > 0 ? done / all : undefined;
  const counted = !isSending && of && all > 0 ? `: ${done} of ${all} ${of}` : "";
  return (
    <div className="flex flex-wrap items-center gap-3">
      <progress value={share} className="h-3 w-48 accent-copper" aria-label={words} />
      <span role="status">
        {isSending ? "Sending" : words}
        {counted} …
      </span>
      <button type="button" onClick={work.stop} className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band">
        Stop
      </button>
    </div>
  );
}
