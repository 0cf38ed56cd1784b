/** Readings in the largest set that may be mis-taken at once. */
export const MOST = 3;
/** Sets kept when they are enlarged. */
const KEPT = 4;

/** A handful of sets with their weights, best first. */
export class Front {
  count = 0;
  readonly weight = new Float64Array(KEPT);
  readonly set = new Int16Array(KEPT * MOST);

  offer(weight: number, set: Int16Array) {
    if (this.count === KEPT) {
      if (weight <= this.weight[KEPT - 1]) return;
      this.count -= 1;
    }
    let at = this.count;
    for (; at > 0 && this.weight[at - 1] < weight; at -= 1) {
      this.weight[at] = this.weight[at - 1];
      for (let s = 0; s < MOST; s += 1) this.set[at * MOST + s] = this.set[(at - 1) * MOST + s];
    }
    this.weight[at] = weight;
    for (let s = 0; s < MOST; s += 1) this.set[at * MOST + s] = set[s];
    this.count += 1;
  }

  take(other: Front, floor: number) {
    this.weight.set(other.weight);
    this.set.set(other.set);
    this.count = other.count;
    while (this.count > 0 && !(this.weight[this.count - 1] > floor)) this.count -= 1;
  }

  has(c: number, i: number, size: number): boolean {
    for (let s = 0; s < size; s += 1) if (this.set[c * MOST + s] === i) return true;
    return false;
  }

  /** True where an earlier set gives the same set when `i` joins the set numbered `c`. */
  isRepeated(c: number, i: number, size: number): boolean {
    for (let e = 0; e < c; e += 1) {
      if (!this.has(e, i, size)) continue;
      let same = true;
      for (let s = 0; s < size && same; s += 1) {
        const k = this.set[e * MOST + s];
        same = k === i || this.has(c, k, size);
      }
      if (same) return true;
    }
    return false;
  }
}
