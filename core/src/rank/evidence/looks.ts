import { BLOWS_AT } from "../hypotheses/consequences.ts";

/** Power over rating at which one look of a lamp turns into the next. */
export const LOOKS = { dark: 0.02, dim: 0.4, lit: 1.3 } as const;

/** How bright a lamp is at a power over its rating: the steps by which looks are weighed; half burn out at four times. */
export function glowAt(share: number): "dark" | "dim" | "lit" | "bright" | "burns out" {
  if (share < LOOKS.dark) return "dark";
  if (share < LOOKS.dim) return "dim";
  if (share < LOOKS.lit) return "lit";
  return share < BLOWS_AT.power ? "bright" : "burns out";
}
