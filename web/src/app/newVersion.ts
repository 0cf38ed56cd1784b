import { Workbox } from "workbox-window";
import { tabStore } from "./stores.ts";

/** Milliseconds between two looks for a newer version. */
const LOOK_EVERY = 600_000;
/** A page that was loaded anew so lately is not loaded anew again. */
const RELOAD_EVERY = 30_000;

const listeners = new Set<() => void>();
let waiting: Workbox | null = null;

/** Whether a newer version of the pages waits on this device. */
export const newVersion = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
  isThere: () => waiting !== null,
  /** Loads this page anew with it; other tabs go on as they are. */
  use: () => {
    waiting?.addEventListener("controlling", () => location.reload());
    waiting?.messageSkipWaiting();
  },
};

/** Keeps the pages on this device, and hears of newer ones; needs a secure connection, or this very machine. */
export function keepPages() {
  reloadOnceForMissing();
  if (!import.meta.env.PROD || !("serviceWorker" in navigator)) return;
  const box = new Workbox("/sw.js");
  box.addEventListener("waiting", () => {
    waiting = box;
    for (const listener of listeners) listener();
  });
  // Pages that cannot be kept work all the same.
  box.register().catch(() => {});
  const look = () => box.update().catch(() => {});
  setInterval(look, LOOK_EVERY);
  document.addEventListener("visibilitychange", () => document.visibilityState === "visible" && look());
}

/** A part of a page that is on the server no more, after an upgrade: the page is loaded anew, once, if there is one. */
function reloadOnceForMissing() {
  window.addEventListener("vite:preloadError", async () => {
    const last = Number(tabStore.get("hound:reloaded") ?? 0);
    if (Date.now() - last < RELOAD_EVERY) return;
    const answer = await fetch("/index.html", { cache: "no-store" }).catch(() => null);
    if (!answer?.ok) return;
    tabStore.set("hound:reloaded", String(Date.now()));
    location.reload();
  });
}
