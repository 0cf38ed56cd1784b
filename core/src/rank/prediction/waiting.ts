import type { Answer } from "./response.ts";
import type { Row } from "./sensitivities.ts";

/**
 * Sensitivities of readings that wait until they are asked for: some never are, since a few readings rule a hypothesis out.
 * Kept of each is how it answers to the changes of its setting, and of each setting by what its parameters' columns count.
 */
export class Waiting implements Row {
  count = 0;
  firstElement = 0;
  firstSource = 0;
  firstColumn = 0;
  elements = new Int32Array(0);
  sources = new Float64Array(0);
  adjoint = new Float64Array(0);
  readonly columns: Float64Array;
  private readonly isWaiting: Uint8Array;
  private readonly counts: Int32Array;
  /** Room for so many changes in each setting. */
  private most = 0;

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

  put(r: number, { count, elements, sources, adjoint }: Answer) {
    const setting = this.setting[r];
    const [at, own] = [setting * this.most, r * this.most];
    this.isWaiting[r] = 1;
    this.counts[setting] = count;
    for (let i = 0; i < count; i += 1) {
      this.elements[at + i] = elements[i];
      this.sources[own + i] = sources[i];
      this.adjoint[own + i] = adjoint[i];
    }
  }

  /** Takes a reading up, which waits no longer: this is its row then. */
  take(r: number): this {
    const setting = this.setting[r];
    this.isWaiting[r] = 0;
    this.count = this.counts[setting];
    this.firstElement = setting * this.most;
    this.firstSource = r * this.most;
    this.firstColumn = setting * this.parameters;
    return this;
  }

  private makeRoom(most: number) {
    if (most <= this.most) return;
    this.most = most;
    this.elements = new Int32Array(most * this.settings);
    this.sources = new Float64Array(most * this.setting.length);
    this.adjoint = new Float64Array(most * this.setting.length);
  }
}
