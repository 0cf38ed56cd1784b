import type { Probe, ProbeSet } from "../../measure/index.ts";
import type { Change } from "./change.ts";
import { type Answer, cutReading, noPathBelow } from "./response.ts";

/**
 * How a reading's circuit answers to one or two changed elements, in closed form: the source that stands for each
 * change and its adjoint, valid until the next call. Where a pivot vanishes or a current is held, the answer is false
 * and the general way (`Response`) has to tell.
 */
export class Answers implements Answer {
  count = 0;
  readonly elements = new Int32Array(2);
  readonly sources = new Float64Array(2);
  readonly adjoint = new Float64Array(2);

  /** Pivots at or below which there is no path left, settings × elements. */
  private readonly noPath: readonly Float64Array[];
  private readonly E: number;

  constructor(set: ProbeSet) {
    this.E = set.elementCount;
    this.noPath = set.settings.map((_, s) =>
      Float64Array.from({ length: set.elementCount }, (_, element) => noPathBelow(set, s, element)),
    );
  }

  /** @returns false where there are more changes than two, or the general way has to tell */
  of(probe: Probe, changes: readonly Change[]): boolean {
    this.count = changes.length;
    for (let i = 0; i < changes.length && i < 2; i += 1) this.elements[i] = changes[i].element;
    if (changes.length === 0) return true;
    if (changes.length === 1) return this.one(probe, changes[0]);
    return changes.length === 2 && this.two(probe, changes[0], changes[1]);
  }

  /** Source and adjoint at one changed element: Sherman–Morrison. Golub & Van Loan, 4th ed., §2.1.4. */
  private one(probe: Probe, { element, added, gain, held }: Change): boolean {
    if (held !== undefined) return false;
    const { q, a, x, c, beta, setting } = probe;
    const self = x[element * this.E + element] + beta * c[element] * c[element];
    this.sources[0] = added;
    this.adjoint[0] = 0;
    if (gain === 0) return true;
    const pivot = 1 / gain - self;
    // No path through it is left: it changes nothing, or the general way has to tell what the reading shows.
    if (Math.abs(pivot) <= this.noPath[setting][element]) return cutReading(probe, q[element], a[element]) === null;
    this.sources[0] += (q[element] + self * added) / pivot;
    this.adjoint[0] = a[element] / pivot;
    return true;
  }

  /** The same at two changed elements, whichever has a pivot first. */
  private two(probe: Probe, one: Change, two: Change): boolean {
    if (this.ordered(probe, one, two)) return true;
    if (this.bothDrop(probe, one, two)) return true;
    if (!this.ordered(probe, two, one)) return false;
    const { sources, adjoint } = this;
    [sources[0], sources[1]] = [sources[1], sources[0]];
    [adjoint[0], adjoint[1]] = [adjoint[1], adjoint[0]];
    return true;
  }

  /** Where no current can flow through either element any more, and nothing that is read hangs on them: a dead circuit. */
  private bothDrop(probe: Probe, one: Change, two: Change): boolean {
    const { q, a, x, c, beta, setting } = probe;
    const noPath = this.noPath[setting];
    const [e, f] = [one.element, two.element];
    if (one.gain === 0 || two.gain === 0 || one.held !== undefined || two.held !== undefined) return false;
    if (Math.abs(1 / one.gain - x[e * this.E + e] - beta * c[e] * c[e]) > noPath[e]) return false;
    if (Math.abs(1 / two.gain - x[f * this.E + f] - beta * c[f] * c[f]) > noPath[f]) return false;
    if (Math.abs(x[e * this.E + f] + beta * c[e] * c[f]) > Math.min(noPath[e], noPath[f])) return false;
    if (cutReading(probe, q[e], a[e]) !== null || cutReading(probe, q[f], a[f]) !== null) return false;
    this.sources[0] = one.added;
    this.sources[1] = two.added;
    this.adjoint.fill(0);
    return true;
  }

  /** With the first eliminated first: Woodbury's update written out, its pivots checked one after the other. */
  private ordered(probe: Probe, one: Change, two: Change): boolean {
    if (one.held !== undefined || two.held !== undefined) return false;
    const { q, a, x, c, beta, setting } = probe;
    const { E } = this;
    const noPath = this.noPath[setting];
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
    // Without a pivot here the other change has to come first.
    if (live && Math.abs(m11) <= noPath[e]) return false;
    let m22 = two.gain === 0 ? 0 : 1 / two.gain - x22;
    if (live) {
      m22 -= (mutual * mutual) / m11;
      q2 += (mutual / m11) * q1;
      a2 += (mutual / m11) * a[e];
    }
    if (two.gain !== 0) {
      if (Math.abs(m22) > noPath[f]) {
        s2 = q2 / m22;
        l2 = a2 / m22;
      } else if (cutReading(probe, q2, a2) !== null) return false;
    }
    if (live) {
      s1 = (q1 + mutual * s2) / m11;
      l1 = (a[e] + mutual * l2) / m11;
    }
    this.sources[0] = s1 + one.added;
    this.sources[1] = s2 + two.added;
    this.adjoint[0] = l1;
    this.adjoint[1] = l2;
    return true;
  }
}
