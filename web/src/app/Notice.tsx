import { X } from "lucide-react";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from "react";
import { inWords } from "../words/print.ts";

export interface NoticeContent {
  readonly text: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

interface Notices {
  readonly show: (notice: NoticeContent) => void;
  readonly dismiss: () => void;
  /** `at` tells one from the next of the same words. */
  readonly shown: (NoticeContent & { readonly at: number }) | null;
}

const NoticeContext = createContext<Notices>({ show: () => {}, dismiss: () => {}, shown: null });
const SHOWN_MS = 9000;

/** Keeps what the pages below have to say; one of them shows it with `NoticeBar`. */
export function NoticeArea({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<Notices["shown"]>(null);
  const show = useCallback((content: NoticeContent) => setShown({ ...content, at: Date.now() }), []);
  const dismiss = useCallback(() => setShown(null), []);
  const notices = useMemo(() => ({ show, dismiss, shown }), [show, dismiss, shown]);
  return <NoticeContext value={notices}>{children}</NoticeContext>;
}

/** Says a line on what happened, and how to take it back. */
export function useNotice() {
  return useContext(NoticeContext).show;
}

/**
 * One line with a room of its own, so that it covers nothing. It goes after a while, but not while a person is at it;
 * Escape and its cross dismiss it.
 */
export function NoticeBar({ className = "" }: { className?: string }) {
  const { shown, dismiss } = useContext(NoticeContext);
  const [isHeld, setHeld] = useState(false);
  useEffect(() => {
    if (!shown || isHeld) return;
    const timer = setTimeout(dismiss, SHOWN_MS);
    return () => clearTimeout(timer);
  }, [shown, isHeld, dismiss]);
  const close = () => {
    setHeld(false);
    dismiss();
  };
  return (
    <div role="status" className={`shrink-0 ${className}`}>
      {shown && (
        // biome-ignore lint/a11y/noStaticElementInteractions: only listens whether someone is at it
        <div
          className="flex items-center gap-3 bg-ink py-2 pr-2 pl-4 text-paper"
          onFocus={() => setHeld(true)}
          onBlur={() => setHeld(false)}
          onPointerEnter={() => setHeld(true)}
          onPointerLeave={() => setHeld(false)}
          onKeyDown={(e) => e.key === "Escape" && close()}
        >
          <span dir="auto" className="grow">
            {inWords(shown.text)}
          </span>
          {shown.action && (
            <button
              type="button"
              className="rounded border border-current px-3 py-1 font-bold whitespace-nowrap"
              onClick={() => {
                shown.action?.run();
                close();
              }}
            >
              {shown.action.label}
            </button>
          )}
          <button type="button" aria-label="Dismiss" className="rounded p-1.5" onClick={close}>
            <X size={18} aria-hidden />
          </button>
        </div>
      )}
    </div>
  );
}
