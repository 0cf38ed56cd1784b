import { bends, coldSpreadOf, movedVolts, pieceOf, unitOfLaw, windingOf } from "../../circuit/index.ts";
import type { Ports, ProbeSet } from "../../measure/index.ts";

/** What may lie anywhere within tolerance: a branch's resistance, a supply's voltage, a spread of its own kind. */
export interface Parameter {
  readonly branch: number;
  readonly acts: "ohms" | "volts" | "cold" | "running";
  /** Which of the pieces that stood in its place it is of: readings before and after a swap share nothing of it. */
  readonly piece: string;
}

/** Standard deviation of a running motor's ohms, as a fraction. */
const RUNNING_SPREAD = 0.5;

/** Parameters of a network in all its settings; tolerances of zero claim none. */
export function parametersOf({ network, settings }: ProbeSet): Parameter[] {
  return network.branches.flatMap((branch, k) => {
    const { law, part } = branch;
    const pieces = new Set(settings.map(({ setting }) => pieceOf(part.designator, setting.state)));
    return [...pieces].flatMap((piece): Parameter[] => {
      const found: Parameter[] = [];
      if (part.tolerance > 0) found.push({ branch: k, acts: unitOfLaw(law) === "V" ? "volts" : "ohms", piece });
      if (coldSpreadOf(law) > 0) found.push({ branch: k, acts: "cold", piece });
      if (windingOf(part) === "motor") found.push({ branch: k, acts: "running", piece });
      return found;
    });
  });
}

/**
 * One standard deviation of each parameter in each setting, as a source of its branch: volts, or ohms to be multiplied
 * by the branch's current. settings × parameters.
 */
export function parameterScales(set: ProbeSet, parameters: readonly Parameter[]): Float64Array[] {
  return set.settings.map(({ setting, ports }) =>
    Float64Array.from(parameters, ({ branch, acts, piece }) => {
      const { part, law } = set.network.branches[branch];
      if (pieceOf(part.designator, setting.state) !== piece) return 0;
      const here = ports.laws[branch];
      if (here.kind === "open" || ports.point.limited[branch]) return 0;
      if (acts === "volts") return (voltsMovedAt(ports, branch) * part.tolerance) / 2;
      const ohms = ports.point.lines.ohms[branch];
      if (acts === "ohms") return (ohms * part.tolerance) / 2;
      if (acts === "cold") return setting.power === "off" ? ohms * coldSpreadOf(law) : 0;
      return setting.power === "on" ? ohms * RUNNING_SPREAD : 0;
    }),
  );
}

/** Volts by which a branch's value moves it at the solved point; none where its value is not volts. */
export function voltsMovedAt({ laws, point }: Ports, branch: number): number {
  const law = laws[branch];
  return movedVolts(law, bends(law) ? (point.states.get(branch) ?? 0) : 0);
}
