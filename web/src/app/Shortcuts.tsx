import { Keyboard } from "lucide-react";
import { Suspense, useState } from "react";
import { lazyNamed } from "./lazyNamed.ts";
import { isKeyOf } from "./letterKeys.ts";
import { isTyping } from "./typing.ts";
import { useKeys } from "./useKeys.ts";

const ShortcutsDialog = lazyNamed(() => import("./ShortcutsDialog.tsx"), "ShortcutsDialog");

/** The reading line has the focus all the time: while it is empty a question mark asks for the keys. */
function isEmptyLine(target: EventTarget | null): boolean {
  return target instanceof HTMLInputElement && target.dataset.line === "reading" && target.value === "";
}

/** The list of shortcuts, on `?` and on a button. */
export function Shortcuts() {
  const [open, setOpen] = useState(false);
  useKeys((event) => {
    if (!isKeyOf("help", event) || (isTyping(event) && !isEmptyLine(event.target))) return;
    event.preventDefault();
    setOpen(true);
  });
  return (
    <>
      <button
        type="button"
        aria-label="Shortcuts"
        onClick={() => setOpen(true)}
        className="hidden rounded-lg p-2 hover:bg-rule/50 sm:block"
      >
        <Keyboard size={22} aria-hidden />
      </button>
      {open && (
        <Suspense>
          <ShortcutsDialog onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
