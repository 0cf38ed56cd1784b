import type { Ranked } from "../ranking/useRanking.ts";
import { TopSuspects } from "../suspects/TopSuspects.tsx";
import { MeterForm } from "./MeterForm.tsx";
import { ReadingList } from "./ReadingList.tsx";
import { ReadingsExchange } from "./ReadingsExchange.tsx";
import { SituationChoice } from "./SituationChoice.tsx";

/** Stage Readings, below the entry line: what leads, and what was read. */
export function ReadingsStage({ ranked }: { ranked: Ranked }) {
  const { ranking } = ranked;
  return (
    <div className="flex flex-col gap-4">
      <TopSuspects ranked={ranked} />
      <ReadingsExchange />
      <ReadingList verdicts={ranking?.kind === "ranking" ? ranking.readings : []} />
      <SituationChoice />
      <MeterForm />
    </div>
  );
}
