import type { Branch, Law, Network } from "../circuit/index.ts";
import type { Configuration, MeterData, Reading } from "../record/index.ts";

/** How the circuit stands while a reading is taken: the part of a reading that decides which network is solved. */
export interface Setting {
  readonly power: "on" | "off";
  readonly state: Configuration;
}

/** The setting in which a reading was taken: ohms are measured with the power off. */
export function settingOf(reading: Reading): Setting {
  return { power: reading.quantity === "resistance" ? "off" : "on", state: reading.state ?? {} };
}

/** Settings that print alike solve alike. */
export function settingKey(setting: Setting): string {
  const { switches = {}, lifted = [], swapped = [], off = [], meters = [] } = setting.state;
  const sorted = (names: readonly string[]) => [...names].sort().join(" ");
  const moved = sorted(Object.entries(switches).map(([name, position]) => `${name}:${position}`));
  const left = sorted(meters.map((m) => ("through" in m ? `${m.through} ${m.ohms}` : `${m.from}-${m.to} ${m.ohms}`)));
  return [setting.power, moved, sorted(lifted), sorted(swapped), sorted(off), left].join("|");
}

/** Whether two readings were taken of the circuit in the same state; none said is as drawn. */
export function isSameState(one: Configuration = {}, other: Configuration = {}): boolean {
  return settingKey({ power: "on", state: one }) === settingKey({ power: "on", state: other });
}

/** The law of every branch in a setting; `faulted` replaces the laws of faulty branches. */
export function lawsIn(
  network: Network,
  setting: Setting,
  meter: MeterData,
  faulted: ReadonlyMap<number, Law> = new Map(),
): Law[] {
  return network.branches.map((branch, k) => lawIn(branch, setting, meter, faulted.get(k)));
}

/**
 * The law of one branch in a setting. A fault's law holds except where a known-good part stands in; a switch that was
 * moved and is not itself faulty follows its position; with the power off supplies are out and filaments cold.
 */
export function lawIn(branch: Branch, setting: Setting, meter: MeterData, fault?: Law): Law {
  const { lifted = [], swapped = [], off = [], switches = {} } = setting.state;
  const name = branch.part.designator;
  if (lifted.includes(name)) return { kind: "open" };
  const law = (swapped.includes(name) ? undefined : fault) ?? healthyLaw(branch, switches[name]);
  if (branch.kind === "supply" && (setting.power === "off" || off.includes(name))) {
    if (law.kind !== "supply" || meter.supplies === "disconnected" || setting.power === "on") return { kind: "open" };
    return { kind: "resistance", ohms: Math.max(law.ohms, 1e-6) };
  }
  if (law.kind === "filament" && setting.power === "off") return { kind: "resistance", ohms: law.cold };
  return law;
}

function healthyLaw(branch: Branch, position: "open" | "closed" | undefined): Law {
  if (position === undefined || branch.part.kind !== "switch") return branch.law;
  return position === "open" ? { kind: "open" } : { kind: "resistance", ohms: branch.part.ohms };
}
