import type { Law, Network } from "../circuit/index.ts";
import { buildProbes, type Probe, type ProbeSet } from "../measure/index.ts";
import type { MeterData } from "../record/index.ts";
import { Answers } from "./answers.ts";
import { type Change, Changes, type FaultAt, faultedLaws, type SettingChange, scaled, withBridges } from "./change.ts";
import { Couplings } from "./couplings.ts";
import { CurrentLimits } from "./limits.ts";
import { type Parameter, parameterScales, parametersOf } from "./parameters.ts";
import { OVERLOAD, Response, settleFilaments } from "./response.ts";
import { type Trace, Variances } from "./variances.ts";

/**
 * Predicts all readings under faults, exactly, and how tolerances move them. Results are in `y` (readings) and `j`
 * (readings × parameters, row-major, per standard deviation), valid until the next call. A network that the faults
 * make unsolvable gives NaN.
 */
export class Predictor {
  readonly parameters: readonly Parameter[];
  readonly y: Float64Array;
  readonly j: Float64Array;
  private readonly filaments: readonly number[];
  private readonly limited: CurrentLimits;
  private readonly changes: Changes;
  private readonly couplings: Couplings;
  private readonly variances: Variances;
  private readonly answers: Answers;
  private readonly response = new Response();
  private readonly dynamic = new Response();

  /** @param measured readings with sensitivities, counted from the first; the rest are observations */
  constructor(
    readonly set: ProbeSet,
    private readonly meter: MeterData,
    readonly measured = set.probes.length,
  ) {
    this.parameters = parametersOf(set);
    this.couplings = new Couplings(set, this.parameters, parameterScales(set, this.parameters), measured);
    this.y = new Float64Array(set.probes.length);
    this.j = new Float64Array(measured * this.parameters.length);
    const laws = set.settings.map(({ ports }) => ports.laws);
    this.filaments = set.network.branches.flatMap((_, k) => (laws.some((l) => l[k].kind === "filament") ? [k] : []));
    this.limited = new CurrentLimits(set);
    this.answers = new Answers(set);
    this.changes = new Changes(set, meter);
    this.variances = new Variances(set, this.parameters, measured, this.couplings);
  }

  /** Fills `y`, and `j` when asked for. */
  predict(faults: readonly FaultAt[], sensitivities: boolean) {
    this.predictFrom(this.limited.hold(this.changes.of(faults)), faults, sensitivities);
  }

  private predictFrom(perSetting: readonly SettingChange[], faults: readonly FaultAt[], sensitivities: boolean) {
    if (perSetting.includes("afresh")) {
      this.predictAfresh(faults, sensitivities);
      return;
    }
    const { probes } = this.set;
    for (let r = 0; r < probes.length; r += 1) {
      const changes = perSetting[probes[r].setting] as readonly Change[];
      const wanted = sensitivities && r < this.measured;
      const quick =
        this.filaments.length === 0 &&
        (changes.length === 1
          ? this.readOne(probes[r], r, changes[0], wanted)
          : changes.length === 2 && this.readTwo(probes[r], r, changes[0], changes[1], wanted));
      if (!quick) this.readSeveral(probes[r], r, changes, wanted);
    }
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
    if (this.filaments.length === 0 && this.traceFew(perSetting, trace)) return "trace";
    this.predictFrom(perSetting, faults, variances);
    if (!variances) return "nothing";
    trace.changes = null;
    const P = this.parameters.length;
    for (let r = 0, k = 0; r < this.measured; r += 1) {
      let sum = 0;
      for (let p = 0; p < P; p += 1, k += 1) sum += this.j[k] * this.j[k];
      trace.diagonal[r] = sum;
    }
    return "all";
  }

  /** Variance of a measured reading by tolerances, in a prediction that was traced. */
  varianceOf(trace: Trace, r: number): number {
    return this.variances.of(trace, r);
  }

  private traceFew(perSetting: readonly SettingChange[], trace: Trace): boolean {
    const count = perSetting[0].length;
    for (let s = 0; s < perSetting.length; s += 1)
      if (perSetting[s] === "afresh" || perSetting[s].length !== count) return false;
    if (count !== 1 && count !== 2) return false;
    const changes = perSetting as readonly (readonly Change[])[];
    const { answers } = this;
    const { source, adjoint } = answers;
    const { probes } = this.set;
    for (let r = 0; r < probes.length; r += 1) {
      const probe = probes[r];
      const here = changes[probe.setting];
      if (!(count === 1 ? answers.one(probe, here[0]) : answers.two(probe, here[0], here[1]))) return false;
      let y = probe.y + probe.a[here[0].element] * source[0];
      if (count === 2) y += probe.a[here[1].element] * source[1];
      this.y[r] = shown(y);
      if (r >= this.measured) continue;
      trace.source[2 * r] = source[0];
      trace.source[2 * r + 1] = source[1];
      trace.adjoint[2 * r] = adjoint[0];
      trace.adjoint[2 * r + 1] = adjoint[1];
    }
    trace.changes = changes;
    trace.diagonal.fill(Number.NaN);
    return true;
  }

  /** A reading under one changed element, its sensitivities too. @returns false where the general way has to tell */
  private readOne(probe: Probe, r: number, change: Change, sensitivities: boolean): boolean {
    if (!this.answers.one(probe, change)) return false;
    const [source] = this.answers.source;
    const [adjoint] = this.answers.adjoint;
    const { element } = change;
    this.y[r] = shown(probe.y + probe.a[element] * source);
    if (!sensitivities) return true;
    const start = this.couplings.place(r, element);
    const { j } = this;
    const { lever, current, a, b } = this.couplings;
    const P = this.parameters.length;
    for (let p = 0, at = r * P, k = start; p < P; p += 1, at += 1, k += 1)
      j[at] = (lever[at] + adjoint * a[k]) * (current[at] + source * b[k]);
    this.forget(r, change);
    return true;
  }

  /** The same under two changed elements. */
  private readTwo(probe: Probe, r: number, one: Change, two: Change, sensitivities: boolean): boolean {
    if (!this.answers.two(probe, one, two)) return false;
    const [s1, s2] = this.answers.source;
    const [l1, l2] = this.answers.adjoint;
    const e = one.element;
    const f = two.element;
    this.y[r] = shown(probe.y + probe.a[e] * s1 + probe.a[f] * s2);
    if (!sensitivities) return true;
    const place1 = this.couplings.place(r, e);
    const place2 = this.couplings.place(r, f);
    const { j } = this;
    const { lever, current, a, b } = this.couplings;
    const P = this.parameters.length;
    for (let p = 0, at = r * P, k1 = place1, k2 = place2; p < P; p += 1, at += 1, k1 += 1, k2 += 1)
      j[at] = (lever[at] + l1 * a[k1] + l2 * a[k2]) * (current[at] + s1 * b[k1] + s2 * b[k2]);
    this.forget(r, one);
    this.forget(r, two);
    return true;
  }

  private readSeveral(probe: Probe, r: number, changes: readonly Change[], sensitivities: boolean) {
    const lamps = this.filaments.length > 0 ? settleFilaments(this.set, probe, changes, this.filaments) : null;
    const response = this.response.solve(this.set, probe, lamps?.statics ?? changes);
    if (response.cut !== null) {
      this.silence(r, response.cut, sensitivities);
      return;
    }
    const { elements, sources, count } = response;
    let y = probe.y;
    for (let i = 0; i < count; i += 1) y += probe.a[elements[i]] * sources[i];
    this.y[r] = shown(y);
    if (!sensitivities) return;
    // A lamp's small change follows its dynamic resistance, what flows through it its static one.
    const { adjoint } = lamps ? this.dynamic.solve(this.set, probe, lamps.dynamics) : response;
    const P = this.parameters.length;
    const places = Array.from({ length: count }, (_, i) => this.couplings.place(r, elements[i]));
    const { a, b } = this.couplings;
    for (let p = 0, at = r * P; p < P; p += 1, at += 1) {
      let lever = this.couplings.lever[at];
      let current = this.couplings.current[at];
      for (let i = 0; i < count; i += 1) {
        lever += adjoint[i] * a[places[i] + p];
        current += sources[i] * b[places[i] + p];
      }
      this.j[at] = lever * current;
    }
    if (lamps) this.rescaleFilaments(probe, r, lamps.dynamics);
    for (const change of changes) this.forget(r, change.filament ? { ...change, gain: 1 } : change);
  }

  /** Scales were taken at the healthy point; a filament's follows its dynamic ohms here. */
  private rescaleFilaments(probe: Probe, r: number, dynamics: readonly Change[]) {
    const { ohms } = this.set.settings[probe.setting].ports.point;
    for (const { element, gain, filament } of dynamics) {
      if (!filament) continue;
      for (const p of this.variances.ownOf(element))
        if (this.parameters[p].acts === "ohms")
          this.j[r * this.parameters.length + p] *= (ohms[element] + gain) / ohms[element];
    }
  }

  private forget(r: number, change: Change) {
    const own = this.variances.ownOf(change.element);
    for (let i = 0; i < own.length; i += 1)
      if (this.variances.isForgotten(own[i], change)) this.j[r * this.parameters.length + own[i]] = 0;
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
    const joined = faults.filter((f) => f.site.bridge >= 0).map((f) => bridges[f.site.bridge]);
    // A filament settles anew with the meter in place, which takes the couplings to find out.
    const couplings = this.filaments.length > 0;
    const fresh = buildProbes(
      withBridges(network, joined),
      probes.map((p) => p.reading),
      { meter: this.meter, faulted: faultedLaws(network, faults), couplings, unloadedFrom: this.measured },
    );
    if (fresh.kind !== "probes") {
      this.y.fill(Number.NaN);
      this.j.fill(0);
      return;
    }
    const inner = new Predictor(fresh, this.meter, this.measured);
    if (couplings) inner.predict([], sensitivities);
    else inner.readAsBuilt(sensitivities);
    this.y.set(inner.y);
    if (sensitivities) this.copySensitivities(inner, faults, factors);
  }

  private readAsBuilt(sensitivities: boolean) {
    const { probes } = this.set;
    for (let r = 0; r < probes.length; r += 1) this.y[r] = shown(probes[r].y);
    const { lever, current } = this.couplings;
    for (let at = 0; sensitivities && at < this.j.length; at += 1) this.j[at] = lever[at] * current[at];
  }

  private moved(factors: Float64Array): Network {
    const laws = new Map<number, Law>();
    this.parameters.forEach(({ branch }, p) => {
      if (factors[p] !== 1) laws.set(branch, scaled(this.set.network.branches[branch].law, factors[p]));
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

function shown(y: number): number {
  return Math.min(y, OVERLOAD);
}
