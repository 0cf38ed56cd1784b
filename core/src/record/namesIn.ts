import type { Configuration } from "./reading.ts";

/** Parts and nodes that a configuration speaks of, each as often as it does. */
export function namesIn(configuration: Configuration): { readonly parts: string[]; readonly nodes: string[] } {
  const { switches = {}, values = {}, lifted = [], swapped = [], out = [], off = [], inHand } = configuration;
  const { added = [], meters = [], cleared = [] } = configuration;
  const ends = ({ from, to }: { readonly from: string; readonly to?: string }) =>
    to === undefined ? [from] : [from, to];
  return {
    parts: [
      ...Object.keys(switches),
      ...Object.keys(values),
      ...lifted,
      ...swapped,
      ...out,
      ...off,
      ...meters.flatMap((m) => ("through" in m ? [m.through as string] : [])),
      ...(inHand ? [inHand.through] : []),
    ],
    nodes: [
      ...added.flatMap(ends),
      ...meters.flatMap((m) => ("from" in m ? ends(m as { from: string; to?: string }) : [])),
      ...cleared.flat(),
      ...(inHand ? [inHand.at] : []),
    ],
  };
}
