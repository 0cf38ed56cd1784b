import { type IDBPDatabase, type IDBPObjectStore, openDB } from "idb";
import { Journal, type Noted, tabsWithNotes } from "./journal.ts";

/** Something that one tab keeps on this device. */
export interface Kept {
  readonly tab: string;
  readonly key: string;
  readonly value: unknown;
}

interface Seen {
  readonly value: unknown;
  readonly at: number;
}

type WriteStore = IDBPObjectStore<unknown, ["kept"], "kept", "readwrite">;

const NAME = "clever-hound";
/** Things last seen that are kept at most. */
const MOST_SEEN = 300;

/**
 * What is kept on this device until the server has it, each tab's apart, and what was last seen of the server. What one
 * asks for by key is known without waiting; what one puts is on the device once the promise says so.
 */
export class Device {
  private readonly own = new Map<string, unknown>();
  private readonly seen = new Map<string, Seen>();
  private readonly watchers = new Map<() => void, string>();
  private isKeeping: boolean;
  /** The number of the last transaction of what is kept, and that of each key that is not done. */
  private turn = 0;
  private readonly turns = new Map<string, number>();
  private readonly journal: Journal;

  private constructor(
    private readonly db: IDBPDatabase | null,
    private readonly tab: string,
  ) {
    this.isKeeping = db !== null;
    this.journal = new Journal(tab);
  }

  /** Where the browser keeps nothing (storage forbidden), the device works from memory, and says of every put that it is not kept. */
  static async open(tab: string): Promise<Device> {
    const device = new Device(await openStores(), tab);
    await device.load();
    return device;
  }

  private async load() {
    if (!this.db) return;
    try {
      for (const { key, value } of (await this.db.getAll("kept", ownOf(this.tab))) as Kept[]) this.own.set(key, value);
      // In one transaction: between two, another tab may see something more, and each would stand beside the next one's.
      const { store } = this.db.transaction("seen");
      const [keys, values] = await Promise.all([store.getAllKeys(), store.getAll() as Promise<Seen[]>]);
      for (const [i, key] of keys.entries()) this.seen.set(String(key), values[i]);
    } catch {
      // Nothing can be read: nothing is known.
    }
    // What the last page of this tab could not write any more is written now.
    for (const { key, value } of this.journal.read()) {
      if (value === undefined) this.remove(key);
      else this.put(key, value);
    }
  }

  /** Whether it keeps what is put: the browser may forbid it, or have no room left. Whoever watches is told of a change. */
  get keeps(): boolean {
    return this.isKeeping;
  }

  get<T>(key: string): T | null {
    return (this.own.get(key) as T | undefined) ?? null;
  }

  /** Own keys that begin so, in their order. */
  keys(start: string): string[] {
    return [...this.own.keys()].filter((key) => key.startsWith(start));
  }

  /** Tells whenever something under a key that begins so changed, also by what a closed tab left. @returns what ends that */
  watch(start: string, listener: () => void): () => void {
    this.watchers.set(listener, start);
    return () => this.watchers.delete(listener);
  }

  private tell(key: string) {
    for (const [listener, start] of [...this.watchers]) if (key.startsWith(start)) listener();
  }

  /** @returns whether it is on the device, once that is known */
  put(key: string, value: unknown): Promise<boolean> {
    this.own.set(key, value);
    this.tell(key);
    return this.write({ key, value }, (db) => db.put({ tab: this.tab, key, value }));
  }

  remove(key: string): Promise<boolean> {
    this.own.delete(key);
    this.tell(key);
    // It needs no room: that it is done says nothing of what is put.
    return this.written({ key }, (db) => db.delete([this.tab, key]));
  }

  /** Names of tabs, this one left out, of which something is kept. */
  async others(): Promise<string[]> {
    const keys = ((await this.db?.getAllKeys("kept")) ?? []) as [string, string][];
    return [...new Set([...keys.map(([tab]) => tab), ...tabsWithNotes()])].filter((tab) => tab !== this.tab);
  }

  /**
   * Makes what a closed tab kept this tab's own, in one step: nobody else gets it, and nothing is lost if this tab ends
   * right after. What has the name of something there already gets one more.
   * @returns the keys it has now
   */
  async take(tab: string): Promise<string[]> {
    // Two tabs that find it at the same time: its notes are in no transaction.
    if (!globalThis.navigator?.locks) return this.takeAlone(tab);
    return navigator.locks.request(`hound:take:${tab}`, () => this.takeAlone(tab));
  }

  private async takeAlone(tab: string): Promise<string[]> {
    if (!this.db) return [];
    const journal = new Journal(tab);
    const noted = journal.read();
    const work = this.db.transaction("kept", "readwrite", { durability: "strict" });
    const left = new Map<string, unknown>();
    for (const { key, value } of (await work.store.getAll(ownOf(tab))) as Kept[]) left.set(key, value);
    for (const { key, value } of noted) left.set(key, value);
    const taken: string[] = [];
    for (const [key, value] of left) {
      if (value === undefined) {
        await work.store.delete([tab, key]);
        continue;
      }
      const name = this.own.has(key) ? `${key}~${tab}` : key;
      await work.store.put({ tab: this.tab, key: name, value });
      await work.store.delete([tab, key]);
      this.own.set(name, value);
      taken.push(name);
    }
    await work.done;
    for (const { key } of noted) journal.forget(key);
    for (const key of taken) this.tell(key);
    return taken;
  }

  /** What was last seen under a name, and when. */
  lastSeen<T>(key: string): { readonly value: T; readonly at: number } | null {
    return (this.seen.get(key) as { value: T; at: number } | undefined) ?? null;
  }

  see(key: string, value: unknown, at: number) {
    this.seen.set(key, { value, at });
    const old = [...this.seen].sort((a, b) => b[1].at - a[1].at).slice(MOST_SEEN);
    for (const [name] of old) this.seen.delete(name);
    if (!this.db) return;
    try {
      const work = this.db.transaction("seen", "readwrite");
      const changes = [work.store.put({ value, at }, key), ...old.map(([name]) => work.store.delete(name))];
      // Only a convenience: what is not kept is fetched again.
      for (const change of [...changes, work.done]) change.catch(() => {});
      work.commit();
    } catch {
      // The stores are closed.
    }
  }

  private async write(noted: Noted, change: (store: WriteStore) => Promise<unknown>): Promise<boolean> {
    const isKept = await this.written(noted, change);
    if (isKept !== this.isKeeping) {
      this.isKeeping = isKept;
      for (const listener of [...this.watchers.keys()]) listener();
    }
    return isKept;
  }

  private async written(noted: Noted, change: (store: WriteStore) => Promise<unknown>): Promise<boolean> {
    if (!this.db) return false;
    const turn = ++this.turn;
    this.turns.set(noted.key, turn);
    this.journal.note(noted);
    const isKept = await this.transact(this.db, change);
    if (this.turns.get(noted.key) === turn) {
      this.turns.delete(noted.key);
      this.journal.forget(noted.key);
    }
    return isKept;
  }

  private async transact(db: IDBPDatabase, change: (store: WriteStore) => Promise<unknown>): Promise<boolean> {
    try {
      const work = db.transaction("kept", "readwrite", { durability: "strict" });
      // Whether it went well is the transaction's to say.
      change(work.store).catch(() => {});
      // Asked for at once: it goes on even if the page is gone the next moment.
      work.commit();
      await work.done;
      return true;
    } catch {
      return false;
    }
  }
}

const ownOf = (tab: string) => IDBKeyRange.bound([tab], [tab, []]);

async function openStores(): Promise<IDBPDatabase | null> {
  try {
    return await openDB(NAME, 1, {
      upgrade: (db) => {
        db.createObjectStore("kept", { keyPath: ["tab", "key"] });
        db.createObjectStore("seen");
      },
      // Another version of this program wants to change the stores: it waits for this tab no longer than it must.
      blocking: (_now, _wanted, event) => (event.target as IDBDatabase).close(),
    });
  } catch {
    return null;
  }
}
