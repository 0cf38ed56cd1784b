/** Work in small steps: whoever takes them may look after something else between two, or end it. */
export type Steps<T> = Generator<void, T>;

/** All of it at once. */
export function atOnce<T>(steps: Steps<T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
