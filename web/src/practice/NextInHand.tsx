import { isUnpowered } from "@hound/core/record";
import { useAdvice } from "../session/useAdvice.ts";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { adviceLine } from "../words/coach.ts";

/** How to set the meter for what is proposed, and what is to be done to the circuit before. */
export function NextInHand({ line }: { line: ReadingLine }) {
  const advice = useAdvice(line.point, line.known);
  if (!advice || !line.point) return <p className="text-faint">…</p>;
  const { point } = line;
  const before = !isUnpowered(point)
    ? point.quantity === "current"
      ? `Power off, a lead of ${point.through} off, the meter between, power on. `
      : ""
    : !("lifted" in point) || point.lifted === undefined
      ? "Power off first. "
      : `Power off, a lead of ${point.lifted} off. `;
  return (
    <p className="line-clamp-2 leading-5">
      {before}
      {adviceLine(advice)}
    </p>
  );
}
