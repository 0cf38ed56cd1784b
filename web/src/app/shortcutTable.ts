import { PAD_KEYS } from "./padKeys.ts";
import { STAGE_NAMES, STAGES } from "./stages.ts";

/** Shortcuts with a key that is no letter of its own, in the words of the list; the pages that own a key handle it. */
export const SHORTCUTS: readonly { readonly keys: string; readonly does: string }[] = [
  ...STAGE_NAMES.map((stage, i) => ({ keys: `Alt+${i + 1}`, does: `stage ${STAGES[stage]}` })),
  {
    keys: "Ctrl+Z",
    does: "in stage Circuit: undo the last edit of text, table or board; in What-if the last fault; elsewhere the last reading",
  },
  { keys: "Ctrl+Shift+Z", does: "in stages Circuit and What-if: do it again" },
  { keys: "← →", does: "on the board: to the next part or node; with Shift, a stretch of parts" },
  { keys: "Home, End", does: "on the board: to the first, the last" },
  { keys: "R 1 2", does: "on the board: to the part or node of that name; begin with a capital" },
  { keys: "Enter", does: "on the board: measure there, or change the value; in the reading line: record" },
  { keys: "Delete", does: "on the board in stage Circuit: remove and close the gap; with Shift, leave it open" },
  { keys: "F8", does: "in the trail: to the next mistake" },
  {
    keys: "Alt+Enter",
    does: "in the trail: mend the mistake at the cursor; in the reading line: take the correction that is asked about",
  },
  ...Object.entries(PAD_KEYS).map(([keys, does]) => ({ keys: `pad ${keys}`, does: `in the reading line: ${does}` })),
  { keys: "Alt+C", does: "in stage Readings: how to set the meter, in full" },
  { keys: "Alt+Shift+F", does: "in the trail: put the spaces in order" },
  { keys: "Ctrl+Space", does: "in the trail: what could come next; Tab takes it" },
  { keys: "< > !", does: "in the trail: type [ ] and | where those need AltGr" },
  { keys: "Esc, then Tab", does: "in the trail: leave it with Tab" },
  { keys: "r, b", does: "on the practice bench: the red, the black lead goes to what is picked next" },
  { keys: "w, p, n", does: "on the practice bench: write the reading down, power off or on, name the fault" },
  { keys: "Ctrl+D", does: "in the parts table: copy the cell above; with Shift, fill all below" },
];
