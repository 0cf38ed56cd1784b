import { useEffect } from "react";
import type { Drawn } from "../desk/DeskContext.tsx";

export interface SheetProps {
  readonly drawn: Drawn;
  /** Of what is printed, in px. */
  readonly width: number;
  /** Told whether all that stands on it is worked out, where it is printed: not before. */
  readonly onReady?: (isReady: boolean) => void;
}

/** Tells whether a sheet is ready; when it is gone nothing has to be waited for. */
export function useReady(isReady: boolean, onReady: SheetProps["onReady"]) {
  useEffect(() => {
    onReady?.(isReady);
    return () => onReady?.(true);
  }, [isReady, onReady]);
}
