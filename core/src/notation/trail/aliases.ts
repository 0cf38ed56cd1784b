/** Names that nodes have besides: of each pair the first is the name, through as many pairs as there are. */
export class Aliases {
  private readonly first = new Map<string, string>();

  join(name: string, other: string) {
    const [a, b] = [this.nameOf(name), this.nameOf(other)];
    if (a !== b) this.first.set(b, a);
  }

  nameOf(name: string): string {
    let found = name;
    for (let next = this.first.get(found); next !== undefined; next = this.first.get(found)) found = next;
    return found;
  }

  /** Each other name with the one its node goes by. */
  resolved(): Map<string, string> {
    return new Map([...this.first.keys()].map((name) => [name, this.nameOf(name)]));
  }
}
