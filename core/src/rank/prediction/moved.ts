import { bends, scaledLaw } from "../../circuit/index.ts";
import type { ProbeSet } from "../../measure/index.ts";
import type { Change } from "./change.ts";
import { type Parameter, parameterScales } from "./parameters.ts";
import type { Tracks } from "./tracks.ts";

/** What is left at least of ohms that are moved down: no part is less than nothing. */
const LEAST = 1e-3;

/** A healthy circuit with its parts' values somewhere within tolerance, as changes of the solved one. */
export class Moved {
  private readonly scales: readonly Float64Array[];

  constructor(
    private readonly set: ProbeSet,
    private readonly parameters: readonly Parameter[],
    private readonly tracks: Tracks,
  ) {
    this.scales = parameterScales(set, parameters);
  }

  /** Factors of the parameters' nominal values. @param z standard deviations, one a parameter */
  factors(z: Float64Array): Float64Array {
    const own = this.ofSections(z);
    return Float64Array.from(this.parameters, ({ branch, acts }, p) =>
      isValue(acts) ? Math.max(LEAST, 1 + (this.set.network.branches[branch].part.tolerance / 2) * own[p]) : 1,
    );
  }

  /** In every setting. @param z standard deviations, one a parameter */
  changes(z: Float64Array): Change[][] {
    const own = this.ofSections(z);
    return this.set.settings.map((_, s) => this.changesIn(s, own));
  }

  private ofSections(z: Float64Array): Float64Array {
    const own = z.slice();
    this.tracks.turnBack(own);
    return own;
  }

  private changesIn(s: number, z: Float64Array): Change[] {
    const { laws, point } = this.set.settings[s].ports;
    const scale = this.scales[s];
    const gain = new Map<number, number>();
    const added = new Map<number, number>();
    const bent: Change[] = [];
    this.parameters.forEach(({ branch, acts }, p) => {
      if (scale[p] === 0 || !isValue(acts)) return;
      const law = laws[branch];
      if (bends(law)) {
        // Of what bends its own value moves: the line follows where it comes to rest.
        const factor = 1 + (this.set.network.branches[branch].part.tolerance / 2) * z[p];
        bent.push({ element: branch, gain: 0, added: 0, bends: scaledLaw(law, Math.max(LEAST, factor)) });
      } else {
        const by = acts === "volts" ? added : gain;
        by.set(branch, (by.get(branch) ?? 0) + scale[p] * z[p]);
      }
    });
    const { ohms } = point.lines;
    const moved = new Set([...gain.keys(), ...added.keys()]);
    const plain = [...moved].map(
      (element): Change => ({
        element,
        gain: Math.max((LEAST - 1) * ohms[element], gain.get(element) ?? 0),
        added: added.get(element) ?? 0,
      }),
    );
    return [...bent, ...plain];
  }
}

/** What a cold lamp or a running motor has is known so roughly that its line is all there is. */
export const isValue = (acts: Parameter["acts"]) => acts === "ohms" || acts === "volts";
