import { parseQuantity } from "@hound/core/units";
import { useEffect, useRef } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { print } from "../words/print.ts";
import { placeOn, type Span, valueAt } from "./reach.ts";

interface ValueSliderProps {
  readonly label: string;
  readonly span: Span;
  readonly value: number;
  readonly onMove: (value: number) => void;
  /** The move is over: pointer or key let go. */
  readonly onSettle: () => void;
}

const STEPS = 400;

/** A value by dragging, arrow keys, wheel or typing; what a good part may have is marked as a band. */
export function ValueSlider({ label, span, value, onMove, onSettle }: ValueSliderProps) {
  const { state } = useDesk();
  const { value: typed, set: setTyped, forget } = useKept<string | null>(`${label}, typed ${state.job.id}`, null);
  const slider = useRef<HTMLInputElement>(null);
  const at = placeOn(span, value);
  const [from, to] = span.good.map((v) => placeOn(span, Math.max(v, span.least)));
  useEffect(() => {
    const element = slider.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      onMove(
        valueAt(span, Math.min(1, Math.max(0, at + (event.deltaY < 0 ? 1 : -1) * (event.shiftKey ? 0.002 : 0.01)))),
      );
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [span, at, onMove]);
  const shown = print(Number(value.toPrecision(3)), span.unit);
  const read = typed === null ? null : parseQuantity(typed);
  const isWrong = read !== null && read.kind === "mistake";
  const take = () => {
    if (read?.kind === "quantity" && read.value >= 0) onMove(read.value);
    forget();
    onSettle();
  };
  return (
    <div className="flex items-center gap-3">
      <span className="relative grow">
        <span
          aria-hidden
          className="absolute top-1/2 h-4 -translate-y-1/2 rounded bg-copper-wash outline outline-copper"
          style={{ left: `${from * 100}%`, width: `${Math.max(0.6, (to - from) * 100)}%` }}
        />
        <input
          ref={slider}
          type="range"
          aria-label={label}
          aria-valuetext={shown}
          min={0}
          max={STEPS}
          value={Math.round(at * STEPS)}
          onChange={(e) => onMove(valueAt(span, Number(e.target.value) / STEPS))}
          onPointerUp={onSettle}
          onKeyUp={onSettle}
          onBlur={onSettle}
          className="relative w-full accent-suspect"
        />
      </span>
      <input
        aria-label={`${label}, typed`}
        value={typed ?? shown}
        data-typed={typed === null ? "no" : "yes"}
        onFocus={(e) => e.target.select()}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => typed !== null && take()}
        onKeyDown={(e) => {
          if (e.key === "Enter") {
            e.preventDefault();
            take();
          } else if (e.key === "Escape") forget();
        }}
        aria-invalid={isWrong}
        className={`w-28 rounded border bg-paper px-2 py-1 text-right text-lg font-bold ${isWrong ? "border-wrong" : "border-rule"}`}
      />
    </div>
  );
}
