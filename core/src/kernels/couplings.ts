import { BYTES, workspace } from "./workspace.ts";

/** Parameters of changed elements that have no say, at most: two elements, two each. */
export const MOST_SKIPPED = 4;

/** Sizes of a network: readings with sensitivities, parameters, elements that can be changed, settings. */
export interface Sizes {
  readonly readings: number;
  readonly parameters: number;
  readonly elements: number;
  readonly settings: number;
}

/** One or two changed elements: what stands for them in every reading. */
export interface Changed {
  readonly count: number;
  readonly first: number;
  readonly second: number;
  /** Sources and adjoints, readings × 2. */
  readonly source: Float64Array;
  readonly adjoint: Float64Array;
  /** Parameters that have no say, settings × 4; −1 for none. */
  readonly skipped: Float64Array;
}

/** What sensitivities under one or two changed elements are made of, in one block; core/assembly tells how. */
export class Couplings {
  readonly block: Float64Array;
  /** Readings × parameters: what a reading moves by, per standard deviation, is lever · current. */
  readonly lever: Float64Array;
  readonly current: Float64Array;
  /** What a meter's reaction to an element adds to either, by the reaction (readings × elements). */
  readonly leverByMeter: Float64Array;
  readonly currentByMeter: Float64Array;
  readonly reaction: Float64Array;
  /** In which setting each reading was taken. */
  readonly setting: Float64Array;
  /** Sensitivities of each reading below this do not count in a covariance of very many parameters. */
  readonly least: Float64Array;
  /** Settings × elements × parameters: what an element's source adds to a current, and its adjoint to a lever. */
  readonly onLever: Float64Array;
  readonly onCurrent: Float64Array;

  constructor(readonly sizes: Sizes) {
    const { readings, parameters, elements, settings } = sizes;
    const table = readings * parameters;
    const cube = settings * elements * parameters;
    const lengths = [table, table, table, table, readings * elements, readings, readings, cube, cube];
    this.block = new Float64Array(lengths.reduce((sum, length) => sum + length, 0));
    let at = 0;
    const views = lengths.map((length) => {
      at += length;
      return this.block.subarray(at - length, at);
    });
    [this.lever, this.current, this.leverByMeter, this.currentByMeter] = views;
    [, , , , this.reaction, this.setting, this.least, this.onLever, this.onCurrent] = views;
  }

  /** Variance of reading r by tolerances. @param setting in which it was taken */
  variance(r: number, { count, first, second, source, adjoint, skipped }: Changed, setting: number): number {
    const space = this.attend();
    const { start, kernels } = space;
    const view = space.withRoom(MOST_SKIPPED + this.sizes.parameters);
    for (let k = 0; k < MOST_SKIPPED; k += 1) view[start + k] = skipped[setting * MOST_SKIPPED + k];
    const at = start * BYTES;
    const k = 2 * r;
    return kernels.variance(
      r,
      count,
      first,
      second,
      source[k],
      source[k + 1],
      adjoint[k],
      adjoint[k + 1],
      at,
      at + MOST_SKIPPED * BYTES,
    );
  }

  /** Covariance of the first `rows` readings by tolerances, as a packed lower triangle. O(rows²·parameters/2). */
  covarianceInto(changed: Changed, rows: number, out: Float64Array) {
    const size = (rows * (rows + 1)) / 2;
    const { view, source, adjoint, skipped, end } = this.put(changed, rows, Math.max(size, this.sizes.parameters));
    const result = end + rows * this.sizes.parameters;
    const { count, first, second } = changed;
    const { kernels } = workspace();
    kernels.covariance(rows, count, first, second, source, adjoint, skipped, end * BYTES, result * BYTES);
    for (let i = 0; i < size; i += 1) out[i] = view[result + i];
  }

  /** Sensitivities of all readings, readings × parameters. */
  sensitivitiesInto(changed: Changed, out: Float64Array) {
    const { readings, parameters } = this.sizes;
    const { view, source, adjoint, skipped, end } = this.put(changed, readings, 0);
    const { count, first, second } = changed;
    workspace().kernels.sensitivities(readings, count, first, second, source, adjoint, skipped, end * BYTES);
    for (let i = 0; i < readings * parameters; i += 1) out[i] = view[end + i];
  }

  /** The block is where the kernels look for it. */
  private attend() {
    const space = workspace();
    const at = space.keep(this.block);
    const { readings, parameters, elements, settings } = this.sizes;
    if (at >= 0) space.kernels.attendNetwork(at * BYTES, readings, parameters, elements, settings);
    return space;
  }

  private put({ source, adjoint, skipped }: Changed, rows: number, more: number) {
    const space = this.attend();
    const sources = space.start;
    const adjoints = sources + source.length;
    const without = adjoints + adjoint.length;
    const end = without + skipped.length;
    const view = space.withRoom(end - sources + rows * this.sizes.parameters + more);
    view.set(source, sources);
    view.set(adjoint, adjoints);
    view.set(skipped, without);
    return { view, source: sources * BYTES, adjoint: adjoints * BYTES, skipped: without * BYTES, end };
  }
}
