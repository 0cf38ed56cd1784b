import type { Configuration } from "@hound/core/configuration";
import type { Meter } from "@hound/core/record";
import type { Oddity } from "@hound/core/reduce";
import { useEffect, useMemo, useState } from "react";
import { type Drawn, odditiesOf } from "../desk/DeskContext.tsx";
import { useSame } from "../desk/useSame.ts";
import { isLarge } from "../session/large.tsx";
import { type Figures, figuresOf } from "./figures.ts";
import type { FigureQuestion } from "./figures.worker.ts";

const UNKNOWN: Figures = { own: null, loaded: null };
const NOTHING: readonly Oddity[] = [];

type Sketch = Pick<Drawn, "network" | "settled" | "circuit">;

const circuitOf = ({ settled, circuit }: Sketch) => settled?.circuit ?? circuit;

/** The figures of a circuit, at once; those of a large one when they are worked out, unknown until then. */
export function useFigures(drawn: Sketch | null, meter: Meter, standing: Configuration): Figures {
  const network = drawn?.network ?? null;
  const here = useMemo(
    () => (network && !isLarge(network) ? figuresOf(network, meter, standing) : null),
    [network, meter, standing],
  );
  const isThere = drawn !== null && here === null;
  const there = useWorker<Figures>(isThere ? { kind: "figures", circuit: circuitOf(drawn), meter, standing } : null);
  return here ?? there ?? UNKNOWN;
}

/** What is odd about a circuit, at once; of a large one when it is worked out. */
export function useOddities(drawn: Sketch, isWanted: boolean): readonly Oddity[] {
  const { network, settled } = drawn;
  const isThere = isWanted && isLarge(network);
  const estimated = settled?.estimates.map((e) => e.designator) ?? [];
  const there = useWorker<readonly Oddity[]>(isThere ? { kind: "odd", circuit: circuitOf(drawn), estimated } : null);
  return !isWanted ? NOTHING : isThere ? (there ?? NOTHING) : odditiesOf({ network, settled });
}

/** The answer of a worker of its own, which ends when another question is asked. */
function useWorker<T>(wanted: FigureQuestion | null): T | null {
  const question = useSame(wanted);
  const [told, setTold] = useState<{ readonly of: FigureQuestion; readonly answer: T } | null>(null);
  useEffect(() => {
    if (!question) return;
    const worker = new Worker(new URL("./figures.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<T>) => setTold({ of: question, answer: data });
    worker.postMessage(question);
    return () => worker.terminate();
  }, [question]);
  return told?.of === question ? told.answer : null;
}
