import { newId } from "../app/newId.ts";
import type { ReadingOp } from "./desk.ts";

/** A change that the server refused for good: it stays until somebody decides. */
export type Refused =
  | { readonly what: "reading"; readonly op: ReadingOp; readonly why: string }
  | { readonly what: "circuit"; readonly text: string; readonly why: string };

/** What of a job is not saved yet, as it is kept on this device. */
export interface Draft {
  readonly text: string;
  readonly revision: number;
  readonly pending: readonly ReadingOp[];
  readonly refused?: readonly Refused[];
}

type Store = Pick<Storage, "getItem" | "setItem" | "removeItem">;

/** The drafts of one job: each tab has one of its own, so that none writes over another's. */
export class Drafts {
  constructor(
    private readonly store: Store,
    private readonly job: string,
    private readonly tab: string,
  ) {}

  private key(tab: string): string {
    // Before tabs had names there was one draft for all of them.
    return tab === NAMELESS ? `hound:desk:${this.job}` : `hound:desk:${this.job}:${tab}`;
  }

  read(): Draft | null {
    return this.of(this.tab);
  }

  of(tab: string): Draft | null {
    try {
      const kept = this.store.getItem(this.key(tab));
      return kept ? (JSON.parse(kept) as Draft) : null;
    } catch {
      return null;
    }
  }

  /** @returns whether it is kept: storage may be full, or forbidden */
  write(draft: Draft | null): boolean {
    try {
      if (draft) this.store.setItem(this.key(this.tab), JSON.stringify(draft));
      else this.store.removeItem(this.key(this.tab));
      return true;
    } catch {
      return false;
    }
  }

  /** Takes a draft of a tab that is gone. */
  take(tab: string): Draft | null {
    const draft = this.of(tab);
    if (draft) this.store.removeItem(this.key(tab));
    return draft;
  }
}

const NAMELESS = "";

/** Tabs that have, or left behind, a draft of a job. */
export function tabsWithDrafts(storage: Storage, job: string): string[] {
  const start = `hound:desk:${job}`;
  return Object.keys(storage).flatMap((key) =>
    key === start ? [NAMELESS] : key.startsWith(`${start}:`) ? [key.slice(start.length + 1)] : [],
  );
}

let ownTab: Promise<string> | null = null;

/**
 * This tab's name, for as long as it lives: whoever wants to know whether it does asks for the lock of that name. A
 * duplicated tab begins with a copy of the name, and takes another.
 */
export function thisTab(): Promise<string> {
  ownTab ??= (async () => {
    const before = sessionStorage.getItem("hound:tab");
    // Without locks (no secure connection) a duplicated tab cannot be told from the first.
    if (!("locks" in navigator)) return before ?? rename(newId());
    if (before && (await holdForLife(before))) return before;
    const name = newId();
    await holdForLife(name);
    return rename(name);
  })();
  return ownTab;
}

function rename(name: string): string {
  sessionStorage.setItem("hound:tab", name);
  return name;
}

function holdForLife(tab: string): Promise<boolean> {
  return new Promise((done) => {
    navigator.locks
      .request(`hound:tab:${tab}`, { ifAvailable: true }, (lock) => {
        done(lock !== null);
        return lock ? new Promise<void>(() => {}) : undefined;
      })
      .catch(() => done(false));
  });
}

/** Which of these tabs are open no more, as far as one can tell. */
async function closedOf(tabs: readonly string[]): Promise<string[]> {
  if (!("locks" in navigator)) return [];
  const { held = [] } = await navigator.locks.query();
  const open = new Set(held.map((lock) => lock.name));
  return tabs.filter((tab) => !open.has(`hound:tab:${tab}`));
}

/**
 * Looks for drafts of a job that closed or crashed tabs left behind, one tab of this browser at a time, and hands each
 * over once.
 */
export async function takeOverDrafts(drafts: Drafts, job: string, own: string, take: (draft: Draft) => void) {
  const work = async () => {
    const others = tabsWithDrafts(localStorage, job).filter((tab) => tab !== own);
    for (const tab of await closedOf(others)) {
      const draft = drafts.take(tab);
      if (draft) take(draft);
    }
  };
  if ("locks" in navigator) await navigator.locks.request(`hound:takeover:${job}`, work);
}
