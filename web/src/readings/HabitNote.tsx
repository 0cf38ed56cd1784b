import { designatorOf } from "@hound/core/circuit";
import { Link } from "react-router";
import { useDesk } from "../desk/DeskContext.tsx";
import { useHabits } from "../ranking/useHabits.ts";
import type { Ranked } from "../ranking/useRanking.ts";
import { kindsIn, nameOfSuspect } from "../words/faults.ts";
import { percent } from "../words/quantities.ts";
import { stepsWords } from "../words/repair.ts";

/** Says when the workshop's habits made the difference, with what they are counted from. */
export function HabitNote({ ranked }: { ranked: Ranked }) {
  const { drawn } = useDesk();
  const { habits, circuit } = useHabits(drawn?.circuit ?? null);
  const shift = ranked.insight?.habits;
  if (!shift || !ranked.isCurrent || !drawn) return null;
  const { lead, without, leadWithout } = shift;
  const own = habits?.circuits.find((c) => c.circuit === circuit);
  const parts = lead.repair.flatMap((s) => ("part" in s ? [s.part] : []));
  const counts = (own?.parts ?? [])
    .filter((p) => parts.includes(designatorOf(p.part)))
    .map((p) => `${nameOfSuspect({ faults: [p] }, kindsIn(drawn.network))} ${p.count} times`);
  const isOther = JSON.stringify(lead.repair) !== JSON.stringify(leadWithout.repair);
  const name = lead.repair.length === 0 ? "nothing wrong" : stepsWords(lead.repair);
  return (
    <p role="note" className="rounded-xl border border-rule px-4 py-2 text-faint">
      Habits made a difference: {name} would have {percent(without)} without them
      {isOther &&
        `, and ${leadWithout.repair.length === 0 ? "nothing wrong" : stepsWords(leadWithout.repair)} would lead with ${percent(leadWithout.probability)}`}
      .{own && counts.length > 0 && ` Found in this circuit: ${counts.join(", ")}, in ${own.jobs} jobs.`}{" "}
      <Link to="/workshop#habits" className="underline">
        Habits
      </Link>
    </p>
  );
}
