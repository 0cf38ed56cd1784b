import { type Law, type Network, scaledLaw } from "../../circuit/index.ts";
import { type FaultAt, faultedNetwork } from "../../faults/index.ts";
import { gramInto } from "../../kernels/index.ts";
import { buildProbes, type Probe, type ProbeSet } from "../../measure/index.ts";
import type { MeterData } from "../../record/index.ts";
import { Answers } from "./answers.ts";
import { type Change, Changes, type Pairs, type SettingChange } from "./change.ts";
import { Gains } from "./gains.ts";
import { CurrentLimits } from "./limits.ts";
import { type Parameter, parametersOf } from "./parameters.ts";
import { type Answer, OVERLOAD, Response, settleFilaments } from "./response.ts";
import { Sensitivities, type Trace } from "./sensitivities.ts";
import { Tracks } from "./tracks.ts";

/**
 * Predicts all readings under faults, exactly, and how tolerances move them. Results are in `y` (readings) and `j`
 * (readings × parameters, row-major, per standard deviation), valid until the next call. A network that the faults
 * make unsolvable gives NaN.
 */
export class Predictor {
  readonly parameters: readonly Parameter[];
  readonly y: Float64Array;
  readonly j: Float64Array;
  readonly gains: Gains;
  readonly tracks: Tracks;
  private readonly filaments: readonly number[];
  private readonly limited: CurrentLimits;
  private readonly changes: Changes;
  private readonly tolerances: Sensitivities;
  private readonly trace: Trace;
  private readonly answers: Answers;
  private readonly response = new Response();
  private readonly dynamic = new Response();

  /** @param measured readings with sensitivities, counted from the first; the rest are observations */
  constructor(
    readonly set: ProbeSet,
    private readonly meter: MeterData,
    readonly measured = set.probes.length,
    pairs: Pairs = NO_PAIRS,
  ) {
    this.parameters = parametersOf(set);
    this.gains = new Gains(set.probes);
    this.tracks = new Tracks(set.network, this.parameters);
    this.tolerances = new Sensitivities(set, this.parameters, measured);
    this.trace = this.tolerances.newTrace();
    this.y = new Float64Array(set.probes.length);
    this.j = new Float64Array(measured * this.parameters.length);
    const laws = set.settings.map(({ ports }) => ports.laws);
    this.filaments = set.network.branches.flatMap((_, k) => (laws.some((l) => l[k].kind === "filament") ? [k] : []));
    this.limited = new CurrentLimits(set);
    this.answers = new Answers(set);
    this.changes = new Changes(set, pairs);
  }

  /** Fills `y`, and `j` when asked for. */
  predict(faults: readonly FaultAt[], sensitivities: boolean) {
    const perSetting = this.limited.hold(this.changes.of(faults));
    if (!this.traceFew(perSetting, this.trace)) this.predictFrom(perSetting, faults, sensitivities);
    else if (sensitivities) this.tolerances.into(this.trace, this.j);
  }

  /** Sections of potentiometers apart, as the fresh solution of another predictor takes them. */
  private predictUnturned(faults: readonly FaultAt[], sensitivities: boolean) {
    const perSetting = this.limited.hold(this.changes.of(faults));
    this.readChanged(perSetting as readonly (readonly Change[])[], sensitivities);
  }

  private predictFrom(perSetting: readonly SettingChange[], faults: readonly FaultAt[], sensitivities: boolean) {
    if (perSetting.includes("afresh")) {
      this.predictAfresh(faults, sensitivities);
      return;
    }
    this.readChanged(perSetting as readonly (readonly Change[])[], sensitivities);
    if (sensitivities) this.tracks.turn(this.j, this.parameters.length, this.measured);
  }

  private readChanged(perSetting: readonly (readonly Change[])[], sensitivities: boolean) {
    const { probes } = this.set;
    for (let r = 0; r < probes.length; r += 1)
      this.read(probes[r], r, perSetting[probes[r].setting], sensitivities && r < this.measured);
  }

  /**
   * Fills `y`, and `trace` with what `varianceOf` makes each reading's variance of; with one or two changed elements,
   * without the sensitivities.
   * @param variances false where they will hardly be asked for: a prediction that takes sensitivities leaves no trace
   * @returns what was left: a trace, everything (`y` and `j` hold the full prediction and the trace is complete), or
   * nothing but `y`
   */
  predictTraced(faults: readonly FaultAt[], trace: Trace, variances: boolean): "trace" | "all" | "nothing" {
    const perSetting = this.limited.hold(this.changes.of(faults));
    if (this.traceFew(perSetting, trace)) return "trace";
    this.predictFrom(perSetting, faults, variances);
    if (!variances) return "nothing";
    trace.isFew = false;
    const P = this.parameters.length;
    for (let r = 0, k = 0; r < this.measured; r += 1) {
      let sum = 0;
      for (let p = 0; p < P; p += 1, k += 1) sum += this.j[k] * this.j[k];
      trace.diagonal[r] = sum;
    }
    return "all";
  }

  /** Variance of a measured reading by tolerances and the meter's gain, in a prediction `y` that was traced. */
  varianceOf(trace: Trace, r: number, y: Float64Array): number {
    return this.tolerances.variance(trace, r) + this.gains.between(r, r, y);
  }

  /**
   * Covariance of the first `rows` readings by tolerances and the meter's gain, packed lower triangle, in a prediction
   * `y` that was traced.
   * @returns false where only `j` can tell it
   */
  covarianceOf(trace: Trace, rows: number, y: Float64Array, out: Float64Array): boolean {
    if (!trace.isFew) return false;
    this.tolerances.covarianceInto(trace, rows, out);
    this.gains.addTo(out, rows, y);
    return true;
  }

  /** The same from `y` and `j` as they stand. */
  covarianceOfLast(rows: number, out: Float64Array) {
    gramInto(this.j, rows, this.parameters.length, out);
    this.gains.addTo(out, rows, this.y);
  }

  newTrace(): Trace {
    return this.tolerances.newTrace();
  }

  /** Predicts from sources and adjoints alone, where one or two elements change, the same ones in every setting. */
  private traceFew(perSetting: readonly SettingChange[], trace: Trace): boolean {
    if (this.filaments.length > 0 || !this.tracks.isNone) return false;
    const count = perSetting[0].length;
    for (let s = 0; s < perSetting.length; s += 1)
      if (perSetting[s] === "afresh" || perSetting[s].length !== count) return false;
    if (count !== 1 && count !== 2) return false;
    const changes = perSetting as readonly (readonly Change[])[];
    for (let s = 1; s < changes.length; s += 1)
      for (let i = 0; i < count; i += 1) if (changes[s][i].element !== changes[0][i].element) return false;
    const { answers } = this;
    const { sources, adjoint } = answers;
    const { probes } = this.set;
    for (let r = 0; r < probes.length; r += 1) {
      const probe = probes[r];
      if (!answers.of(probe, changes[probe.setting])) return false;
      this.y[r] = shown(probe, answers);
      if (r >= this.measured) continue;
      for (let i = 0; i < count; i += 1) {
        trace.source[2 * r + i] = sources[i];
        trace.adjoint[2 * r + i] = adjoint[i];
      }
    }
    this.tolerances.begin(trace, changes);
    return true;
  }

  private read(probe: Probe, r: number, changes: readonly Change[], sensitivities: boolean) {
    const lamps = this.filaments.length > 0 ? settleFilaments(this.set, probe, changes, this.filaments) : null;
    let answer: Answer = this.answers;
    if (lamps || !this.answers.of(probe, changes)) {
      answer = this.response.solve(this.set, probe, lamps?.statics ?? changes);
      if (this.response.cut !== null) {
        this.silence(r, this.response.cut, sensitivities);
        return;
      }
    }
    this.y[r] = shown(probe, answer);
    if (!sensitivities) return;
    // A lamp's small change follows its dynamic resistance, what flows through it its static one.
    const { adjoint } = lamps ? this.dynamic.solve(this.set, probe, lamps.dynamics) : answer;
    this.tolerances.ofReading(r, answer, adjoint, this.j);
    if (lamps) this.rescaleFilaments(probe, r, lamps.dynamics);
    for (const change of changes) this.forget(r, change.filament ? { ...change, gain: 1 } : change);
  }

  /** Scales were taken at the healthy point; a filament's follows its dynamic ohms here. */
  private rescaleFilaments(probe: Probe, r: number, dynamics: readonly Change[]) {
    const { ohms } = this.set.settings[probe.setting].ports.point;
    for (const { element, gain, filament } of dynamics) {
      if (!filament) continue;
      for (const p of this.tolerances.ownOf(element))
        if (this.parameters[p].acts === "ohms")
          this.j[r * this.parameters.length + p] *= (ohms[element] + gain) / ohms[element];
    }
  }

  private forget(r: number, change: Change) {
    const own = this.tolerances.ownOf(change.element);
    for (let i = 0; i < own.length; i += 1)
      if (this.tolerances.isForgotten(own[i], change)) this.j[r * this.parameters.length + own[i]] = 0;
  }

  private silence(r: number, value: number, sensitivities: boolean) {
    const P = this.parameters.length;
    this.y[r] = value;
    if (sensitivities) this.j.fill(0, r * P, (r + 1) * P);
  }

  /**
   * Where the islands change or a current limit is passed, and wherever parts are moved off their nominal values: the
   * faulted network is solved anew.
   * @param factors of each parameter's nominal value; sensitivities stay per nominal standard deviation
   */
  predictAfresh(faults: readonly FaultAt[], sensitivities: boolean, factors?: Float64Array) {
    const { bridges, probes } = this.set;
    const network = factors ? this.moved(factors) : this.set.network;
    const faulted = faultedNetwork(network, bridges, faults);
    // A filament settles anew with the meter in place, which takes the couplings to find out.
    const couplings = this.filaments.length > 0;
    const fresh = buildProbes(
      faulted.network,
      probes.map((p) => onRange(p)),
      { meter: this.meter, faults: faulted.faults, couplings, unloadedFrom: this.measured },
    );
    if (fresh.kind !== "probes") {
      this.y.fill(Number.NaN);
      this.j.fill(0);
      return;
    }
    const inner = new Predictor(fresh, this.meter, this.measured);
    if (couplings) inner.predictUnturned([], sensitivities);
    else inner.readAsBuilt(sensitivities);
    this.y.set(inner.y);
    if (!sensitivities) return;
    this.copySensitivities(inner, faults, factors);
    this.tracks.turn(this.j, this.parameters.length, this.measured);
  }

  private readAsBuilt(sensitivities: boolean) {
    const { probes } = this.set;
    for (let r = 0; r < probes.length; r += 1) this.y[r] = Math.min(probes[r].y, OVERLOAD);
    if (sensitivities) this.tolerances.asBuilt(this.j);
  }

  private moved(factors: Float64Array): Network {
    const laws = new Map<number, Law>();
    this.parameters.forEach(({ branch }, p) => {
      if (factors[p] !== 1) laws.set(branch, scaledLaw(this.set.network.branches[branch].law, factors[p]));
    });
    const branches = this.set.network.branches.map((b, k) => ({ ...b, law: laws.get(k) ?? b.law }));
    return { ...this.set.network, branches };
  }

  private copySensitivities(inner: Predictor, faults: readonly FaultAt[], factors?: Float64Array) {
    const modes = new Map(faults.map((f) => [f.site.branch, f.site.mode]));
    const P = this.parameters.length;
    const Q = inner.parameters.length;
    this.j.fill(0);
    this.parameters.forEach((parameter, p) => {
      const mode = modes.get(parameter.branch);
      if (mode !== undefined && !(mode === "weak" && parameter.acts === "volts")) return;
      const from = inner.parameters.findIndex((q) => q.branch === parameter.branch && q.acts === parameter.acts);
      if (from < 0) return;
      const perDeviation = 1 / (factors?.[p] ?? 1);
      for (let r = 0; r < this.measured; r += 1) this.j[r * P + p] = inner.j[r * Q + from] * perDeviation;
    });
  }
}

const NO_PAIRS: Pairs = { all: [], closers: new Map(), moved: new Map() };

/** The reading on the very range it was taken on, whatever another circuit would suggest. */
function onRange({ reading, range }: Probe): Probe["reading"] {
  return reading.range === undefined && reading.quantity === "current"
    ? { ...reading, range: `${range.span}A` }
    : reading;
}

/** What the meter shows: it ends at an overload. */
function shown({ y, a }: Probe, { count, elements, sources }: Answer): number {
  let value = y;
  for (let i = 0; i < count; i += 1) value += a[elements[i]] * sources[i];
  return Math.min(value, OVERLOAD);
}
