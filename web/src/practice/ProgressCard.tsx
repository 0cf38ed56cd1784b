import { FAULT_KINDS, type Progress, type RunPoint, type SortProgress } from "@hound/core/practice";
import { scaleLinear, scaleLog } from "d3-scale";
import { clockWords } from "../words/practice.ts";
import { printFixed } from "../words/print.ts";
import { percent } from "../words/quantities.ts";

const WHY = {
  new: "not hunted yet",
  wrong: "often named wrongly",
  slow: "found, and slowly",
} as const;

/** How one gets on: minutes beside the best way's, by kind of fault and over time, and how sure against how right. */
export function ProgressCard({ progress }: { progress: Progress }) {
  const { runs, kinds, sizes, sureness, next, unsafe } = progress;
  if (runs.length === 0) return null;
  const firstRight = runs.filter((r) => r.isFirstRight).length;
  return (
    <section aria-label="How you get on" className="rounded-xl border border-rule bg-sheet px-4 py-3">
      <h2 className="text-xl font-bold">How you get on</h2>
      <p className="text-lg">
        {firstRight} of {runs.length} named rightly at once.
        {next && (
          <>
            {" "}
            Practise next: <strong>{FAULT_KINDS[next.kind].name.toLowerCase()}</strong>, {WHY[next.why]}.
          </>
        )}
        {unsafe > 0 && <span className="text-wrong"> {unsafe} unsafe acts so far.</span>}
      </p>
      <OverTime runs={runs} />
      <div className="mt-3 grid gap-4 sm:grid-cols-2">
        <div className="flex flex-col gap-3">
          <Sorts title="By kind of fault" sorts={kinds} />
          <Sorts title="By size of circuit" sorts={sizes} />
        </div>
        <div>
          <h3 className="font-bold">How sure, how right</h3>
          <ul>
            {sureness.map((s) => (
              <li key={s.sure} className="flex gap-x-3 border-t border-rule py-1">
                <span className="grow">said {percent(s.sure)}</span>
                <span>
                  right {s.times} of {s.of}
                </span>
              </li>
            ))}
          </ul>
        </div>
      </div>
    </section>
  );
}

const SIZE = { width: 640, height: 200, left: 48, right: 12, top: 12, bottom: 28 } as const;
const TICKS = [1, 2, 5, 10, 20, 50] as const;

/** Times the best way's minutes, run after run; filled where it was named at once, hollow where it was not. */
function OverTime({ runs }: { runs: readonly RunPoint[] }) {
  const known = runs.filter((r): r is RunPoint & { ratio: number } => r.ratio !== null);
  if (known.length < 2) return null;
  const top = Math.max(5, ...known.map((r) => r.ratio));
  const least = Math.min(0.8, ...known.map((r) => r.ratio));
  const x = scaleLinear([0, known.length - 1], [SIZE.left + 10, SIZE.width - SIZE.right - 10]);
  const y = scaleLog([least, top * 1.1], [SIZE.height - SIZE.bottom, SIZE.top]);
  const words = known.map((r) => `${r.title}: ${printFixed(r.ratio, 1)} times`).join("; ");
  return (
    <figure className="mt-2">
      <figcaption className="text-faint">
        Minutes beside the best way’s, hunt after hunt. Filled: named rightly at once.
      </figcaption>
      <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} className="w-full" role="img" aria-label={words}>
        {TICKS.filter((t) => t <= top * 1.1).map((tick) => (
          <g key={tick}>
            <path
              d={`M${SIZE.left} ${y(tick)} H${SIZE.width - SIZE.right}`}
              className={tick === 1 ? "stroke-copper" : "stroke-rule"}
              strokeWidth={tick === 1 ? 2 : 1}
            />
            <text x={SIZE.left - 8} y={y(tick) + 5} textAnchor="end" fontSize={14} className="fill-faint">
              {tick} ×
            </text>
          </g>
        ))}
        <path
          d={known.map((r, i) => `${i === 0 ? "M" : "L"}${x(i)} ${y(r.ratio)}`).join(" ")}
          fill="none"
          className="stroke-suspect"
          strokeWidth={1.5}
          opacity={0.5}
        />
        {known.map((r, i) => (
          <circle
            key={r.id}
            cx={x(i)}
            cy={y(r.ratio)}
            r={6}
            strokeWidth={2}
            className={`stroke-suspect ${r.isFirstRight ? "fill-suspect" : "fill-sheet"}`}
          >
            <title>{`${r.title}: ${clockWords(r.minutes)}`}</title>
          </circle>
        ))}
      </svg>
    </figure>
  );
}

function Sorts({ title, sorts }: { title: string; sorts: readonly SortProgress[] }) {
  return (
    <div>
      <h3 className="font-bold">{title}</h3>
      <ul>
        {sorts.map(({ name, firstRight, hunts, ratio }) => (
          <li key={name} className="flex flex-wrap gap-x-3 border-t border-rule py-1">
            <span className="grow">{name}</span>
            <span>
              {firstRight} of {hunts} at once
            </span>
            <span className="w-32 text-right">{ratio === null ? "" : `${printFixed(ratio, 1)} × the best`}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
