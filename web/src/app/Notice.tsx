import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from "react";

export interface NoticeContent {
  readonly text: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

const NoticeContext = createContext<(notice: NoticeContent) => void>(() => {});

/** One line at the foot of the page that says what happened and how to take it back. */
export function NoticeArea({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<(NoticeContent & { at: number }) | null>(null);
  const show = useCallback((content: NoticeContent) => setNotice({ ...content, at: Date.now() }), []);
  useEffect(() => {
    if (!notice) return;
    const timer = setTimeout(() => setNotice(null), 9000);
    return () => clearTimeout(timer);
  }, [notice]);
  const bar = useMemo(
    () =>
      notice && (
        <div className="fixed bottom-4 left-1/2 z-40 flex max-w-[92vw] -translate-x-1/2 lg:right-6 lg:left-auto lg:translate-x-0 items-center gap-4 rounded-lg bg-ink px-4 py-3 text-paper shadow-lg">
          <span>{notice.text}</span>
          {notice.action && (
            <button
              type="button"
              className="rounded border border-current px-3 py-1 font-bold whitespace-nowrap"
              onClick={() => {
                notice.action?.run();
                setNotice(null);
              }}
            >
              {notice.action.label}
            </button>
          )}
        </div>
      ),
    [notice],
  );
  return (
    <NoticeContext value={show}>
      {children}
      <div role="status">{bar}</div>
    </NoticeContext>
  );
}

export function useNotice() {
  return useContext(NoticeContext);
}
