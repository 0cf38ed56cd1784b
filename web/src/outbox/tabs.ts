import { newId } from "../app/newId.ts";
import { deviceStore, tabStore } from "../app/stores.ts";

/** Milliseconds between two looks for tabs that are gone. */
const LOOK_EVERY = 3000;
/** Without locks: a tab that has not said so for this long is alive no more. Tabs out of sight say it once a minute. */
const SILENT_FOR = 180_000;

const hasLocks = "locks" in navigator;

/**
 * This tab's name, for as long as it lives: whoever wants to know whether it does asks for the lock of that name. A
 * duplicated tab begins with a copy of the name, and takes another.
 */
export async function nameThisTab(): Promise<string> {
  const before = tabStore.get("hound:tab");
  if (!hasLocks) {
    // Without locks (no secure connection) a duplicated tab cannot be told from the first.
    const name = before ?? keepName(newId());
    const beat = () => deviceStore.set(`hound:alive:${name}`, String(Date.now()));
    beat();
    setInterval(beat, LOOK_EVERY);
    return name;
  }
  if (before && (await holdForLife(before))) return before;
  const name = newId();
  await holdForLife(name);
  return keepName(name);
}

function keepName(name: string): string {
  tabStore.set("hound:tab", name);
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

/** Which of these tabs are open no more. */
export async function closedOf(tabs: readonly string[]): Promise<string[]> {
  if (!hasLocks) {
    const isSilent = (tab: string) => Date.now() - Number(deviceStore.get(`hound:alive:${tab}`)) > SILENT_FOR;
    return tabs.filter(isSilent);
  }
  const { held = [] } = await navigator.locks.query();
  const open = new Set(held.map((lock) => lock.name));
  return tabs.filter((tab) => !open.has(`hound:tab:${tab}`));
}

/** Does this once now, and again and again while this tab leads: one tab of a browser does, the next when it is gone. */
export async function lead(work: () => Promise<void>) {
  await work().catch(() => {});
  const again = () => {
    setTimeout(async () => {
      await work().catch(() => {});
      again();
    }, LOOK_EVERY);
  };
  if (hasLocks) navigator.locks.request("hound:leader", () => new Promise<void>(again)).catch(() => {});
  else again();
}
