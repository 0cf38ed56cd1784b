import type { Law, Network } from "../circuit/index.ts";
import { buildProbes, type Probe, type ProbeSet } from "../measure/index.ts";
import type { MeterData } from "../record/index.ts";
import { type Change, changesOf, type FaultAt, faultedLaws, withBridges } from "./change.ts";
import { CurrentLimits } from "./limits.ts";
import { type Parameter, parameterScales, parametersOf } from "./parameters.ts";
import { cutReading, isCut, OVERLOAD, Response, settleFilaments } from "./response.ts";

/**
 * Predicts all readings under faults, exactly, and how tolerances move them. Results are in `y` (readings) and `j`
 * (readings × parameters, row-major, per standard deviation), valid until the next call. A network that the faults
 * make unsolvable gives NaN.
 */
export class Predictor {
  readonly parameters: readonly Parameter[];
  readonly y: Float64Array;
  readonly j: Float64Array;
  private readonly scales: readonly Float64Array[];
  /** Per reading and parameter: lever times scale, and the current it acts on (1 for a voltage). readings × parameters. */
  private readonly lever: Float64Array;
  private readonly current: Float64Array;
  /** The meter's part in the couplings, to the same pattern. */
  private readonly meterLever: Float64Array;
  private readonly meterCurrent: Float64Array;
  /** Couplings of every element without the meter, per reading (shared within a setting): elements × parameters. */
  private readonly leverOf: Float64Array[] = [];
  private readonly currentOf: Float64Array[] = [];
  /** Parameters that belong to each element. */
  private readonly own: readonly (readonly number[])[];
  private readonly isVolts: readonly boolean[];
  private readonly filaments: readonly number[];
  private readonly limited: CurrentLimits;
  private readonly response = new Response();
  private readonly dynamic = new Response();

  /** @param measured readings with sensitivities, counted from the first; the rest are observations */
  constructor(
    readonly set: ProbeSet,
    private readonly meter: MeterData,
    readonly measured = set.probes.length,
  ) {
    this.parameters = parametersOf(set);
    this.scales = parameterScales(set, this.parameters);
    this.isVolts = this.parameters.map((p) => p.acts === "volts");
    this.y = new Float64Array(set.probes.length);
    const size = measured * this.parameters.length;
    this.j = new Float64Array(size);
    this.lever = new Float64Array(size);
    this.current = new Float64Array(size);
    this.meterLever = new Float64Array(size);
    this.meterCurrent = new Float64Array(size);
    const own = Array.from({ length: set.elementCount }, (): number[] => []);
    this.parameters.forEach(({ branch }, p) => {
      own[branch].push(p);
    });
    this.own = own;
    const laws = set.settings.map(({ ports }) => ports.laws);
    this.filaments = set.network.branches.flatMap((_, k) => (laws.some((l) => l[k].kind === "filament") ? [k] : []));
    this.limited = new CurrentLimits(set);
    this.prepare();
  }

  /** Gathers what the hot loops read, so that they run along plain arrays. */
  private prepare() {
    const P = this.parameters.length;
    const E = this.set.elementCount;
    const shared = new Map<Float64Array, number>();
    for (let r = 0; r < this.measured; r += 1) {
      const probe = this.set.probes[r];
      const scale = this.scales[probe.setting];
      this.parameters.forEach(({ branch }, p) => {
        this.lever[r * P + p] = probe.a[branch] * scale[p];
        this.current[r * P + p] = this.isVolts[p] ? 1 : probe.q[branch];
        this.meterLever[r * P + p] = probe.c[branch] * scale[p];
        this.meterCurrent[r * P + p] = this.isVolts[p] ? 0 : probe.c[branch];
      });
      const twin = shared.get(probe.x);
      if (twin !== undefined || probe.x.length === 0) {
        this.leverOf[r] = this.leverOf[twin ?? 0];
        this.currentOf[r] = this.currentOf[twin ?? 0];
        continue;
      }
      shared.set(probe.x, r);
      const levers = new Float64Array(E * P);
      const currents = new Float64Array(E * P);
      for (let e = 0, at = 0; e < E; e += 1) {
        for (let p = 0; p < P; p += 1, at += 1) {
          const coupling = probe.x[e * E + this.parameters[p].branch];
          levers[at] = coupling * scale[p];
          currents[at] = this.isVolts[p] ? 0 : coupling;
        }
      }
      this.leverOf[r] = levers;
      this.currentOf[r] = currents;
    }
  }

  /** Fills `y`, and `j` when asked for. */
  predict(faults: readonly FaultAt[], sensitivities: boolean) {
    const perSetting = this.limited.hold(changesOf(this.set, this.meter, faults));
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
   * One changed element: Sherman–Morrison, O(parameters). Golub & Van Loan, 4th ed., §2.1.4.
   * @returns false where its pivot vanishes, and the general way has to tell what the reading shows
   */
  private readOne(probe: Probe, r: number, change: Change, sensitivities: boolean): boolean {
    const { element, added, gain } = change;
    if (change.held !== undefined) return false;
    const { q, a, x, c, beta } = probe;
    const self = x[element * this.set.elementCount + element] + beta * c[element] * c[element];
    let source = added;
    let adjoint = 0;
    if (gain !== 0) {
      const pivot = 1 / gain - self;
      if (isCut(pivot, this.set, probe, element)) return false;
      source += (q[element] + self * added) / pivot;
      adjoint = a[element] / pivot;
    }
    this.y[r] = shown(probe.y + a[element] * source);
    if (!sensitivities) return true;
    const { j, lever, current, meterLever, meterCurrent } = this;
    const P = this.parameters.length;
    const levers = this.leverOf[r];
    const currents = this.currentOf[r];
    const byMeter = beta * c[element];
    const meterAdjoint = adjoint * byMeter;
    const meterSource = source * byMeter;
    // j = (lever + adjoint·x) · (current + source·x)
    for (let p = 0, at = r * P, k = element * P; p < P; p += 1, at += 1, k += 1)
      j[at] =
        (lever[at] + adjoint * levers[k] + meterAdjoint * meterLever[at]) *
        (current[at] + source * currents[k] + meterSource * meterCurrent[at]);
    this.forget(r, element, added, gain);
    return true;
  }

  /** Two changed elements: Woodbury's update written out, its pivots checked one after the other. */
  private readTwo(probe: Probe, r: number, one: Change, two: Change, sensitivities: boolean): boolean {
    if (one.held !== undefined || two.held !== undefined) return false;
    const { q, a, x, c, beta } = probe;
    const E = this.set.elementCount;
    const e = one.element;
    const f = two.element;
    const x11 = x[e * E + e] + beta * c[e] * c[e];
    const x22 = x[f * E + f] + beta * c[f] * c[f];
    const mutual = x[e * E + f] + beta * c[e] * c[f];
    const q1 = q[e] + x11 * one.added + mutual * two.added;
    let q2 = q[f] + x22 * two.added + mutual * one.added;
    let a2 = a[f];
    let s1 = 0;
    let s2 = 0;
    let l1 = 0;
    let l2 = 0;
    // M = [m11, −mutual; −mutual, m22]; a gain of zero, or a pivot that vanishes, takes its row out.
    const m11 = one.gain === 0 ? 0 : 1 / one.gain - x11;
    const live = one.gain !== 0;
    // Without a pivot here, the other change has to come first: the general way sees to it.
    if (live && isCut(m11, this.set, probe, e)) return false;
    let m22 = two.gain === 0 ? 0 : 1 / two.gain - x22;
    if (live) {
      m22 -= (mutual * mutual) / m11;
      q2 += (mutual / m11) * q1;
      a2 += (mutual / m11) * a[e];
    }
    if (two.gain !== 0) {
      if (!isCut(m22, this.set, probe, f)) {
        s2 = q2 / m22;
        l2 = a2 / m22;
      } else if (cutReading(probe, q2, a2) !== null) return false;
    }
    if (live) {
      s1 = (q1 + mutual * s2) / m11;
      l1 = (a[e] + mutual * l2) / m11;
    }
    s1 += one.added;
    s2 += two.added;
    this.y[r] = shown(probe.y + a[e] * s1 + a[f] * s2);
    if (!sensitivities) return true;
    const { j, lever, current, meterLever, meterCurrent } = this;
    const P = this.parameters.length;
    const levers = this.leverOf[r];
    const currents = this.currentOf[r];
    const meterAdjoint = beta * (l1 * c[e] + l2 * c[f]);
    const meterSource = beta * (s1 * c[e] + s2 * c[f]);
    for (let p = 0, at = r * P, k1 = e * P, k2 = f * P; p < P; p += 1, at += 1, k1 += 1, k2 += 1)
      j[at] =
        (lever[at] + l1 * levers[k1] + l2 * levers[k2] + meterAdjoint * meterLever[at]) *
        (current[at] + s1 * currents[k1] + s2 * currents[k2] + meterSource * meterCurrent[at]);
    this.forget(r, e, one.added, one.gain);
    this.forget(r, f, two.added, two.gain);
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
    for (let p = 0, at = r * P; p < P; p += 1, at += 1) {
      let lever = this.lever[at];
      let current = this.current[at];
      for (let i = 0; i < count; i += 1) {
        const byMeter = probe.beta * probe.c[elements[i]];
        lever += adjoint[i] * (this.leverOf[r][elements[i] * P + p] + byMeter * this.meterLever[at]);
        current += sources[i] * (this.currentOf[r][elements[i] * P + p] + byMeter * this.meterCurrent[at]);
      }
      this.j[at] = lever * current;
    }
    if (lamps) this.rescaleFilaments(probe, r, lamps.dynamics);
    for (const { element, added, gain, filament } of changes) this.forget(r, element, added, filament ? 1 : gain);
  }

  /** Scales were taken at the healthy point; a filament's follows its dynamic ohms here. */
  private rescaleFilaments(probe: Probe, r: number, dynamics: readonly Change[]) {
    const { ohms } = this.set.settings[probe.setting].ports.point;
    for (const { element, gain, filament } of dynamics) {
      if (!filament) continue;
      for (const p of this.own[element])
        if (this.parameters[p].acts === "ohms")
          this.j[r * this.parameters.length + p] *= (ohms[element] + gain) / ohms[element];
    }
  }

  /** A changed element's own tolerance is replaced by the fault, but a weak supply keeps that of its voltage. */
  private forget(r: number, element: number, added: number, gain: number) {
    const own = this.own[element];
    for (let i = 0; i < own.length; i += 1) {
      if (!this.isVolts[own[i]] || added !== 0 || !Number.isFinite(gain))
        this.j[r * this.parameters.length + own[i]] = 0;
    }
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
    for (let at = 0; sensitivities && at < this.j.length; at += 1) this.j[at] = this.lever[at] * this.current[at];
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
      for (let r = 0; r < this.measured; r += 1) {
        this.j[r * P + p] = inner.j[r * Q + from] * perDeviation;
      }
    });
  }
}

function shown(y: number): number {
  return Math.min(y, OVERLOAD);
}

export function scaled(law: Law, factor: number): Law {
  switch (law.kind) {
    case "resistance":
      return { ...law, ohms: law.ohms * factor };
    case "supply":
      return { ...law, volts: law.volts * factor };
    case "filament":
      return { ...law, hot: law.hot * factor, cold: law.cold * factor };
    case "open":
      return law;
    default:
      return law satisfies never;
  }
}
