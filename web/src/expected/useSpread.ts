import type { Network } from "@hound/core/circuit";
import { useEffect, useRef, useState } from "react";
import type { SpreadAnswer, SpreadRequest } from "./spread.worker.ts";

export const DRAWS = 10_000;
const SEED = 1;

export type Spreading =
  | { readonly kind: "idle" }
  | { readonly kind: "running"; readonly share: number }
  | { readonly kind: "done"; readonly draws: number; readonly volts: Float64Array; readonly amps: Float64Array };

/** Monte Carlo of a network in a worker of its own, started and stopped by hand. */
export function useSpread(network: Network) {
  const [state, setState] = useState<Spreading>({ kind: "idle" });
  const worker = useRef<Worker | null>(null);
  const ticket = useRef(0);
  const stop = () => {
    worker.current?.terminate();
    worker.current = null;
    setState({ kind: "idle" });
  };
  // Samples of another circuit say nothing of this one.
  const of = useRef(network);
  if (of.current !== network) {
    of.current = network;
    worker.current?.terminate();
    worker.current = null;
    setState({ kind: "idle" });
  }
  useEffect(() => () => worker.current?.terminate(), []);
  const start = () => {
    worker.current ??= new Worker(new URL("./spread.worker.ts", import.meta.url), { type: "module" });
    ticket.current += 1;
    const mine = ticket.current;
    setState({ kind: "running", share: 0 });
    worker.current.onmessage = ({ data }: MessageEvent<SpreadAnswer>) => {
      if (data.ticket !== mine) return;
      setState(data.kind === "progress" ? { kind: "running", share: data.share } : data);
    };
    worker.current.onerror = stop;
    const request: SpreadRequest = { ticket: mine, network, draws: DRAWS, seed: SEED };
    worker.current.postMessage(request);
  };
  return { state, start, stop };
}
