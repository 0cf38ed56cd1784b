import { Keyboard } from "lucide-react";
import { useEffect, useState } from "react";
import { DialogClose, DialogFrame } from "./DialogFrame.tsx";

/** Every shortcut of the pages, in the words of the list; the pages that own a key handle it. */
export const SHORTCUTS = {
  help: { keys: "?", does: "show this list" },
  newJob: { keys: "n", does: "new job (on the jobs page)" },
  search: { keys: "/", does: "search jobs, or go to the reading line" },
  circuit: { keys: "Alt+1", does: "stage Circuit" },
  expected: { keys: "Alt+2", does: "stage Expected" },
  readings: { keys: "Alt+3", does: "stage Readings" },
  whatif: { keys: "Alt+4", does: "stage What-if" },
  suspects: { keys: "Alt+5", does: "stage Suspects" },
  undo: {
    keys: "Ctrl+Z",
    does: "in stage Circuit: undo the last edit of text, table or board; in What-if the last fault; elsewhere the last reading",
  },
  redo: { keys: "Ctrl+Shift+Z", does: "in stages Circuit and What-if: do it again" },
  board: { keys: "← →", does: "on the board: to the next part or node; with Shift, a stretch of parts" },
  use: { keys: "Enter", does: "on the board: measure there, or change the value; in the reading line: record" },
  zoom: { keys: "+ - 0 f", does: "on the board: larger, smaller, usual size, all in sight" },
  imagined: { keys: "t w", does: "on the board: the staircase; what is supposed in What-if" },
  way: { keys: "i", does: "on the board: show the current’s way through the selected part" },
  edit: {
    keys: "b a p m s n j",
    does: "on the board in stage Circuit: before, after, parallel, move, swap, name, join",
  },
  remove: {
    keys: "Delete",
    does: "on the board in stage Circuit: remove and close the gap; with Shift, leave it open",
  },
  nextMistake: { keys: "F8", does: "in the trail: to the next mistake" },
  mend: { keys: "Alt+Enter", does: "in the trail: mend the mistake at the cursor" },
  format: { keys: "Alt+Shift+F", does: "in the trail: put the spaces in order" },
  complete: { keys: "Ctrl+Space", does: "in the trail: what could come next; Tab takes it" },
} as const;

/** True while keys belong to a text field. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  return target !== null && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
}

/** The reading line has the focus all the time: while it is empty a question mark asks for the keys. */
function isEmptyLine(target: EventTarget | null): boolean {
  return target instanceof HTMLInputElement && target.dataset.line === "reading" && target.value === "";
}

/** The list of shortcuts, on `?` and on a button. */
export function Shortcuts() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== SHORTCUTS.help.keys || (isTyping(event) && !isEmptyLine(event.target))) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
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
      <DialogFrame open={open} onOpenChange={setOpen} title="Shortcuts">
        <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
          {Object.values(SHORTCUTS).map(({ keys, does }) => (
            <div key={keys + does} className="contents">
              <dt className="font-mono whitespace-nowrap">{keys}</dt>
              <dd className="text-faint">{does}</dd>
            </div>
          ))}
        </dl>
        <DialogClose>Close</DialogClose>
      </DialogFrame>
    </>
  );
}
