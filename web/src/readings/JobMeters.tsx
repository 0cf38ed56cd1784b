import { type Meter, meterData } from "@hound/core/record";
import { useDesk } from "../desk/DeskContext.tsx";
import { useMeters } from "../desk/useMeters.ts";
import { useMeterInUse } from "../session/useMeterInUse.ts";

/** Which meters the job uses: copies of the workshop's, so that its readings stay weighed as they were taken. */
export function JobMeters() {
  const { desk, state } = useDesk();
  const workshop = useMeters() ?? [];
  const { name, use: inHand } = useMeterInUse();
  const { meter } = state.job;
  const { others = [], ...first } = meter;
  const all: readonly Meter[] = [first, ...others];
  const put = ([one, ...rest]: readonly Meter[]) =>
    desk.changeJob({ meter: { ...one, ...(rest.length > 0 ? { others: rest.map(alone) } : {}) } });
  const use = (id: string, how: "instead" | "besides") => {
    const found = workshop.find((m) => m.id === id)?.meter;
    if (!found) return;
    const kept = all.filter((m) => m.name !== found.name);
    put(how === "instead" ? [alone(found), ...others.filter((m) => m.name !== found.name)] : [...kept, alone(found)]);
  };
  const choice = (how: "instead" | "besides", words: string) => (
    <label className="flex items-center gap-2">
      {words}
      <select
        value=""
        onChange={(e) => use(e.target.value, how)}
        className="min-w-0 rounded-lg border border-rule bg-sheet px-2 py-1.5"
      >
        <option value="">choose …</option>
        {workshop.map((m) => (
          <option key={m.id} value={m.id}>
            {m.meter.name}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <div className="flex flex-col gap-2">
      <ul aria-label="Meters of this job">
        {all.map((m, i) => (
          <li key={m.name ?? "first"} className="flex items-center gap-3">
            <label className="flex min-w-0 grow items-center gap-3">
              <input
                type="radio"
                name="meter in hand"
                checked={name === meterData(m).name}
                onChange={() => inHand(meterData(m).name)}
                className="size-5 accent-copper"
              />
              <span className="truncate">
                <strong>{meterData(m).name || "the job’s meter"}</strong>
                {name === meterData(m).name && all.length > 1 && <span className="text-faint">, in hand</span>}
              </span>
            </label>
            {i > 0 && (
              <button
                type="button"
                className="rounded-lg border border-rule px-3 py-1 hover:bg-band"
                onClick={() => put(all.filter((o) => o !== m))}
              >
                Remove {m.name}
              </button>
            )}
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-x-6 gap-y-2">
        {choice("instead", "The workshop’s")}
        {choice("besides", "and besides")}
      </div>
    </div>
  );
}

function alone({ others: _, ...meter }: Meter): Meter {
  return meter;
}
