import type { Answer } from "./response.ts";

/**
 * Sensitivities of readings that wait until they are asked for: most never are, since a few readings rule a hypothesis out.
 * Kept of each is how it answers to the changes of its setting, and of each setting by what its parameters' columns count.
 */
export class Waiting implements Answer {
  /** Of the reading taken up last. */
  count = 0;
  elements = new Int32Array(0);
  sources = new Float64Array(0);
  adjoint = new Float64Array(0);
  private readonly isWaiting: Uint8Array;
  private readonly columns: Float64Array;
  private readonly counts: Int32Array;
  private most = 0;
  private changed = new Int32Array(0);
  private source = new Float64Array(0);
  private back = new Float64Array(0);

  /** @param setting of each measured reading */
  constructor(
    private readonly setting: Int32Array,
    private readonly settings: number,
    private readonly parameters: number,
  ) {
    this.isWaiting = new Uint8Array(setting.length);
    this.columns = new Float64Array(settings * parameters);
    this.counts = new Int32Array(settings);
  }

  clear() {
    this.isWaiting.fill(0);
  }

  has(r: number): boolean {
    return this.isWaiting[r] === 1;
  }

  /** Factors of a setting's parameters, to be filled in; there is room for its changes then. */
  columnsOf(setting: number, changes: readonly unknown[]): Float64Array {
    this.makeRoom(changes.length);
    return this.columns.subarray(setting * this.parameters, (setting + 1) * this.parameters);
  }

  /** Those of a reading's setting. */
  columnsAt(r: number): Float64Array {
    const s = this.setting[r];
    return this.columns.subarray(s * this.parameters, (s + 1) * this.parameters);
  }

  private makeRoom(most: number) {
    if (most <= this.most) return;
    this.most = most;
    this.elements = new Int32Array(most);
    this.sources = new Float64Array(most);
    this.adjoint = new Float64Array(most);
    this.changed = new Int32Array(most * this.settings);
    this.source = new Float64Array(most * this.setting.length);
    this.back = new Float64Array(most * this.setting.length);
  }

  put(r: number, { count, elements, sources, adjoint }: Answer) {
    const { most, changed, source, back } = this;
    const s = this.setting[r];
    this.isWaiting[r] = 1;
    this.counts[s] = count;
    for (let i = 0; i < count; i += 1) {
      changed[s * most + i] = elements[i];
      source[r * most + i] = sources[i];
      back[r * most + i] = adjoint[i];
    }
  }

  /** Takes a reading up: it waits no longer, and this is its answer. */
  take(r: number): this {
    const { most, changed, source, back } = this;
    const s = this.setting[r];
    this.isWaiting[r] = 0;
    this.count = this.counts[s];
    for (let i = 0; i < this.count; i += 1) {
      this.elements[i] = changed[s * most + i];
      this.sources[i] = source[r * most + i];
      this.adjoint[i] = back[r * most + i];
    }
    return this;
  }
}
