import type { RankInput, RepairStep } from "@hound/core/rank";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useMemo } from "react";
import { useLab } from "../lab/useLab.ts";
import { percent, placeOf } from "../words/quantities.ts";

const SIZE = { width: 520, height: 180, left: 44, right: 130, top: 10, bottom: 26 } as const;
const DASHES = ["", "9 4", "3 4", "12 4 3 4", "1 5"] as const;

/** How probability moved with each reading, for the repairs that led at some time. */
export function Moved({ input }: { input: RankInput }) {
  const question = useMemo(() => (input.readings.length > 0 ? ({ kind: "history", input } as const) : null), [input]);
  const { answer } = useLab(question);
  if (!question) return <p className="text-faint">Nothing was read yet.</p>;
  if (answer?.kind !== "history") return <p className="text-faint">Working it out …</p>;
  const { steps, repairs } = answer;
  const x = scaleLinear([0, Math.max(1, steps.length - 1)], [SIZE.left, SIZE.width - SIZE.right]);
  const y = scaleLinear([0, 1], [SIZE.height - SIZE.bottom, SIZE.top]);
  const last = steps.at(-1);
  // Names beside the ends of the lines, pushed apart where they would lie upon each other.
  const labels = repairs
    .map((repair, r) => ({ r, name: nameOf(repair), at: y(last?.[r] ?? 0), share: last?.[r] ?? 0 }))
    .sort((a, b) => a.at - b.at);
  labels.forEach((label, i) => {
    const above = labels[i - 1];
    if (above && label.at < above.at + 17) label.at = above.at + 17;
  });
  const over = Math.max(0, (labels.at(-1)?.at ?? 0) - (SIZE.height - 8));
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="mt-2 w-full"
      role="img"
      aria-label={`Probability after each reading: ${labels.map((l) => `${l.name} ${percent(l.share)}`).join(", ")}`}
    >
      {[0, 0.5, 1].map((tick) => (
        <g key={tick}>
          <path d={`M${SIZE.left} ${y(tick)} H${SIZE.width - SIZE.right}`} className="stroke-rule" />
          <text x={SIZE.left - 6} y={y(tick) + 5} textAnchor="end" fontSize={13} className="fill-faint">
            {100 * tick}
            {"\u00a0"}%
          </text>
        </g>
      ))}
      {steps.map((_, n) => (
        <text
          // biome-ignore lint/suspicious/noArrayIndexKey: the readings in their order
          key={n}
          x={x(n)}
          y={SIZE.height - 8}
          textAnchor="middle"
          fontSize={13}
          className="fill-faint"
        >
          {n === 0 ? "none" : placeOf(input.readings[n - 1])}
        </text>
      ))}
      {repairs.map((repair, r) => (
        <path
          key={nameOf(repair)}
          d={
            line<readonly number[] | null>()
              .defined((s) => s !== null)
              .x((_, n) => x(n))
              .y((s) => y(s?.[r] ?? 0))([...steps]) ?? ""
          }
          fill="none"
          className={r === 0 ? "stroke-suspect" : "stroke-ink"}
          strokeWidth={r === 0 ? 3.5 : 2}
          strokeDasharray={DASHES[r]}
        />
      ))}
      {labels.map(({ r, name, at, share }) => (
        <text
          key={name}
          x={SIZE.width - SIZE.right + 8}
          y={at + 5 - over}
          fontSize={14}
          fontWeight={r === 0 ? 700 : 400}
          className={r === 0 ? "fill-suspect" : "fill-ink"}
        >
          {name} {percent(share)}
        </text>
      ))}
    </svg>
  );
}

function nameOf(repair: readonly RepairStep[]): string {
  if (repair.length === 0) return "healthy";
  return repair.map((step) => ("part" in step ? step.part : `${step.nodes[0]}~${step.nodes[1]}`)).join(" & ");
}
