import { deviceStore } from "../app/stores.ts";

/** What of a tab is in a transaction that is not done: its value, or that it is removed. */
export interface Noted {
  readonly key: string;
  /** Left out: removed. */
  readonly value?: unknown;
}

const START = "hound:queued:";
/** Letters of one value that are noted at most: it costs the page time at each of them. */
const MOST_LETTERS = 200_000;

/**
 * What is in a transaction of the device's own store, or waits behind one. When a page is closed a busy browser may drop
 * what is in flight, and often drops what is behind it; what is noted here is kept at once.
 */
export class Journal {
  constructor(private readonly tab: string) {}

  /** Pictures and what is too large are not noted: nothing older of that key is left either. */
  note(noted: Noted) {
    const text = textOf(noted);
    if (text === null) this.forget(noted.key);
    else deviceStore.set(this.place(noted.key), text);
  }

  /** The store has it, or something newer. */
  forget(key: string) {
    deviceStore.remove(this.place(key));
  }

  /** What was not in the store yet when its tab ended. */
  read(): Noted[] {
    const start = this.place("");
    return deviceStore.names().flatMap((name) => {
      if (!name.startsWith(start)) return [];
      const noted = notedIn(deviceStore.get(name));
      return noted ? [noted] : [];
    });
  }

  private place(key: string): string {
    return `${START}${this.tab}:${key}`;
  }
}

/** Names of the tabs of which something is noted. */
export function tabsWithNotes(): string[] {
  const names = deviceStore.names().filter((name) => name.startsWith(START));
  return [...new Set(names.map((name) => name.slice(START.length).split(":")[0]))];
}

function textOf(noted: Noted): string | null {
  try {
    const text = JSON.stringify(noted, (_, value) => {
      if (value instanceof Blob) throw new TypeError("a picture is no text");
      return value;
    });
    return text.length > MOST_LETTERS ? null : text;
  } catch {
    return null;
  }
}

function notedIn(text: string | null): Noted | null {
  try {
    const noted = JSON.parse(text ?? "null") as Noted | null;
    return typeof noted?.key === "string" ? noted : null;
  } catch {
    return null;
  }
}
