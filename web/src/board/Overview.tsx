import { type RefObject, useEffect, useState } from "react";
import { barLine, type Frame, sizeOf, xOf, yOf } from "./geometry.ts";

interface OverviewProps {
  readonly pane: RefObject<HTMLDivElement | null>;
  readonly frames: readonly Frame[];
  /** Size of the whole board and of what is in sight of it, in pixels of the screen. */
  readonly width: number;
  readonly height: number;
  readonly size: { readonly width: number; readonly height: number };
}

/** The whole board in small, with what is in sight: shown where it does not all fit. A click goes there. */
export function Overview({ pane, frames, width, height, size }: OverviewProps) {
  const [at, setAt] = useState({ x: 0, y: 0 });
  useEffect(() => {
    const element = pane.current;
    if (!element) return;
    const onScroll = () => setAt({ x: element.scrollLeft, y: element.scrollTop });
    element.addEventListener("scroll", onScroll);
    onScroll();
    return () => element.removeEventListener("scroll", onScroll);
  }, [pane]);
  if (width <= size.width + 4 && height <= size.height * 1.25) return null;
  const whole = sizeOf(frames);
  const shrink = Math.min(150 / width, 110 / height);
  const [w, h] = [width * shrink, height * shrink];
  const goTo = (event: { currentTarget: Element; clientX: number; clientY: number }) => {
    const box = event.currentTarget.getBoundingClientRect();
    pane.current?.scrollTo({
      left: ((event.clientX - box.left) / box.width) * width - size.width / 2,
      top: ((event.clientY - box.top) / box.height) * height - size.height / 2,
    });
  };
  return (
    <button
      type="button"
      aria-label="Overview of the board: click to go there"
      className="absolute right-2 bottom-2 hidden rounded-lg border border-rule bg-sheet/90 p-1.5 lg:block print:hidden"
      onClick={goTo}
    >
      <svg width={w} height={h} viewBox={`0 0 ${whole.width} ${whole.height}`} aria-hidden className="block">
        {frames.map((frame) => (
          <g key={frame.lane.from} stroke="currentColor" className="text-faint">
            {frame.lane.strips.map((s) => (
              <path
                key={s.strip.branch}
                d={`M${xOf(frame, s.left)} ${yOf(frame, s.strip.row)} H${xOf(frame, s.right)}`}
                strokeWidth={12}
              />
            ))}
            {frame.lane.bars.map((b) => {
              const line = barLine(frame, b);
              return <path key={b.bar.node} d={`M${line.x} ${line.y1} V${line.y2}`} strokeWidth={22} />;
            })}
          </g>
        ))}
        <rect
          x={(at.x / width) * whole.width}
          y={(at.y / height) * whole.height}
          width={(Math.min(size.width, width) / width) * whole.width}
          height={(Math.min(size.height, height) / height) * whole.height}
          fill="none"
          className="stroke-copper"
          strokeWidth={3 / shrink}
        />
      </svg>
    </button>
  );
}
