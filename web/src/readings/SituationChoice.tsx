import { type Situation, situationOf } from "@hound/core/record";
import { useDesk } from "../desk/DeskContext.tsx";

const SITUATIONS: Readonly<Record<Situation, string>> = {
  unsaid: "nobody said why",
  complaint: "something is known to be wrong",
  newBuild: "a new build is checked",
  repaired: "a repair is checked",
};

/** Why the circuit is on the bench: how likely it is, before any reading, that nothing is wrong. */
export function SituationChoice() {
  const { desk, state, readings } = useDesk();
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
      <label className="flex flex-wrap items-center gap-2">
        Here because
        <select
          value={situationOf(state.job, readings)}
          onChange={(e) => desk.changeJob({ situation: e.target.value as Situation })}
          className="rounded-lg border border-rule bg-sheet px-2 py-1.5"
        >
          {Object.entries(SITUATIONS).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={state.job.isWet}
          onChange={(e) => desk.changeJob({ isWet: e.target.checked })}
          className="size-5 accent-copper"
        />
        In a wet place
      </label>
    </div>
  );
}
