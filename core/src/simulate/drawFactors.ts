import { DEFAULTS, type Network } from "../circuit/index.ts";
import type { Random } from "../kernels/index.ts";

/**
 * A factor of each branch's nominal value: every part somewhere within its tolerance, which is two standard deviations.
 * The sections of a potentiometer are one track, and what the wiper's place gives to one it takes from the other.
 * @param least factors are not smaller than this
 * @param out length branches, overwritten
 */
export function drawFactorsInto({ branches }: Network, random: Random, least: number, out: Float64Array) {
  let track = 1;
  let place = 0;
  branches.forEach(({ part, name }, k) => {
    if (part.kind !== "potentiometer" || name.endsWith(".wiper")) {
      out[k] = Math.max(least, 1 + (part.tolerance / 2) * random.normal());
      return;
    }
    const isTop = name.endsWith(".top");
    if (isTop) {
      track = 1 + (part.tolerance / 2) * random.normal();
      place = DEFAULTS.placeSpread * random.normal();
    }
    const share = isTop ? part.at : 1 - part.at;
    const moved = share > 0 ? 1 + ((isTop ? 1 : -1) * place) / share : 1;
    out[k] = Math.max(least, track * moved);
  });
}
