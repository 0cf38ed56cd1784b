import type { ProbeSet } from "../measure/index.ts";
import type { Parameter } from "./parameters.ts";

/**
 * What sensitivities are made of. A reading moves with a parameter by lever · current, each per standard deviation; an
 * element changed by a source s, with adjoint l, makes it (lever + l·a)·(current + s·b). Laid out along parameters, so
 * that hot loops run along plain arrays: `lever` and `current` readings × parameters, `a` and `b` from `place` on.
 */
export class Couplings {
  readonly lever: Float64Array;
  readonly current: Float64Array;
  /** Readings × elements × parameters, each stretch filled when it is first asked for. */
  a = new Float64Array(0);
  b = new Float64Array(0);
  private readonly isThere: Uint8Array;
  private readonly branch: Int32Array;
  private readonly isVolts: Uint8Array;

  /** @param scales of the parameters in each setting, @param measured readings counted from the first */
  constructor(
    private readonly set: ProbeSet,
    parameters: readonly Parameter[],
    private readonly scales: readonly Float64Array[],
    private readonly measured: number,
  ) {
    const P = parameters.length;
    this.branch = Int32Array.from(parameters, (p) => p.branch);
    this.isVolts = Uint8Array.from(parameters, (p) => Number(p.acts === "volts"));
    this.lever = new Float64Array(measured * P);
    this.current = new Float64Array(measured * P);
    this.isThere = new Uint8Array(measured * set.elementCount);
    for (let r = 0, at = 0; r < measured; r += 1) {
      const { a, q, setting } = set.probes[r];
      for (let p = 0; p < P; p += 1, at += 1) {
        const branch = this.branch[p];
        this.lever[at] = a[branch] * scales[setting][p];
        this.current[at] = this.isVolts[p] ? 1 : q[branch];
      }
    }
  }

  /** Where in `a` and `b` the parameters of a reading and a changed element begin. */
  place(r: number, element: number): number {
    const P = this.branch.length;
    const number = r * this.set.elementCount + element;
    if (this.isThere[number] === 0) {
      if (this.a.length === 0) {
        const size = this.measured * this.set.elementCount * P;
        this.a = new Float64Array(size);
        this.b = new Float64Array(size);
      }
      this.fill(r, element, number * P);
      this.isThere[number] = 1;
    }
    return number * P;
  }

  private fill(r: number, element: number, start: number) {
    const { branch, isVolts, a, b } = this;
    const { x, c, beta, setting } = this.set.probes[r];
    const scale = this.scales[setting];
    const row = element * this.set.elementCount;
    const byMeter = beta * c[element];
    for (let p = 0, at = start; p < branch.length; p += 1, at += 1) {
      const coupling = x[row + branch[p]] + byMeter * c[branch[p]];
      a[at] = coupling * scale[p];
      b[at] = isVolts[p] ? 0 : coupling;
    }
  }
}
