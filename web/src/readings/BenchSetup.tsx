import { Hand, PencilLine, SlidersHorizontal } from "lucide-react";
import { Suspense, useState } from "react";
import { Loading } from "../app/Loading.tsx";
import { lazyNamed } from "../app/lazyNamed.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import type { Streaming } from "../meter/useStreaming.ts";
import { MeterForm } from "./MeterForm.tsx";
import { ReadingsExchange } from "./ReadingsExchange.tsx";
import { SituationChoice } from "./SituationChoice.tsx";

const LiveMeter = lazyNamed(() => import("../meter/LiveMeter.tsx"), "LiveMeter", true);

const MineBesideReadings = lazyNamed(() => import("./MineBesideReadings.tsx"), "MineBesideReadings");

const BUTTON = "flex items-center gap-2 rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-band";

/** What is set once and left alone: a meter that streams, who measures, the way in for readings, why it is here, the meter. */
export function BenchSetup({ streaming, onBench }: { streaming: Streaming; onBench: () => void }) {
  const [isOpen, setIsOpen] = useState(false);
  const [isMine, setMine] = useState(false);
  const { drawn } = useDesk();
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <button type="button" className={BUTTON} onClick={onBench}>
          <Hand size={18} aria-hidden /> Bench view
        </button>
        <button type="button" className={BUTTON} aria-expanded={isOpen} onClick={() => setIsOpen(!isOpen)}>
          <SlidersHorizontal size={18} aria-hidden /> Bench set-up
        </button>
        {drawn && (
          <button type="button" className={BUTTON} aria-expanded={isMine} onClick={() => setMine(!isMine)}>
            <PencilLine size={18} aria-hidden /> Check mine
          </button>
        )}
      </div>
      {isMine && drawn && (
        <section aria-label="Own figures" className="rounded-xl border border-rule px-4 py-3">
          <Suspense fallback={<Loading what="what is expected" />}>
            <MineBesideReadings drawn={drawn} />
          </Suspense>
        </section>
      )}
      {/* It is there while it is folded: what is pasted into the line is taken in here. */}
      <section
        aria-label="Bench set-up"
        className={`flex-col gap-4 rounded-xl border border-rule px-4 py-3 ${isOpen ? "flex" : "hidden"}`}
      >
        <Suspense>{streaming.source === "none" && <LiveMeter streaming={streaming} />}</Suspense>
        <ReadingsExchange />
        <SituationChoice />
        <MeterForm />
      </section>
    </>
  );
}
