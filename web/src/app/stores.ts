/** A small store of texts by name; where the browser forbids or has no room for it, it lasts as long as the page. */
interface SmallStore {
  readonly get: (name: string) => string | null;
  readonly set: (name: string, text: string) => void;
  readonly remove: (name: string) => void;
  readonly names: () => string[];
}

/** @param browser gives the browser's own store; that alone may throw */
function storeOver(browser: () => Storage): SmallStore {
  /** What the browser would not take; null: it is gone here, whatever the browser still has. */
  const own = new Map<string, string | null>();
  const asked = <T>(ask: (store: Storage) => T, otherwise: T): T => {
    try {
      return ask(browser());
    } catch {
      return otherwise;
    }
  };
  const put = (name: string, text: string | null) => {
    const isTaken = asked((store) => {
      if (text === null) store.removeItem(name);
      else store.setItem(name, text);
      return true;
    }, false);
    if (isTaken) own.delete(name);
    else own.set(name, text);
  };
  return {
    get: (name) => (own.has(name) ? (own.get(name) ?? null) : asked((s) => s.getItem(name), null)),
    set: put,
    remove: (name) => put(name, null),
    names: () => {
      const kept = asked((s) => Object.keys(s), []).filter((name) => !own.has(name));
      return [...kept, ...[...own].flatMap(([name, text]) => (text === null ? [] : [name]))];
    },
  };
}

/** Of this device, in all its tabs. */
export const deviceStore = storeOver(() => localStorage);
/** Of this tab, as long as it is open. */
export const tabStore = storeOver(() => sessionStorage);
