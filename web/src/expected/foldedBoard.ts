import { layoutBoard } from "@hound/core/layout";
import { type Reduction, reducedNetwork, reduceNetwork } from "@hound/core/reduce";
import { solveNetwork } from "@hound/core/solve";
import type { Drawn } from "../desk/DeskContext.tsx";
import { type SeenFrom, seenIn } from "./ends.ts";
import { ohmsOf } from "./useExpected.ts";

/** The board at a step of the reduction: composites folded on the way there, unfolded again on the way back. */
export function foldedBoard(
  drawn: Drawn,
  { at: step, seen }: { readonly at: number; readonly seen: SeenFrom | null },
): { drawn: Drawn; reduction: Reduction } {
  const ohms = ohmsOf(drawn.network, solveNetwork(drawn.network));
  const reduction = reduceNetwork(drawn.network, ohms, undefined, seenIn(drawn.network, seen));
  const last = reduction.steps.length;
  const done = step <= last ? step : last - Math.max(0, step - last - 1);
  const network = reducedNetwork(drawn.network, reduction, done);
  return { drawn: { ...drawn, network, board: layoutBoard(network), settled: null }, reduction };
}
