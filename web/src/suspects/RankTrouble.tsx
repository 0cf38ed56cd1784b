import type { RankProblem } from "@hound/core/rank";

/** Why the readings cannot be ranked, and which of them keeps it. */
export function RankTrouble({ problem }: { problem: RankProblem }) {
  const where = problem.index === undefined ? "" : `Reading ${problem.index + 1}: `;
  return (
    <p role="alert" className="rounded-lg border border-wrong bg-wrong-wash p-3">
      {where}
      {problem.message}
    </p>
  );
}
