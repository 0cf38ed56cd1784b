import { type Changed, Couplings, MOST_SKIPPED } from "../../kernels/index.ts";
import type { ProbeSet } from "../../measure/index.ts";
import type { AtRest } from "./atRest.ts";
import type { Change } from "./change.ts";
import { type Parameter, parameterScales, voltsMovedAt } from "./parameters.ts";
import type { Answer } from "./response.ts";

/** What a prediction remembers, so that each reading's variance by tolerances is worked out only when it is asked for. */
export interface Trace extends Changed {
  /** One or two changed elements tell everything; where they do not, `diagonal` is complete. */
  isFew: boolean;
  count: number;
  first: number;
  second: number;
  /** Variances of the measured readings; NaN until asked for. */
  readonly diagonal: Float64Array;
}

/** How a reading answers to changes, and what the parameters' columns count: each begins somewhere in a longer list. */
export interface Row extends Answer {
  readonly firstElement: number;
  readonly firstSource: number;
  readonly columns: Float64Array;
  readonly firstColumn: number;
}

/** Share of the meter's own standard deviation below which it does not matter how a tolerance moves a reading. */
const DUST = 1e-3;

/** How tolerances move readings, whatever elements are changed: sensitivities per standard deviation, and variances. */
export class Sensitivities {
  /** Parameters that belong to each element in each setting. */
  private readonly own: readonly (readonly (readonly number[])[])[];
  private readonly isVolts: readonly boolean[];
  private readonly isOhms: readonly boolean[];
  private readonly branch: Int32Array;
  private readonly scales: readonly Float64Array[];
  private made: Couplings | null = null;
  /** Where the couplings of each changed element begin. */
  private readonly rows: Int32Array;

  /** @param measured readings with sensitivities, counted from the first */
  constructor(
    private readonly set: ProbeSet,
    parameters: readonly Parameter[],
    private readonly measured: number,
  ) {
    this.scales = parameterScales(set, parameters);
    this.isVolts = parameters.map((p) => p.acts === "volts");
    this.isOhms = parameters.map((p) => p.acts === "ohms");
    this.branch = Int32Array.from(parameters, (p) => p.branch);
    this.own = this.scales.map((scale) => {
      const own = Array.from({ length: set.elementCount }, (): number[] => []);
      parameters.forEach(({ branch }, p) => {
        if (scale[p] !== 0) own[branch].push(p);
      });
      return own;
    });
    this.rows = new Int32Array(set.elementCount);
  }

  newTrace(): Trace {
    const { measured, set } = this;
    return {
      isFew: false,
      count: 0,
      first: 0,
      second: 0,
      source: new Float64Array(2 * measured),
      adjoint: new Float64Array(2 * measured),
      skipped: new Float64Array(MOST_SKIPPED * set.settings.length),
      diagonal: new Float64Array(measured),
    };
  }

  /** Makes a trace of one or two changes, the same elements in every setting; its sources and adjoints are there already. */
  begin(trace: Trace, changes: readonly (readonly Change[])[]) {
    const [one, two = one] = changes[0];
    trace.isFew = true;
    trace.count = changes[0].length;
    trace.first = one.element;
    trace.second = two.element;
    trace.diagonal.fill(Number.NaN);
    trace.skipped.fill(-1);
    for (let s = 0; s < changes.length; s += 1) {
      let next = s * MOST_SKIPPED;
      for (let c = 0; c < changes[s].length; c += 1) {
        const change = changes[s][c];
        const own = this.own[s][change.element];
        for (let i = 0; i < own.length; i += 1) if (this.isForgotten(own[i], change)) trace.skipped[next++] = own[i];
      }
    }
  }

  /** Variance of a measured reading. */
  variance(trace: Trace, r: number): number {
    const { diagonal } = trace;
    if (trace.isFew && Number.isNaN(diagonal[r]))
      diagonal[r] = this.couplings.variance(r, trace, this.set.probes[r].setting);
    return diagonal[r];
  }

  /** Covariance of the first `rows` readings as a packed lower triangle, where the changes are few. */
  covarianceInto(trace: Trace, rows: number, out: Float64Array) {
    this.couplings.covarianceInto(trace, rows, out);
  }

  /** Sensitivities of all readings, readings × parameters, where the changes are few. */
  into(trace: Trace, out: Float64Array) {
    this.couplings.sensitivitiesInto(trace, out);
  }

  /** Sensitivities of one reading, however many elements are changed, into its row of `out`. */
  ofReading(r: number, row: Row, out: Float64Array) {
    const { count, elements, firstElement, sources, adjoint, firstSource, columns, firstColumn } = row;
    const { rows } = this;
    const { lever, current, leverByMeter, currentByMeter, reaction, onLever, onCurrent } = this.couplings;
    const P = this.branch.length;
    const E = this.set.elementCount;
    const start = r * P;
    const first = this.set.probes[r].setting * E;
    let metLever = 0;
    let metCurrent = 0;
    for (let i = 0; i < count; i += 1) {
      const element = elements[firstElement + i];
      const met = reaction[r * E + element];
      metLever += adjoint[firstSource + i] * met;
      metCurrent += sources[firstSource + i] * met;
      rows[i] = (first + element) * P;
    }
    for (let p = 0; p < P; p += 1) {
      let pushed = lever[start + p] + metLever * leverByMeter[start + p];
      let through = current[start + p] + metCurrent * currentByMeter[start + p];
      for (let i = 0; i < count; i += 1) {
        pushed += adjoint[firstSource + i] * onLever[rows[i] + p];
        through += sources[firstSource + i] * onCurrent[rows[i] + p];
      }
      out[start + p] = pushed * through * columns[firstColumn + p];
    }
  }

  /**
   * What a parameter's sensitivities count in a setting under changes: nothing where it is replaced, and of what bends as
   * its line is here, the scales being those of the point without a fault. Into `out`, parameters long.
   */
  columnsInto(setting: number, changes: readonly Change[], bent: AtRest | null, out: Float64Array) {
    out.fill(1);
    if (bent) this.rescale(setting, bent, out);
    for (const change of changes) {
      const own = this.own[setting][change.element];
      for (let i = 0; i < own.length; i += 1) if (this.isForgotten(own[i], change)) out[own[i]] = 0;
    }
  }

  private rescale(setting: number, { moving, active, bent }: AtRest, out: Float64Array) {
    const { ports } = this.set.settings[setting];
    const { ohms } = ports.point.lines;
    for (const i of active) {
      const { element, gain } = moving[i];
      const own = this.own[setting][element];
      for (let k = 0; k < own.length; k += 1) {
        const p = own[k];
        if (this.isVolts[p]) out[p] *= bent.movedVolts(i) / voltsMovedAt(ports, element);
        else if (this.isOhms[p]) out[p] *= (ohms[element] + gain) / ohms[element];
      }
    }
  }

  /** Sensitivities where nothing is changed. */
  asBuilt(out: Float64Array) {
    const { branch, isVolts, set, scales, measured } = this;
    for (let r = 0, at = 0; r < measured; r += 1) {
      const { a, q, setting } = set.probes[r];
      for (let p = 0; p < branch.length; p += 1, at += 1)
        out[at] = a[branch[p]] * scales[setting][p] * (isVolts[p] ? 1 : q[branch[p]]);
    }
  }

  /** A changed element's own tolerance is replaced by the fault, but a weak supply and a leaky diode keep that of their volts. */
  private isForgotten(p: number, { isNothing, keepsVolts }: Change): boolean {
    return !isNothing && !(keepsVolts && this.isVolts[p]);
  }

  private get couplings(): Couplings {
    this.made ??= this.build();
    return this.made;
  }

  private build(): Couplings {
    const { set, measured, branch, isVolts, scales } = this;
    const P = branch.length;
    const E = set.elementCount;
    const settings = set.settings.length;
    const made = new Couplings({ readings: measured, parameters: P, elements: E, settings });
    const isDone = new Uint8Array(settings);
    for (let r = 0, at = 0; r < measured; r += 1) {
      const { a, q, c, x, beta, setting, error } = set.probes[r];
      const scale = scales[setting];
      made.setting[r] = setting;
      made.least[r] = DUST * error.own;
      for (let e = 0; e < E; e += 1) made.reaction[r * E + e] = beta * c[e];
      for (let p = 0; p < P; p += 1, at += 1) {
        const b = branch[p];
        made.lever[at] = a[b] * scale[p];
        made.current[at] = isVolts[p] ? 1 : q[b];
        made.leverByMeter[at] = c[b] * scale[p];
        made.currentByMeter[at] = isVolts[p] ? 0 : c[b];
      }
      if (isDone[setting] === 1 || x.length === 0) continue;
      isDone[setting] = 1;
      for (let e = 0, k = setting * E * P; e < E; e += 1) {
        for (let p = 0; p < P; p += 1, k += 1) {
          const coupling = x[e * E + branch[p]];
          made.onLever[k] = coupling * scale[p];
          made.onCurrent[k] = isVolts[p] ? 0 : coupling;
        }
      }
    }
    return made;
  }
}
