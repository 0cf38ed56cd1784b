import { type ComponentType, type LazyExoticComponent, lazy } from "react";

/** A component by its name in a module that is fetched when it is first shown. */
export function lazyNamed<M, K extends keyof M & string>(
  load: () => Promise<M>,
  name: K,
  // biome-ignore lint/suspicious/noExplicitAny: whatever properties the component has are its own
): LazyExoticComponent<M[K] extends ComponentType<any> ? M[K] : never> {
  return lazy(async () => ({ default: (await load())[name] as never }));
}

const PAUSE = 2000;
const TRIES = 60;

/** A module that is no harm to wait for: while the server is away it is tried again, and what is beside it goes on. */
export function patiently<M>(load: () => Promise<M>): () => Promise<M> {
  const tryOnce = async (left: number): Promise<M> => {
    try {
      return await load();
    } catch (error) {
      if (left === 0) throw error;
      await new Promise((done) => setTimeout(done, PAUSE));
      return tryOnce(left - 1);
    }
  };
  return () => tryOnce(TRIES);
}
