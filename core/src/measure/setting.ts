import { type CircuitState, designatorOf, type Network, type Setting } from "../circuit/index.ts";
import { type Configuration, keyOf, only } from "../configuration/index.ts";
import type { MeterData, Reading } from "../record/index.ts";
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
export function ownStateOf(state: Configuration, part: string): CircuitState {
  const name = designatorOf(part);
  return only(state, (f) => (f.is === "swapped" || f.is === "value" || f.is === "lever") && f.part === name);
}

function withoutDrawn(state: Configuration, { branches }: Network): CircuitState {
  if (state.switches === undefined) return state as CircuitState;
  const drawn = (name: string) => branches.find((b) => b.part.designator === name)?.part;
  return only(state, (fact) => {
    if (fact.is !== "lever") return true;
    const part = drawn(fact.part);
    return part?.kind !== "switch" || part.position !== fact.position;
  });
}

/** Settings that print alike solve alike. */
export function settingKey({ power, supplies, state, meters }: ReadSetting): string {
  return `${power} ${supplies} ${keyOf({ ...state, meters } as Configuration)}`;
}
