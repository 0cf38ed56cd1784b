import type { MeterLinkState } from "@hound/core/record";
import { useSyncExternalStore } from "react";

/** What a meter shows just now, and how far it is on the way to being held. */
export interface Live {
  readonly shows: MeterLinkState["shows"];
  readonly steady: number;
}

const NOTHING: Live = { shows: null, steady: 0 };

/** What changes many times a second, apart from all else: only what shows it is drawn anew. */
export class MeterFeed {
  private live: Live = NOTHING;
  private readonly listeners = new Set<() => void>();

  readonly now = () => this.live;

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  };

  put(live: Live | null) {
    this.live = live ?? NOTHING;
    for (const listener of this.listeners) listener();
  }
}

export function useLive(feed: MeterFeed): Live {
  return useSyncExternalStore(feed.subscribe, feed.now);
}
