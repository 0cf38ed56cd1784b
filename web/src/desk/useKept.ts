import { useCallback, useState } from "react";
import { useOutbox } from "./OutboxContext.tsx";

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
  const { device } = useOutbox();
  const place = `form:${key}`;
  const [typed, setTyped] = useState<T | null>(() => device.get<T>(place));
  const saved = JSON.stringify(stored);
  const forget = useCallback(() => {
    setTyped(null);
    device.remove(place);
  }, [device, place]);
  const set = useCallback(
    (next: T) => {
      if (JSON.stringify(next) === saved) return forget();
      setTyped(next);
      device.put(place, next);
    },
    [device, place, saved, forget],
  );
  return { value: typed ?? stored, set, forget };
}
