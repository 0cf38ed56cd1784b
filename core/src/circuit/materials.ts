/**
 * What a junction is made of, one row each: volts across it at 10 mA, forward, and ohms in series: middling figures of
 * small parts' data sheets. `of` says whether it shines.
 */
export const MATERIALS = {
  silicon: { of: "diode", volts: 0.65, series: 0.1 },
  schottky: { of: "diode", volts: 0.3, series: 0.1 },
  infrared: { of: "led", volts: 1.2, series: 2 },
  red: { of: "led", volts: 1.9, series: 4 },
  yellow: { of: "led", volts: 2, series: 4 },
  green: { of: "led", volts: 2.1, series: 4 },
  blue: { of: "led", volts: 3, series: 6 },
  white: { of: "led", volts: 3, series: 6 },
} as const satisfies Readonly<Record<string, { of: "diode" | "led"; volts: number; series: number }>>;

export type Material = keyof typeof MATERIALS;
export const MATERIAL_NAMES = Object.keys(MATERIALS) as [Material, ...Material[]];

/** Forward volts of a part that is made to break down backwards, and the ohms that make its dynamic ones up. */
export const ZENER = { forward: 0.7, series: 3 } as const;
