import { Link } from "react-router";
import { DialogClose, DialogFrame } from "./DialogFrame.tsx";
import { chooseLetterKeys, LETTER_KEYS, type LetterAction, useLetterKeys } from "./letterKeys.ts";
import { SHORTCUTS } from "./shortcutTable.ts";

/** The list of shortcuts; those of one letter can be changed in it. */
export function ShortcutsDialog({ onClose }: { onClose: () => void }) {
  return (
    <DialogFrame open onOpenChange={(open) => !open && onClose()} title="Shortcuts">
      <p>
        What can be typed, with examples, and what the figures mean:{" "}
        <Link to="/help" className="font-bold underline" onClick={onClose}>
          Help
        </Link>
      </p>
      <Letters />
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
        {SHORTCUTS.map(({ keys, does }) => (
          <div key={keys + does} className="contents">
            <dt className="font-mono whitespace-nowrap">{keys}</dt>
            <dd className="text-faint">{does}</dd>
          </div>
        ))}
      </dl>
      <DialogClose>Close</DialogClose>
    </DialogFrame>
  );
}

/** Keys that are single letters: who speaks to the machine, or brushes keys, changes them or does without. */
function Letters() {
  const { isOff, keys } = useLetterKeys();
  return (
    <fieldset className="flex flex-col gap-1.5">
      <legend className="sr-only">Keys of one letter</legend>
      <label className="flex items-center gap-3 font-bold">
        <input
          type="checkbox"
          checked={!isOff}
          onChange={(e) => chooseLetterKeys({ isOff: !e.target.checked })}
          className="size-6 accent-copper"
        />
        Keys of one letter
      </label>
      {!isOff &&
        (Object.keys(LETTER_KEYS) as LetterAction[]).map((action) => (
          <label key={action} className="flex items-center gap-3">
            <input
              value={keys[action] ?? LETTER_KEYS[action].key}
              maxLength={1}
              autoComplete="off"
              onFocus={(e) => e.target.select()}
              onChange={(e) => {
                const key = e.target.value.trim();
                if (key !== "") chooseLetterKeys({ keys: { ...keys, [action]: key } });
              }}
              className="w-10 shrink-0 rounded border border-field bg-paper px-2 py-0.5 text-center font-mono"
            />
            <span className="text-faint">{LETTER_KEYS[action].does}</span>
          </label>
        ))}
      <button
        type="button"
        className="self-start rounded-lg border border-field px-3 py-1 hover:bg-band"
        onClick={() => chooseLetterKeys({ isOff: false, keys: {} })}
      >
        Usual keys
      </button>
    </fieldset>
  );
}
