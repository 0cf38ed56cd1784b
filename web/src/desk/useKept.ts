import { useCallback, useMemo, useSyncExternalStore } from "react";
import { isSameData } from "../app/isSameData.ts";
import { useOutbox } from "./OutboxContext.tsx";

/** What stands in a form, kept on this device until it is saved: closing the page, or going elsewhere, loses nothing. */
export interface Kept<T> {
  readonly value: T;
  readonly set: (value: T) => void;
  /** It is saved: nothing is kept any more. What was typed since then stays. @param sent what was saved; whatever stands there where it is left out */
  readonly forget: (sent?: T) => void;
}

/**
 * What every form of the product stands on. What a closed tab left in the same form is shown as soon as this tab has it;
 * where something else is typed here, both stay, and that one is shown to be copied.
 * @param key of the form, unique on this device
 * @param stored what is saved by now; what was typed over it holds until it says the same
 */
export function useKept<T>(key: string, stored: T): Kept<T> {
  const { device } = useOutbox();
  const place = `form:${key}`;
  const watch = useCallback((listener: () => void) => device.watch(place, listener), [device, place]);
  const kept = useSyncExternalStore(watch, () => device.get<unknown>(place));
  const saved = JSON.stringify(stored);
  const value = useMemo(() => typedOver(kept, JSON.parse(saved) as T), [kept, saved]);
  const forget = useCallback(
    (sent?: T) => {
      const now = device.get<T>(place);
      if (now === null || (sent !== undefined && !isSameData(now, sent))) return;
      device.remove(place);
    },
    [device, place],
  );
  const set = useCallback(
    (next: T) => {
      if (JSON.stringify(next) === saved) device.remove(place);
      else device.put(place, next);
    },
    [device, place, saved],
  );
  return { value, set, forget };
}

/** What was typed, as far as it is of the form's kind: another version of this program may have kept another. */
function typedOver<T>(kept: unknown, stored: T): T {
  if (kept === null) return stored;
  if (isFields(stored)) return isFields(kept) ? ({ ...stored, ...kept } as T) : stored;
  return stored === null || typeof kept === typeof stored ? (kept as T) : stored;
}

const isFields = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === "object" && value !== null && !Array.isArray(value);
