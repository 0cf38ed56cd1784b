import { bends } from "../../circuit/index.ts";
import { type FaultAt, faultedNetwork } from "../../faults/index.ts";
import { gramInto } from "../../kernels/index.ts";
import { buildProbes, type Probe, type ProbeSet } from "../../measure/index.ts";
import { isUnpowered, type MeterData } from "../../record/index.ts";
import { bringSensitivities, networkAt, onRange } from "./afresh.ts";
import { Answers } from "./answers.ts";
import { type AtRest, Settler } from "./atRest.ts";
import { type Change, Changes, type Pairs, type SettingChange } from "./change.ts";
import { Gains } from "./gains.ts";
import { CurrentLimits } from "./limits.ts";
import { Moved } from "./moved.ts";
import { type Held, Outcome } from "./outcome.ts";
import { type Parameter, parametersOf } from "./parameters.ts";
import { type Answer, OVERLOAD, Response } from "./response.ts";
import { Sensitivities } from "./sensitivities.ts";
import { SettingResponse } from "./settingResponse.ts";
import { Tracks } from "./tracks.ts";
import { Waiting } from "./waiting.ts";

/** Predicts all readings under faults, exactly, and how tolerances move them. */
export class Predictor {
  readonly parameters: readonly Parameter[];
  readonly gains: Gains;
  readonly tracks: Tracks;
  private readonly bending: readonly number[];
  private readonly limited: CurrentLimits;
  private readonly changes: Changes;
  private readonly tolerances: Sensitivities;
  private readonly answers: Answers;
  private readonly response = new Response();
  private readonly settler: Settler;
  /** In each setting how all its readings answer where what bends rests as it does with no meter there. */
  private readonly shared: readonly SettingResponse[];
  private readonly settingOf: Int32Array;
  private moved: Moved | null = null;
  /** In each setting where what bends rests with nothing changed. */
  private asBuilt: (AtRest | null)[] | null = null;
  /** What the parameters' sensitivities count, of a reading by itself. */
  private readonly columns: Float64Array;

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
    const laws = set.settings.map(({ ports }) => ports.laws);
    this.bending = set.network.branches.flatMap((_, k) => (laws.some((l) => bends(l[k])) ? [k] : []));
    this.settler = new Settler(set, this.bending);
    this.limited = new CurrentLimits(set, this.bending);
    this.answers = new Answers(set);
    this.shared = set.settings.map(() => new SettingResponse());
    this.changes = new Changes(set, pairs);
    this.settingOf = Int32Array.from(set.probes.slice(0, measured), (p) => p.setting);
    this.columns = new Float64Array(this.parameters.length);
  }

  /** An outcome that can be filled again and again. */
  newOutcome(): Outcome {
    const { set, measured, parameters, tolerances } = this;
    const waiting = new Waiting(this.settingOf, set.settings.length, parameters.length);
    return new Outcome(set.probes.length, measured * parameters.length, tolerances.newTrace(), waiting);
  }

  /** @param held what is wanted; with one or two changed elements variances cost nothing until they are asked for */
  predict(faults: readonly FaultAt[], held: Held, out = this.newOutcome()): Outcome {
    const perSetting = this.limited.hold(this.changes.of(faults));
    if (this.traceFew(perSetting, out)) {
      out.held = held === "sensitivities" ? held : "variances";
      if (held === "sensitivities") this.tolerances.into(out.trace, out.j);
      return out;
    }
    // A track's two columns are turned together.
    const wanted = held === "variances" && !this.tracks.isNone ? "sensitivities" : held;
    this.predictFrom(perSetting, faults, wanted, out);
    out.held = wanted;
    if (wanted !== "values") this.sumSquares(out);
    return out;
  }

  /** Sections of potentiometers apart, as the fresh solution of another predictor takes them. */
  private predictUnturned(faults: readonly FaultAt[], held: Held, out: Outcome) {
    const perSetting = this.limited.hold(this.changes.of(faults));
    this.readChanged(perSetting as readonly (readonly Change[])[], held, out);
  }

  private predictFrom(perSetting: readonly SettingChange[], faults: readonly FaultAt[], held: Held, out: Outcome) {
    if (perSetting.includes("afresh")) {
      this.predictAfresh(faults, held !== "values", out);
      return;
    }
    this.readChanged(perSetting as readonly (readonly Change[])[], held, out);
    if (held === "sensitivities") this.tracks.turn(out.j, this.parameters.length, this.measured);
  }

  /** @param from in each setting where what bends is nearly at rest */
  private readChanged(
    perSetting: readonly (readonly Change[])[],
    held: Held,
    out: Outcome,
    from: readonly (AtRest | null)[] = [],
  ) {
    const { probes, settings } = this.set;
    const { waiting } = out;
    waiting.clear();
    // A meter hardly moves what bends: it is sought once in each setting, with no meter there, and from there on.
    const near = settings.map(({ bare }, s): AtRest | null => {
      if (this.bending.length === 0 || bare.x.length === 0) return null;
      const rest = this.settler.settle(bare, perSetting[s], from[s]);
      this.shared[s].prepare(this.set, bare, rest.changes);
      if (held !== "values") this.tolerances.columnsInto(s, perSetting[s], rest, waiting.columnsOf(s, rest.changes));
      return rest;
    });
    for (let r = 0; r < probes.length; r += 1) {
      const { setting } = probes[r];
      this.read(probes[r], r, perSetting[setting], near[setting], r < this.measured ? held : "values", out);
    }
  }

  private sumSquares({ j, trace, waiting }: Outcome) {
    trace.isFew = false;
    for (let r = 0; r < this.measured; r += 1) trace.diagonal[r] = waiting.has(r) ? Number.NaN : this.sumSquare(j, r);
  }

  private sumSquare(j: Float64Array, r: number): number {
    const P = this.parameters.length;
    let sum = 0;
    for (let k = r * P; k < (r + 1) * P; k += 1) sum += j[k] * j[k];
    return sum;
  }

  /** Works out the sensitivities of a reading that waited. */
  private takeUp({ waiting, j, trace }: Outcome, r: number) {
    if (!waiting.has(r)) return;
    this.tolerances.ofReading(r, waiting.take(r), j);
    trace.diagonal[r] = this.sumSquare(j, r);
  }

  /** Variance of a measured reading by tolerances and the meter's gain, in an outcome that holds variances. */
  varianceOf(out: Outcome, r: number): number {
    this.takeUp(out, r);
    return this.tolerances.variance(out.trace, r) + this.gains.between(r, r, out.y);
  }

  /**
   * Covariance of the first `rows` readings by tolerances and the meter's gain, packed lower triangle, in an outcome that
   * holds variances.
   */
  covarianceInto(outcome: Outcome, rows: number, out: Float64Array) {
    const { trace, j, y } = outcome;
    if (trace.isFew) this.tolerances.covarianceInto(trace, rows, out);
    else {
      for (let r = 0; r < rows; r += 1) this.takeUp(outcome, r);
      gramInto(j, rows, this.parameters.length, out);
    }
    this.gains.addTo(out, rows, y);
  }

  /** Predicts from sources and adjoints alone, where one or two elements change, the same ones in every setting. */
  private traceFew(perSetting: readonly SettingChange[], { y, trace }: Outcome): boolean {
    if (this.bending.length > 0 || !this.tracks.isNone) return false;
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
      y[r] = shown(probe, answers);
      if (r >= this.measured) continue;
      for (let i = 0; i < count; i += 1) {
        trace.source[2 * r + i] = sources[i];
        trace.adjoint[2 * r + i] = adjoint[i];
      }
    }
    this.tolerances.begin(trace, changes);
    return true;
  }

  private read(probe: Probe, r: number, changes: readonly Change[], near: AtRest | null, held: Held, out: Outcome) {
    const isBent = this.bending.length > 0;
    // As a rule what bends rests where it did with no meter there.
    const isNear = isBent && near !== null && this.isAtRest(probe, near);
    let bent = isNear ? near : null;
    let answer: Answer = isNear ? this.shared[probe.setting] : this.answers;
    if (!isNear && (isBent || !this.answers.of(probe, changes))) {
      if (isBent) bent = this.settler.settle(probe, changes, near);
      answer = this.response.solve(this.set, probe, bent?.changes ?? changes);
      if (this.response.cut !== null) {
        this.silence(r, this.response.cut, held !== "values", out);
        return;
      }
    }
    out.y[r] = shown(probe, answer);
    if (held === "values") return;
    if (isNear) {
      out.waiting.put(r, answer);
      if (held === "sensitivities") this.takeUp(out, r);
      return;
    }
    const { columns } = this;
    this.tolerances.columnsInto(probe.setting, changes, bent, columns);
    const { count, elements, sources, adjoint } = answer;
    const row = { count, elements, sources, adjoint, columns, firstElement: 0, firstSource: 0, firstColumn: 0 };
    this.tolerances.ofReading(r, row, out.j);
  }

  /** Whether what came to rest with no meter there rests with one as well; what all its setting shares answers then. */
  private isAtRest(probe: Probe, near: AtRest): boolean {
    const shared = this.shared[probe.setting];
    return shared.isReady && shared.of(probe) && this.settler.holds(near, shared, probe);
  }

  private silence(r: number, value: number, sensitivities: boolean, out: Outcome) {
    const P = this.parameters.length;
    out.y[r] = value;
    if (sensitivities) out.j.fill(0, r * P, (r + 1) * P);
  }

  /**
   * Where the islands change or a current limit is passed, and wherever parts are moved off their nominal values: the
   * faulted network is solved anew.
   * @param factors of each parameter's nominal value; sensitivities stay per nominal standard deviation
   */
  predictAfresh(faults: readonly FaultAt[], sensitivities: boolean, out: Outcome, factors?: Float64Array) {
    const { bridges, probes } = this.set;
    out.held = sensitivities ? "sensitivities" : "values";
    out.trace.isFew = false;
    out.waiting.clear();
    const network = factors ? networkAt(this.set.network, this.parameters, factors) : this.set.network;
    const faulted = faultedNetwork(network, bridges, faults);
    // What bends settles anew with the meter in place, which takes the couplings to find out.
    const couplings = this.bending.length > 0;
    const fresh = buildProbes(
      faulted.network,
      probes.map((p) => onRange(p)),
      { meter: this.meter, faults: faulted.faults, couplings, unloadedFrom: this.measured },
    );
    if (fresh.kind !== "probes") {
      out.y.fill(Number.NaN);
      if (sensitivities) out.j.fill(0);
      return;
    }
    const inner = new Predictor(fresh, this.meter, this.measured);
    const found = inner.newOutcome();
    if (couplings) inner.predictUnturned([], sensitivities ? "sensitivities" : "values", found);
    else inner.readAsBuilt(sensitivities, found);
    out.y.set(found.y);
    if (!sensitivities) return;
    const here = { parameters: this.parameters, rows: this.measured, j: out.j };
    bringSensitivities({ parameters: inner.parameters, j: found.j }, here, faults, factors);
    this.tracks.turn(out.j, this.parameters.length, this.measured);
  }

  /** What is shown where nothing is faulty and parts lie off their nominal values. @param z standard deviations, one a parameter */
  predictMoved(z: Float64Array, out: Outcome) {
    this.moved ??= new Moved(this.set, this.parameters, this.tracks);
    this.asBuilt ??= this.set.settings.map(({ bare }) => (bare.x.length > 0 ? this.settler.settle(bare, []) : null));
    const perSetting = this.limited.hold(this.moved.changes(z));
    if (perSetting.includes("afresh")) this.predictAfresh([], false, out, this.moved.factors(z));
    else this.readChanged(perSetting as readonly (readonly Change[])[], "values", out, this.asBuilt);
  }

  private readAsBuilt(sensitivities: boolean, out: Outcome) {
    const { probes } = this.set;
    for (let r = 0; r < probes.length; r += 1) out.y[r] = Math.min(probes[r].y, OVERLOAD);
    if (sensitivities) this.tolerances.asBuilt(out.j);
  }
}

const NO_PAIRS: Pairs = { all: [], closers: new Map(), moved: new Map() };

/** What the meter shows: it ends at an overload. */
function shown({ y, a, reading }: Probe, { count, elements, sources }: Answer): number {
  let value = y;
  for (let i = 0; i < count; i += 1) value += a[elements[i]] * sources[i];
  // Where nothing leads from lead to lead any more, what rounding has left of it has no sign.
  return isUnpowered(reading) && Math.abs(value) > NOTHING_LEADS ? OVERLOAD : Math.min(value, OVERLOAD);
}

/** Ohms, or volts at a milliampere, beyond all insulation. */
const NOTHING_LEADS = 1e11;
