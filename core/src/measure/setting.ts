import { type CircuitState, designatorOf, type Network, type Setting } from "../circuit/index.ts";
import { type Configuration, keyOf, only } from "../configuration/index.ts";
import { isDiodeTest, isUnpowered, type MeterData, type Reading } from "../record/index.ts";
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
  const power = isUnpowered(reading) ? "off" : "on";
  const supplies = power === "off" ? meter.supplies : "disconnected";
  const tested = isDiodeTest(reading) ? { isDiodeTest: true as const } : {};
  const alone = reading.quantity === "resistance" || reading.quantity === "voltage" ? reading.lifted : undefined;
  if (alone !== undefined) return { power, supplies, ...tested, state: ownStateOf(state, alone), meters: [] };
  return { power, supplies, ...tested, state: withoutDrawn(state, network), meters };
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
export function settingKey({ power, supplies, state, meters, isDiodeTest: isTested }: ReadSetting): string {
  return `${power} ${isTested ? "tested " : ""}${supplies} ${keyOf({ ...state, meters } as Configuration)}`;
}
