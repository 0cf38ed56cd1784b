import type { ProbeSet } from "../measure/index.ts";
import type { Parameter } from "./parameters.ts";

/** What one changed element adds to the levers and currents of all readings: readings × parameters each. */
export interface Coupling {
  readonly a: Float64Array;
  readonly b: Float64Array;
}

/**
 * What sensitivities are made of. A reading moves with a parameter by lever · current, each per standard deviation; an
 * element changed by a source s, with adjoint l, makes it (lever + l·a)·(current + s·b). All are readings × parameters,
 * so that hot loops run along plain arrays.
 */
export class Couplings {
  readonly lever: Float64Array;
  readonly current: Float64Array;
  /** By element; each reading's row is filled when it is first asked for. */
  private readonly known: (Coupling | undefined)[];
  private readonly isThere: Uint8Array;
  private readonly isWhole: Uint8Array;
  private readonly branch: Int32Array;
  private readonly isVolts: Uint8Array;
  private readonly moved: Float64Array;

  /** @param scales of the parameters in each setting, @param measured readings counted from the first */
  constructor(
    private readonly set: ProbeSet,
    parameters: readonly Parameter[],
    private readonly scales: readonly Float64Array[],
    private readonly measured: number,
  ) {
    const P = parameters.length;
    this.moved = new Float64Array(P);
    this.branch = Int32Array.from(parameters, (p) => p.branch);
    this.isVolts = Uint8Array.from(parameters, (p) => Number(p.acts === "volts"));
    this.lever = new Float64Array(measured * P);
    this.current = new Float64Array(measured * P);
    this.known = Array.from({ length: set.elementCount }, () => undefined);
    this.isThere = new Uint8Array(measured * set.elementCount);
    this.isWhole = new Uint8Array(set.elementCount);
    for (let r = 0, at = 0; r < measured; r += 1) {
      const { a, q, setting } = set.probes[r];
      for (let p = 0; p < P; p += 1, at += 1) {
        const branch = this.branch[p];
        this.lever[at] = a[branch] * scales[setting][p];
        this.current[at] = this.isVolts[p] ? 1 : q[branch];
      }
    }
  }

  /** A changed element's coupling, of which the row of reading `r` may be used. */
  of(r: number, element: number): Coupling {
    let coupling = this.known[element];
    if (coupling === undefined) {
      const size = this.measured * this.branch.length;
      coupling = { a: new Float64Array(size), b: new Float64Array(size) };
      this.known[element] = coupling;
    }
    const number = r * this.set.elementCount + element;
    if (this.isThere[number] === 0) {
      this.fill(r, element, coupling);
      this.isThere[number] = 1;
    }
    return coupling;
  }

  /** The same with every row. */
  whole(element: number): Coupling {
    const coupling = this.of(0, element);
    if (this.isWhole[element] === 0) for (let r = 1; r < this.measured; r += 1) this.of(r, element);
    this.isWhole[element] = 1;
    return coupling;
  }

  /** Sensitivities of reading `r` where `count` elements are changed, into its row of `out`. */
  sensitivities(
    r: number,
    count: number,
    elements: Int32Array,
    sources: Float64Array,
    adjoint: Float64Array,
    out: Float64Array,
  ) {
    const { moved } = this;
    const P = moved.length;
    const start = r * P;
    for (let p = 0; p < P; p += 1) {
      out[start + p] = this.lever[start + p];
      moved[p] = this.current[start + p];
    }
    for (let i = 0; i < count; i += 1) {
      const { a, b } = this.of(r, elements[i]);
      for (let p = 0; p < P; p += 1) {
        out[start + p] += adjoint[i] * a[start + p];
        moved[p] += sources[i] * b[start + p];
      }
    }
    for (let p = 0; p < P; p += 1) out[start + p] *= moved[p];
  }

  private fill(r: number, element: number, { a, b }: Coupling) {
    const { branch, isVolts } = this;
    const { x, c, beta, setting } = this.set.probes[r];
    const scale = this.scales[setting];
    const row = element * this.set.elementCount;
    const byMeter = beta * c[element];
    for (let p = 0, at = r * branch.length; p < branch.length; p += 1, at += 1) {
      const coupling = x[row + branch[p]] + byMeter * c[branch[p]];
      a[at] = coupling * scale[p];
      b[at] = isVolts[p] ? 0 : coupling;
    }
  }
}
