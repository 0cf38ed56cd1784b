import { Dialog } from "radix-ui";
import { type ReactNode, useRef } from "react";
import { focusHeading, leaveHand, openerNow } from "./focus.ts";

interface DialogFrameProps {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly title: string;
  /** Lists and previews want more room than a question. */
  readonly wide?: boolean;
  readonly children: ReactNode;
}

/** A sheet over the page, as high as its content allows. */
export function DialogFrame({ open, onOpenChange, title, wide = false, children }: DialogFrameProps) {
  const opener = useRef<HTMLElement | null>(null);
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={() => {
            opener.current = openerNow();
          }}
          onCloseAutoFocus={(event) => {
            leaveHand(event);
            if (event.defaultPrevented) return;
            event.preventDefault();
            // What opened it may be a menu that is gone, or a row that was deleted.
            if (opener.current?.isConnected) opener.current.focus();
            else focusHeading();
          }}
          className={`fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 overflow-auto rounded-xl border border-rule bg-sheet p-6 shadow-xl ${wide ? "w-[min(46rem,94vw)]" : "w-[min(34rem,92vw)]"}`}
        >
          <Dialog.Title className="text-xl font-bold">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Closes the sheet and leaves all as it is. */
export function DialogClose({ children }: { children: ReactNode }) {
  return (
    <Dialog.Close type="button" className="self-end rounded-lg border border-rule px-4 py-2 hover:bg-band">
      {children}
    </Dialog.Close>
  );
}
