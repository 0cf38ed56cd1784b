import type { Ranking, RankProblem } from "@hound/core/rank";
import { TopSuspects } from "../suspects/TopSuspects.tsx";
import { MeterForm } from "./MeterForm.tsx";
import { ReadingList } from "./ReadingList.tsx";
import { SituationChoice } from "./SituationChoice.tsx";

/** Stage Readings, below the entry line: what leads, and what was read. */
export function ReadingsStage({ ranking }: { ranking: Ranking | RankProblem | null }) {
  return (
    <div className="flex flex-col gap-4">
      <TopSuspects ranking={ranking} />
      <ReadingList verdicts={ranking?.kind === "ranking" ? ranking.readings : []} />
      <SituationChoice />
      <MeterForm />
    </div>
  );
}
