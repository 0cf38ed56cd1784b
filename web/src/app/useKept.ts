import { useCallback, useState } from "react";

/** What stands in a form, kept on this device until it is saved: closing the page, or going elsewhere, loses nothing. */
export interface Kept<T> {
  readonly value: T;
  readonly set: (value: T) => void;
  /** It is saved: nothing is kept any more. */
  readonly forget: () => void;
}

/**
 * @param key of the form, unique on this device
 * @param stored what is saved by now; what was typed over it holds until it says the same
 */
export function useKept<T>(key: string, stored: T): Kept<T> {
  const place = `hound:form:${key}`;
  const [value, setValue] = useState<T>(() => read(place) ?? stored);
  const saved = JSON.stringify(stored);
  const set = useCallback(
    (next: T) => {
      setValue(next);
      const words = JSON.stringify(next);
      try {
        if (words === saved) localStorage.removeItem(place);
        else localStorage.setItem(place, words);
      } catch {
        // Storage is full or forbidden: the form still holds it while it is open.
      }
    },
    [place, saved],
  );
  const forget = useCallback(() => localStorage.removeItem(place), [place]);
  return { value, set, forget };
}

function read<T>(place: string): T | null {
  try {
    const kept = localStorage.getItem(place);
    return kept === null ? null : (JSON.parse(kept) as T);
  } catch {
    return null;
  }
}
