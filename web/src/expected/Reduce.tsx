import type { Conventions } from "@hound/core/record";
import { madeBy, reduceNetwork, type Step } from "@hound/core/reduce";
import { ChevronFirst, ChevronLeft, ChevronRight, Play, Square } from "lucide-react";
import { type ReactNode, useCallback, useEffect, useMemo, useState } from "react";
import { BentNote } from "./BentNote.tsx";
import { JunctionRule, LoopRule } from "./Equations.tsx";
import { type SeenFrom, seenIn } from "./ends.ts";
import { MineInSteps } from "./MineInSteps.tsx";
import { SeenChoice, Whole } from "./Seen.tsx";
import { BackStep, SeenBySupply, There } from "./steps.tsx";
import { type Expected, ohmsOf, paperOf } from "./useExpected.ts";

/** How far a reduction is shown, and from where the circuit is seen in it. */
export interface Fold {
  /** Steps done, on the way there and then on the way back. */
  readonly at: number;
  /** Null: from its supply, or from its loose ends where it has none. */
  readonly seen: SeenFrom | null;
}

interface ReduceProps {
  readonly expected: Expected;
  readonly conventions: Conventions;
  readonly fold: Fold;
  readonly onFold: (fold: Fold) => void;
  /** Told whether the board keeps what is expected to itself. */
  readonly onHush: (isHushed: boolean) => void;
}

/** Milliseconds between two steps while it plays. */
const PACE = 1800;

/** The reduction, innermost first, and the way back: by step, by play, or straight to any step. */
export function Reduce({ expected, conventions, fold, onFold, onHush }: ReduceProps) {
  const { network } = expected;
  const { at } = fold;
  const seen = useMemo(() => seenIn(network, fold.seen), [network, fold.seen]);
  const { reduction, back } = useMemo(() => {
    if (!fold.seen || !seen) return expected;
    const ohms = ohmsOf(network, expected.solution);
    return { reduction: reduceNetwork(network, ohms, paperOf(conventions), seen), back: null };
  }, [expected, network, conventions, fold.seen, seen]);
  const { steps, idle, stops, bridge } = reduction;
  const onGo = useCallback((step: number) => onFold({ ...fold, at: step }), [fold, onFold]);
  const last = steps.length + (back ? back.steps.length + 1 : 0);
  const [playing, setPlaying] = useState(false);
  useEffect(() => {
    if (!playing) return;
    const timer = setTimeout(() => {
      if (at >= last) setPlaying(false);
      else onGo(at + 1);
    }, PACE);
    return () => clearTimeout(timer);
  }, [playing, at, last, onGo]);
  const [isMine, setMine] = useState(false);
  // Whoever works it out does not have the answers beside it.
  useEffect(() => {
    onHush(isMine);
    return () => onHush(false);
  }, [isMine, onHush]);
  const digits = expected.onPaper ? 3 : 4;
  const turn = (
    <button
      type="button"
      aria-pressed={isMine}
      onClick={() => {
        setPlaying(false);
        onFold({ at: 0, seen: null });
        setMine(!isMine);
      }}
      className="ml-auto rounded-lg border border-rule px-3 py-1.5 hover:bg-band aria-pressed:border-copper aria-pressed:bg-copper aria-pressed:text-sheet"
    >
      Check mine
    </button>
  );
  if (isMine)
    return (
      <div className="flex flex-col gap-3">
        {turn}
        <MineInSteps expected={expected} />
      </div>
    );
  return (
    <div className="flex flex-col gap-3">
      <SeenChoice network={network} seen={fold.seen} onSee={(next) => onFold({ at: 0, seen: next })} />
      <div className="flex items-center gap-1.5">
        <Go label="To the beginning" onClick={() => onGo(0)} disabled={at === 0}>
          <ChevronFirst size={20} aria-hidden />
        </Go>
        <Go label="A step back" onClick={() => onGo(at - 1)} disabled={at === 0}>
          <ChevronLeft size={20} aria-hidden />
        </Go>
        <Go label="A step on" onClick={() => onGo(at + 1)} disabled={at >= last}>
          <ChevronRight size={20} aria-hidden />
        </Go>
        <Go label={playing ? "Stop" : "Play"} onClick={() => setPlaying(!playing)} disabled={!playing && at >= last}>
          {playing ? <Square size={18} aria-hidden /> : <Play size={18} aria-hidden />}
        </Go>
        <span className="ml-2 text-faint" role="status">
          Step {at} of {last}
        </span>
        {expected.solution.kind === "solved" && turn}
      </div>
      {!fold.seen && <BentNote solution={expected.solution} />}
      {idle.length > 0 && (
        <p className="text-faint">Left out, as nothing flows there: {idle.map((i) => i.why).join("; ")}.</p>
      )}
      <ol className="flex flex-col gap-2" aria-label="Steps">
        {steps.map((step, i) => (
          <StepLine
            key={keyOf(step)}
            number={i + 1}
            isNow={at === i + 1}
            isDone={at > i}
            onGo={() => onGo(at === i + 1 ? i : i + 1)}
          >
            <There step={step} conventions={conventions} digits={digits} />
          </StepLine>
        ))}
        {back && (
          <StepLine
            number={steps.length + 1}
            isNow={at === steps.length + 1}
            isDone={at > steps.length}
            onGo={() => onGo(steps.length + 1)}
          >
            <SeenBySupply back={back} letter={conventions.sourceLetter} digits={digits} />
          </StepLine>
        )}
        {back?.steps.map((step, i) => {
          const number = steps.length + 2 + i;
          return (
            <StepLine
              key={`back ${keyOf(step.step)}`}
              number={number}
              isNow={at === number}
              isDone={at >= number}
              onGo={() => onGo(number)}
            >
              <BackStep step={step} digits={digits} />
            </StepLine>
          );
        })}
      </ol>
      {seen && !stops && <Whole network={network} seen={seen} reduction={reduction} digits={digits} />}
      {stops && seen && <p className="rounded-lg border border-doubt p-4 font-bold">It goes no further: {stops}.</p>}
      {(stops ?? bridge) && !seen && (
        <div className="rounded-lg border border-doubt p-4">
          <p className="font-bold">
            {stops ? "It goes no further" : "Series and parallel alone go no further"}: {stops ?? bridge}.
          </p>
          <p className="mt-1">
            {stops ? "So it is solved by the junctions" : "By the junctions, beside star and triangle"}: what flows in
            flows out.
          </p>
          <JunctionRule expected={expected} />
          <LoopRule expected={expected} />
        </div>
      )}
    </div>
  );
}

const keyOf = (step: Step) => madeBy(step)[0].name;

interface StepLineProps {
  readonly number: number;
  readonly isNow: boolean;
  readonly isDone: boolean;
  readonly onGo: () => void;
  readonly children: ReactNode;
}

function StepLine({ number, isNow, isDone, onGo, children }: StepLineProps) {
  return (
    <li
      aria-current={isNow ? "step" : undefined}
      className={`flex gap-3 rounded-lg border p-3 ${isNow ? "border-copper bg-copper-wash" : "border-rule bg-sheet"} ${isDone ? "" : "opacity-75"}`}
    >
      <button
        type="button"
        onClick={onGo}
        aria-label={`Step ${number}`}
        className={`size-8 shrink-0 rounded-full border-2 font-bold ${isDone ? "border-copper bg-copper text-sheet" : "border-rule hover:bg-band"}`}
      >
        {number}
      </button>
      <div className="min-w-0">{children}</div>
    </li>
  );
}

function Go({
  label,
  onClick,
  disabled,
  children,
}: {
  label: string;
  onClick: () => void;
  disabled: boolean;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={disabled}
      onClick={onClick}
      className="rounded-lg border border-rule p-2 hover:bg-band disabled:opacity-40"
    >
      {children}
    </button>
  );
}
