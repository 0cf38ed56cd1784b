import { useSyncExternalStore } from "react";
import { deviceStore } from "./stores.ts";

const listeners = new Set<() => void>();

/** What this device has chosen for itself: a text by name, the same in all its tabs from their next look on. */
export function useOnDevice(name: string, usual: string): readonly [string, (value: string) => void] {
  const key = `hound:${name}`;
  const value = useSyncExternalStore(listen, () => deviceStore.get(key) ?? usual);
  return [value, (next) => write(key, next)];
}

/** The same where nothing is drawn; null where nothing was chosen. */
export const onDevice = (name: string): string | null => deviceStore.get(`hound:${name}`);

function listen(listener: () => void): () => void {
  listeners.add(listener);
  window.addEventListener("storage", listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener("storage", listener);
  };
}

function write(key: string, value: string) {
  deviceStore.set(key, value);
  for (const listener of listeners) listener();
}
