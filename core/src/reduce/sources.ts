import { type Network, scaledLaw } from "../circuit/index.ts";
import { solveNetwork } from "../solve/index.ts";

/** What a source does beside the others of its circuit. */
export interface SourceRole {
  readonly branch: number;
  /** A current is driven into its plus. */
  readonly isCharged: boolean;
  /** The others, by whether they drive through it the way it drives itself (aiding) or against it (opposing). */
  readonly aids: readonly string[];
  readonly opposes: readonly string[];
}

/** A little more of one source, by which the others are told. */
const MORE = 1.001;
/** Less of the largest change than this is none. */
const NOTHING = 1e-9;

/**
 * Sources of a circuit of several, and how they lie to each other: by superposition, from what a little more of one does
 * to the current of another. Round a loop that holds two, those that aid each other add, those that oppose take away.
 * @returns nothing where there is one, or where the circuit cannot be solved
 */
export function sourceRoles(network: Network): SourceRole[] {
  const { branches } = network;
  const sources = branches.flatMap(({ law }, k) => (law.kind === "supply" && law.volts !== 0 ? [k] : []));
  const laws = branches.map((b) => b.law);
  const solved = solveNetwork(network, laws);
  if (sources.length < 2 || solved.kind !== "solved") return [];
  const out = (amps: Float64Array, k: number) => -amps[k];
  const changes = sources.map((j) => {
    const more = solveNetwork(
      network,
      laws.map((law, k) => (k === j ? scaledLaw(law, MORE) : law)),
    );
    return sources.map((k) => (more.kind === "solved" ? out(more.amps, k) - out(solved.amps, k) : 0));
  });
  const most = Math.max(...changes.flat().map(Math.abs));
  return sources.map((branch, i) => {
    const by = (sign: 1 | -1) =>
      sources.flatMap((j, n) => (n !== i && sign * changes[n][i] > NOTHING * most ? [branches[j].name] : []));
    return { branch, isCharged: out(solved.amps, branch) < -1e-12, aids: by(1), opposes: by(-1) };
  });
}
