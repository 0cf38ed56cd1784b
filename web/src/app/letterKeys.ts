import { useSyncExternalStore } from "react";
import { deviceStore } from "./stores.ts";

/** Every key that is a single letter or sign, by what it does; all can be changed or switched off on a device. */
export const LETTER_KEYS = {
  help: { key: "?", does: "show this list" },
  newJob: { key: "n", does: "on the jobs page: new job" },
  search: { key: "/", does: "search jobs, or go to the reading line" },
  before: { key: "b", does: "on the board in stage Circuit: new part before the selected one" },
  after: { key: "a", does: "on the board in stage Circuit: new part after it" },
  parallel: { key: "p", does: "on the board in stage Circuit: new branch beside it" },
  move: { key: "m", does: "on the board in stage Circuit: move it behind another" },
  swap: { key: "s", does: "on the board in stage Circuit: let two parts change places" },
  name: { key: "n", does: "on the board in stage Circuit: name the part or node" },
  join: { key: "j", does: "on the board in stage Circuit: new part from this node to another" },
  larger: { key: "+", does: "on the board: larger" },
  smaller: { key: "-", does: "on the board: smaller" },
  usual: { key: "0", does: "on the board: usual size" },
  fit: { key: "f", does: "on the board: all in sight" },
  staircase: { key: "t", does: "on the board: the staircase" },
  whatIf: { key: "w", does: "on the board: what is supposed in What-if" },
  trace: { key: "i", does: "on the board: the current’s way through the selected part" },
} as const;
export type LetterAction = keyof typeof LETTER_KEYS;

interface Chosen {
  readonly isOff: boolean;
  readonly keys: Partial<Record<LetterAction, string>>;
}

const PLACE = "hound:letterKeys";
const listeners = new Set<() => void>();
let chosen: Chosen = stored();

function stored(): Chosen {
  try {
    return { isOff: false, keys: {}, ...JSON.parse(deviceStore.get(PLACE) ?? "{}") };
  } catch {
    return { isOff: false, keys: {} };
  }
}

/** What this device has chosen. */
export function useLetterKeys(): Chosen {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => chosen,
  );
}

export function chooseLetterKeys(change: Partial<Chosen>) {
  chosen = { ...chosen, ...change };
  deviceStore.set(PLACE, JSON.stringify(chosen));
  for (const listener of listeners) listener();
}

/** The key of an action on this device; null while such keys are switched off. */
export function keyOf(action: LetterAction): string | null {
  return chosen.isOff ? null : (chosen.keys[action] ?? LETTER_KEYS[action].key);
}

interface Pressed {
  readonly key: string;
  readonly code: string;
  readonly ctrlKey: boolean;
  readonly altKey: boolean;
  readonly metaKey: boolean;
  readonly isComposing?: boolean;
  readonly nativeEvent?: { readonly isComposing: boolean };
}

/** True of a key pressed for the letter it types: no modifier but Shift, and nothing being composed. */
export function isPlain(event: Pressed): boolean {
  const isComposing = event.isComposing ?? event.nativeEvent?.isComposing ?? false;
  return !event.ctrlKey && !event.altKey && !event.metaKey && !isComposing;
}

/** True where the key that was pressed is the one of an action. */
export function isKeyOf(action: LetterAction, event: Pressed): boolean {
  return isPlain(event) && event.key === keyOf(action);
}

/**
 * The digit on the key that was pressed with Alt, wherever the layout has its digits: Alt types signs on some systems and
 * digits stand on Shift on some layouts. Ctrl with Alt types characters: those are left alone.
 */
export function altDigit(event: Pressed): number | null {
  if (!event.altKey || event.ctrlKey || event.metaKey) return null;
  const digit = /^(?:Digit|Numpad)(\d)$/.exec(event.code)?.[1];
  return digit === undefined ? null : Number(digit);
}

/** Ctrl or Cmd with a letter, by the letter that the layout has there. */
export function isCommand(event: Pressed, letter: string): boolean {
  return (event.ctrlKey || event.metaKey) && !event.altKey && event.key.toLowerCase() === letter;
}
