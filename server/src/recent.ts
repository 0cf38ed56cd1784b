/** What was made of a key, kept for the keys that were asked for last. */
export class Recent<T> {
  private readonly kept = new Map<string, T>();

  /** @param most how many are kept */
  constructor(private readonly most: number) {}

  /** @param make is asked where it is not kept */
  of(key: string, make: () => T): T {
    const found = this.kept.has(key) ? (this.kept.get(key) as T) : make();
    this.kept.delete(key);
    this.kept.set(key, found);
    if (this.kept.size > this.most) this.kept.delete(this.kept.keys().next().value as string);
    return found;
  }
}
