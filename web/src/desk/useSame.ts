import { hashKey } from "@tanstack/react-query";
import { useRef } from "react";

/** The value from before as long as the new one says the same: what depends on it is then not worked out again. */
export function useSame<T>(value: T): T {
  const kept = useRef<{ value: T; words: string; seen: T } | null>(null);
  if (!kept.current || kept.current.seen !== value) {
    const words = hashKey([value]);
    kept.current = { value: words === kept.current?.words ? kept.current.value : value, words, seen: value };
  }
  return kept.current.value;
}
