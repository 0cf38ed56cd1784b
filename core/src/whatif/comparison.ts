import type { Network } from "../circuit/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { limitOf } from "../measure/index.ts";
import { expectChart, type Window } from "../rank/index.ts";
import { type MeterData, meterData } from "../record/index.ts";
import { type Afterwards, afterwards, type Load, type Unsolved } from "./afterwards.ts";
import type { Supposed } from "./supposed.ts";

/** One quantity in the healthy circuit and with what is supposed. SI units; NaN where a node floats. */
export interface Pair {
  readonly healthy: number;
  readonly whatif: number;
}

export interface Comparison {
  readonly kind: "comparison";
  readonly nodes: readonly {
    readonly name: string;
    readonly volts: Pair;
    /** The change in limits: two standard deviations of tolerances and of the meter together. */
    readonly limits: number;
  }[];
  /** Currents count from `from` to `to`, of supplies out of their plus; an open has infinite ohms. */
  readonly parts: readonly {
    readonly name: string;
    readonly volts: Pair;
    readonly amps: Pair;
    readonly ohms: Pair;
    readonly watts: Pair;
    /** What it carries against its rating, where it has one, healthy and supposed. */
    readonly loads: { readonly healthy: Load | null; readonly whatif: Load | null };
  }[];
  readonly healthy: Afterwards;
  readonly whatif: Afterwards;
}

/** What the healthy circuit has anywhere, with its windows: worked out once, compared with many a fault. */
export interface Base {
  readonly kind: "base";
  readonly network: Network;
  readonly standing: Configuration;
  readonly meter: MeterData;
  readonly healthy: Afterwards;
  readonly windows: readonly Window[];
}

export function baseOf(network: Network, standing: Configuration = {}, meter = meterData({})): Base | Unsolved {
  const healthy = afterwards(network, [], standing);
  if (healthy.kind === "unsolved") return healthy;
  const windows = expectChart(healthy.network, { lines: true })?.nodes ?? [];
  return { kind: "base", network, standing, meter, healthy, windows };
}

/** The healthy circuit beside the one with supposed faults: the circuit's own figures, no meter being there. */
export function compareWith(base: Base, supposed: readonly Supposed[]): Comparison | Unsolved {
  const { network, standing, meter, healthy, windows } = base;
  const whatif = supposed.length === 0 ? healthy : afterwards(network, supposed, standing);
  if (whatif.kind === "unsolved") return whatif;
  return {
    kind: "comparison",
    nodes: network.nodes.map((name, n) => {
      const volts = { healthy: healthy.solution.volts[n], whatif: whatif.solution.volts[n] };
      const own = limitOf({ quantity: "voltage", from: name, value: volts.healthy }, meter);
      const limit = Math.hypot(windows[n]?.two ?? 0, own);
      return { name, volts, limits: (volts.whatif - volts.healthy) / limit };
    }),
    parts: network.branches.map(({ name, from, to, kind }, k) => {
      const of = (pick: (after: Afterwards) => number): Pair => ({ healthy: pick(healthy), whatif: pick(whatif) });
      const sign = kind === "supply" ? -1 : 1;
      return {
        name,
        volts: of(({ solution }) => solution.point.volts[from] - solution.point.volts[to]),
        amps: of(({ solution }) => sign * solution.amps[k] || 0),
        ohms: of(({ solution, network: { branches } }) =>
          branches[k].law.kind === "open" ? Number.POSITIVE_INFINITY : solution.point.ohms[k],
        ),
        watts: of(({ solution }) => sign * solution.watts[k] || 0),
        loads: { healthy: healthy.loads[k], whatif: whatif.loads[k] },
      };
    }),
    healthy,
    whatif,
  };
}
