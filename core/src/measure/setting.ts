import type { CircuitState, Network, Setting } from "../circuit/index.ts";
import { type Configuration, type MeterData, pairKey, type Reading } from "../record/index.ts";
import type { MeterLeftIn } from "./leftIn.ts";

/** How the circuit stands while a reading is taken, other meters included: what decides which network is solved. */
export interface ReadSetting extends Setting {
  readonly supplies: "disconnected" | "internal";
  readonly meters: readonly MeterLeftIn[];
}

export const AS_DRAWN: ReadSetting = { power: "on", supplies: "disconnected", state: {}, meters: [] };

/**
 * The setting in which a reading was taken: ohms are measured with the power off; of a part whose lead is lifted nothing
 * else of the circuit matters; a lever that stands as drawn says nothing.
 */
export function settingOf(reading: Reading, network: Network, meter: MeterData): ReadSetting {
  const { meters = [], ...state } = reading.state ?? {};
  const power = reading.quantity === "resistance" ? "off" : "on";
  const supplies = power === "off" ? meter.supplies : "disconnected";
  const isAlone = reading.quantity === "resistance" && reading.lifted !== undefined;
  if (isAlone) return { power, supplies, state: ownStateOf(state, reading.lifted as string), meters: [] };
  return { power, supplies, state: withoutDrawn(state, network), meters };
}

/** What of a state a part carries with it wherever it is: that it was replaced, given another value, its lever. */
export function ownStateOf({ swapped, values, switches }: CircuitState, part: string): CircuitState {
  const name = part.split(".")[0];
  return {
    ...(swapped?.includes(name) ? { swapped: [name] } : {}),
    ...(values?.[name] === undefined ? {} : { values: { [name]: values[name] } }),
    ...(switches?.[name] === undefined ? {} : { switches: { [name]: switches[name] } }),
  };
}

function withoutDrawn(state: Configuration, { branches }: Network): CircuitState {
  const { switches } = state;
  if (switches === undefined) return state;
  const drawn = (name: string) => branches.find((b) => b.part.designator === name)?.part;
  const moved = Object.entries(switches).filter(([name, position]) => {
    const part = drawn(name);
    return part?.kind !== "switch" || part.position !== position;
  });
  return { ...state, switches: Object.fromEntries(moved) };
}

/** Settings that print alike solve alike. */
export function settingKey({ power, supplies = "disconnected", state, meters }: ReadSetting): string {
  const { switches = {}, lifted = [], swapped = [], off = [], out = [], values = {}, added = [], cleared = [] } = state;
  const sorted = (names: readonly string[]) => [...new Set(names)].sort().join(" ");
  const entries = (record: Readonly<Record<string, unknown>>) =>
    sorted(Object.entries(record).map(([name, value]) => `${name}:${value}`));
  const left = meters.map((m) => ("through" in m ? `${m.through} ${m.ohms}` : `${pairKey(m.from, m.to)} ${m.ohms}`));
  const extra = added.map((a) => `${pairKey(a.from, a.to)} ${a.ohms}`);
  const gone = [...lifted, ...out];
  const apart = cleared.map((pair) => pairKey(...pair));
  const parts = [
    entries(switches),
    sorted(apart),
    sorted(gone),
    sorted(swapped),
    sorted(off),
    entries(values),
    sorted(extra),
  ];
  return [power, supplies, ...parts, sorted(left)].join("|");
}

/** Whether two readings were taken of the circuit in the same state; none said is as drawn. */
export function isSameState(one: Configuration = {}, other: Configuration = {}): boolean {
  const key = ({ meters = [], ...state }: Configuration) => settingKey({ ...AS_DRAWN, state, meters });
  return key(one) === key(other);
}
