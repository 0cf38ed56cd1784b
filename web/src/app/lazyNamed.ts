import { type ComponentType, type LazyExoticComponent, lazy } from "react";

/**
 * A component by its name in a module that is fetched when it is first shown.
 * @param isPatient where the page goes on without it: while the server is away it is tried again
 */
export function lazyNamed<M, K extends keyof M & string>(
  load: () => Promise<M>,
  name: K,
  isPatient = false,
  // biome-ignore lint/suspicious/noExplicitAny: whatever properties the component has are its own
): LazyExoticComponent<M[K] extends ComponentType<any> ? M[K] : never> {
  return lazy(async () => ({ default: (await (isPatient ? patiently(load) : load()))[name] as never }));
}

const PAUSE = 2000;
const TRIES = 60;

async function patiently<M>(load: () => Promise<M>, left: number = TRIES): Promise<M> {
  try {
    return await load();
  } catch (error) {
    if (left === 0) throw error;
    await new Promise((done) => setTimeout(done, PAUSE));
    return patiently(load, left - 1);
  }
}
