import { windingOf } from "../../circuit/index.ts";
import type { ProbeSet } from "../../measure/index.ts";

/** What may lie anywhere within tolerance: a branch's resistance, a supply's voltage, a spread of its own kind. */
export interface Parameter {
  readonly branch: number;
  readonly acts: "ohms" | "volts" | "cold" | "running";
}

/** Standard deviation of a cold filament's ohms and of a running motor's, as fractions. */
const COLD_SPREAD = 0.35;
const RUNNING_SPREAD = 0.5;

/** Parameters of a network; tolerances of zero claim none. */
export function parametersOf(set: ProbeSet): Parameter[] {
  return set.network.branches.flatMap((branch, k): Parameter[] => {
    const { law, part } = branch;
    const found: Parameter[] = [];
    if (part.tolerance > 0) found.push({ branch: k, acts: law.kind === "supply" ? "volts" : "ohms" });
    if (law.kind === "filament") found.push({ branch: k, acts: "cold" });
    if (windingOf(part) === "motor") found.push({ branch: k, acts: "running" });
    return found;
  });
}

/**
 * One standard deviation of each parameter in each setting, as a source of its branch: volts, or ohms to be multiplied
 * by the branch's current. settings × parameters.
 */
export function parameterScales(set: ProbeSet, parameters: readonly Parameter[]): Float64Array[] {
  return set.settings.map(({ setting, ports }) =>
    Float64Array.from(parameters, ({ branch, acts }) => {
      const { part, law } = set.network.branches[branch];
      const here = ports.laws[branch];
      if (here.kind === "open" || ports.point.limited[branch]) return 0;
      if (acts === "volts") return here.kind === "supply" ? (here.volts * part.tolerance) / 2 : 0;
      const ohms = ports.point.ohms[branch];
      if (acts === "ohms") return (ohms * part.tolerance) / 2;
      if (acts === "cold") return law.kind === "filament" && setting.power === "off" ? ohms * COLD_SPREAD : 0;
      return setting.power === "on" ? ohms * RUNNING_SPREAD : 0;
    }),
  );
}
