import { type UseQueryResult, useQuery } from "@tanstack/react-query";
import { useOutbox } from "./OutboxContext.tsx";

/** A query that begins with what was last seen on this device: while the server is away, that is what there is. */
export function useSeen<T>(
  key: readonly unknown[],
  ask: () => Promise<T>,
  options: { readonly enabled?: boolean; readonly staleTime?: number; readonly keepsLast?: boolean } = {},
): UseQueryResult<T, Error> {
  const { device } = useOutbox();
  const { keepsLast = false, ...rest } = options;
  const name = `list:${JSON.stringify(key)}`;
  const seen = device.lastSeen<T>(name);
  return useQuery<T, Error>({
    queryKey: key,
    queryFn: async () => {
      const answer = await ask();
      device.see(name, answer, Date.now());
      return answer;
    },
    ...(seen ? { initialData: seen.value as T & (() => undefined), initialDataUpdatedAt: 0 } : {}),
    ...(keepsLast ? { placeholderData: (before: T | undefined) => before as never } : {}),
    ...rest,
  });
}
