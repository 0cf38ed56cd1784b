import { Keyboard } from "lucide-react";
import { type ReactNode, Suspense, useState } from "react";
import { lazyNamed } from "./lazyNamed.ts";
import { isKeyOf } from "./letterKeys.ts";
import { isTyping } from "./typing.ts";
import { useKeys } from "./useKeys.ts";

const ShortcutsDialog = lazyNamed(() => import("./ShortcutsDialog.tsx"), "ShortcutsDialog");

/** The reading line has the focus all the time: while it is empty a question mark asks for the keys. */
function isEmptyLine(target: EventTarget | null): boolean {
  return target instanceof HTMLInputElement && target.dataset.line === "reading" && target.value === "";
}

/** The list of shortcuts, which comes on `?` as well. @returns what shows it, and where it stands */
export function useShortcuts(): { readonly show: () => void; readonly dialog: ReactNode } {
  const [open, setOpen] = useState(false);
  useKeys((event) => {
    if (!isKeyOf("help", event) || (isTyping(event) && !isEmptyLine(event.target))) return;
    event.preventDefault();
    setOpen(true);
  });
  const dialog = open && (
    <Suspense>
      <ShortcutsDialog onClose={() => setOpen(false)} />
    </Suspense>
  );
  return { show: () => setOpen(true), dialog };
}

/** A button for it. */
export function Shortcuts() {
  const { show, dialog } = useShortcuts();
  return (
    <>
      <button
        type="button"
        aria-label="Shortcuts"
        onClick={show}
        className="hidden rounded-lg p-2 hover:bg-rule/50 sm:block"
      >
        <Keyboard size={22} aria-hidden />
      </button>
      {dialog}
    </>
  );
}
