import { useEffectEvent, useLayoutEffect } from "react";

/**
 * Listens to the keys wherever the focus is. It hears them from the step on that puts the page there: a key pressed the
 * moment its page is seen is not lost.
 * @param options `isFirst`: before anything on the page hears them
 */
export function useKeys(onKey: (event: KeyboardEvent) => void, options: { readonly isFirst?: boolean } = {}) {
  const { isFirst = false } = options;
  const heard = useEffectEvent(onKey);
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => heard(event);
    window.addEventListener("keydown", listen, { capture: isFirst });
    return () => window.removeEventListener("keydown", listen, { capture: isFirst });
  }, [isFirst]);
}
