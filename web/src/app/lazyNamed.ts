import { type ComponentType, type LazyExoticComponent, lazy } from "react";

/** A component by its name in a module that is fetched when it is first shown. */
export function lazyNamed<M, K extends keyof M & string>(
  load: () => Promise<M>,
  name: K,
  // biome-ignore lint/suspicious/noExplicitAny: whatever properties the component has are its own
): LazyExoticComponent<M[K] extends ComponentType<any> ? M[K] : never> {
  return lazy(async () => ({ default: (await load())[name] as never }));
}
