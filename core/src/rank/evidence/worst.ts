/** The few largest of a number of values, and whose they are, largest first. */
export class Worst {
  count = 0;
  readonly index: Int32Array;
  readonly value: Float64Array;

  constructor(private readonly most: number) {
    this.index = new Int32Array(most);
    this.value = new Float64Array(most);
  }

  clear() {
    this.count = 0;
  }

  offer(value: number, index: number) {
    if (this.count === this.most) {
      if (!(value > this.value[this.most - 1])) return;
      this.count -= 1;
    }
    let at = this.count;
    for (; at > 0 && this.value[at - 1] < value; at -= 1) {
      this.value[at] = this.value[at - 1];
      this.index[at] = this.index[at - 1];
    }
    this.value[at] = value;
    this.index[at] = index;
    this.count += 1;
  }
}
