import { buildNetwork, type Circuit } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import type { Meter } from "@hound/core/record";
import { oddities } from "@hound/core/reduce";
import { figuresOf } from "./figures.ts";

/** What of a large circuit is too long for the page's own thread. */
export type FigureQuestion =
  | { readonly kind: "figures"; readonly circuit: Circuit; readonly meter: Meter; readonly standing: Configuration }
  | { readonly kind: "odd"; readonly circuit: Circuit; readonly estimated: readonly string[] };

self.onmessage = ({ data }: MessageEvent<FigureQuestion>) => {
  const network = buildNetwork(data.circuit);
  self.postMessage(
    data.kind === "figures"
      ? figuresOf(network, data.meter, data.standing)
      : oddities(network, new Set(data.estimated)),
  );
};
