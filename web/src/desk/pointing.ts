import { useSyncExternalStore } from "react";

/** What is pointed at: a node or a branch by name. */
export type Selection = { readonly kind: "node" | "branch"; readonly name: string } | null;

export interface Selected {
  readonly selection: Selection;
  /** Names of the parts selected, the last one first; empty while a node is. */
  readonly stretch: readonly string[];
}

const NOTHING: Selected = { selection: null, stretch: [] };

/**
 * What is selected, and what the pointer is over, on the board or in the trail. Beside React: whoever shows one part asks
 * about that part, so that a pointer on its way draws two of them, and not the page.
 */
export class Pointing {
  private chosen = NOTHING;
  private over: Selection = null;
  private readonly listeners = new Set<() => void>();

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  };

  readonly selected = (): Selected => this.chosen;
  readonly hovered = (): Selection => this.over;

  /** Selects a node or part; `extend` keeps the parts that were selected before, as a stretch. */
  readonly select = (next: Selection, extend = false) => {
    const { selection, stretch } = this.chosen;
    if (isSame(selection, next) && !extend && stretch.length <= 1) return;
    if (next?.kind !== "branch") this.chosen = { selection: next, stretch: [] };
    else {
      const kept = extend ? stretch.filter((name) => name !== next.name) : [];
      this.chosen = { selection: next, stretch: [next.name, ...kept] };
    }
    this.tell();
  };

  readonly hover = (next: Selection) => {
    if (isSame(this.over, next)) return;
    this.over = next;
    this.tell();
  };

  private tell() {
    for (const listener of this.listeners) listener();
  }
}

function isSame(one: Selection, other: Selection): boolean {
  return one?.kind === other?.kind && one?.name === other?.name;
}

/** What is selected; whoever asks is drawn again when that changes. */
export function useSelected({ subscribe, selected }: Pointing): Selected {
  return useSyncExternalStore(subscribe, selected);
}

/** An answer about what is pointed at; whoever asks is drawn again when the answer changes. */
export function usePointed<T extends string | number | boolean | null>(
  pointing: Pointing,
  of: (selected: Selected, hovered: Selection) => T,
): T {
  return useSyncExternalStore(pointing.subscribe, () => of(pointing.selected(), pointing.hovered()));
}
