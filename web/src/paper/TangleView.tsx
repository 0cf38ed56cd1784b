import type { Network } from "@hound/core/circuit";
import type { Tangle } from "@hound/core/paper";
import { labelOf } from "../board/boardFacts.ts";
import { PartSymbol } from "../board/PartSymbol.tsx";
import { useConventions } from "../desk/conventions.ts";

/** A circuit as sheets draw it: parts at any angle, plain wires, a dot where three or more ends are joined. */
export function TangleView({ tangle, network }: { tangle: Tangle; network: Network }) {
  const { symbols } = useConventions();
  const { box, parts, wires, dots } = tangle;
  return (
    <svg
      viewBox={box.join(" ")}
      role="img"
      aria-label={`A drawing of ${network.branches.map((b) => b.name).join(", ")}, joined by wires`}
      className="mx-auto block h-full max-h-full w-full max-w-full text-ink"
    >
      <g stroke="currentColor" strokeWidth={2.4} fill="none">
        {wires.map(({ a, b }) => (
          <path key={`${a.x} ${a.y} ${b.x} ${b.y}`} d={`M${a.x} ${a.y} L${b.x} ${b.y}`} />
        ))}
      </g>
      {dots.map(({ x, y }) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={7} fill="currentColor" />
      ))}
      {parts.map(({ branch, from, to, name }) => {
        const own = network.branches[branch];
        const [x, y] = [(from.x + to.x) / 2, (from.y + to.y) / 2];
        const [dx, dy] = [to.x - from.x, to.y - from.y];
        const long = Math.hypot(dx, dy);
        const angle = (Math.atan2(dy, dx) * 180) / Math.PI;
        return (
          <g key={own.name}>
            <g stroke="currentColor" strokeWidth={2.4}>
              <path d={`M${from.x} ${from.y} L${x - (dx / long) * 29} ${y - (dy / long) * 29}`} />
              <path d={`M${to.x} ${to.y} L${x + (dx / long) * 29} ${y + (dy / long) * 29}`} />
            </g>
            <g transform={`translate(${x} ${y}) rotate(${angle})`}>
              <PartSymbol branch={own} backward={false} symbols={symbols} />
            </g>
            <text
              x={name.x}
              y={name.y + 7}
              textAnchor="middle"
              fontSize={19}
              fontWeight={700}
              fill="currentColor"
              className="stroke-paper"
              strokeWidth={5}
              paintOrder="stroke"
            >
              {labelOf(own)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
