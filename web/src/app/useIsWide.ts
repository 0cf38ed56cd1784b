import { useSyncExternalStore } from "react";

const WIDE = matchMedia("(min-width: 64rem)");

function listen(onChange: () => void) {
  WIDE.addEventListener("change", onChange);
  return () => WIDE.removeEventListener("change", onChange);
}

/** Whether board and pane stand side by side: the stylesheet's `lg`. */
export function useIsWide(): boolean {
  return useSyncExternalStore(listen, () => WIDE.matches);
}
