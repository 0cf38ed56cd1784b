import type { Conventions } from "@hound/core/record";
import type { PathStep } from "@hound/core/reduce";
import { type Frame, xOf, yOf } from "./geometry.ts";

interface PathTraceProps {
  readonly frame: Frame;
  readonly path: readonly PathStep[];
  readonly arrows: Conventions["arrows"];
}

/** One way of the current from plus round to minus, with arrows in the chosen convention. */
export function PathTrace({ frame, path, arrows }: PathTraceProps) {
  return path.flatMap(({ branch, forward }) => {
    const strip = frame.lane.strips.find((s) => s.strip.branch === branch);
    if (!strip) return [];
    const y = yOf(frame, strip.strip.row);
    const [left, right] = [xOf(frame, strip.left), xOf(frame, strip.right)];
    const runsRight = (forward !== strip.strip.backward) === (arrows === "conventional");
    const [from, to] = runsRight ? [left, right] : [right, left];
    const sign = Math.sign(to - from) || 1;
    const tip = to - 20 * sign;
    return [
      <g key={branch} className="pointer-events-none text-copper">
        <path
          d={`M${from} ${y} H${to}`}
          fill="none"
          stroke="currentColor"
          strokeWidth={7}
          strokeOpacity={0.45}
          strokeDasharray="14 10"
          className="flowing"
        />
        <path d={`M${tip} ${y} l${-16 * sign} -11 v22 z`} fill="currentColor" />
      </g>,
    ];
  });
}
