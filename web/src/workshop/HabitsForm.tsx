import { KINDS, type Kind, type Mode } from "@hound/core/circuit";
import { habitsFromCounts, MODE_SHARES, RATES } from "@hound/core/faults";
import { type FaultCount, type HabitChange, type Habits, withHabitChange } from "@hound/core/record";
import { workshopApi } from "../api/workshop.ts";
import { newId } from "../app/newId.ts";
import { fileName, saveFile } from "../app/saveFile.ts";
import { useErrands, useRun } from "../desk/OutboxContext.tsx";
import { useSeen } from "../desk/useSeen.ts";
import { modeWords } from "../words/faults.ts";
import { printFixed, printNumber } from "../words/print.ts";
import { day } from "../words/times.ts";

/** Circuits listed. */
const LISTED = 12;
const BUTTON = "rounded-lg border border-rule px-3 py-1.5 hover:bg-band";

/** What closed jobs taught: counts by kind and by circuit, to be added to, begun anew, switched off, and taken along. */
export function HabitsForm() {
  const { data } = useSeen(["habits"], () => workshopApi.habits(), { staleTime: 10_000 });
  const run = useRun();
  const { list } = useErrands();
  if (!data) return null;
  const { kinds, expected, circuits, jobs } = data;
  // What is on its way counts already.
  const onItsWay = list.filter((e) => e.kind === "habits" && e.refused === undefined);
  const settings = onItsWay.reduce((s, { body }) => withHabitChange(s, body as HabitChange), data.settings);
  const change = (next: Omit<HabitChange, "id">, words: string) =>
    run("habits", { id: newId(), ...next }, words).catch(() => {});
  const all = added(kinds, settings.adjust);
  const learnt = habitsFromCounts(
    all.filter((c) => c.count > 0),
    expected,
  );
  const adjust = (kind: FaultCount["kind"], mode: Mode, by: number) =>
    change({ adjust: { kind, mode, by } }, `${by > 0 ? "One more" : "One less"}: ${wordOf(kind)} ${modeWords(mode)}`);
  return (
    <section aria-label="Habits" className="flex flex-col gap-2">
      <h2 className="text-xl font-bold">Habits</h2>
      <p>
        What fails how often here, as {jobs} closed job{jobs === 1 ? "" : "s"} say{jobs === 1 ? "s" : ""}
        {settings.since ? `, from ${day(new Date(settings.since))} on` : ""}. The ranking begins with it; readings
        decide.
      </p>
      <label className="flex items-center gap-3">
        <input
          type="checkbox"
          checked={settings.isOn}
          onChange={(e) => change({ isOn: e.target.checked }, e.target.checked ? "Habits on" : "Habits off")}
          className="size-6 accent-copper"
        />
        Let closed jobs teach the ranking
      </label>
      {all.length > 0 && (
        <section
          aria-label="Table: habits by kind"
          tabIndex={0}
          className="overflow-x-auto rounded-lg border border-rule bg-sheet px-4 py-2"
        >
          <table className="w-full text-left">
            <thead>
              <tr className="text-faint">
                <th className="py-1 font-normal">Kind</th>
                <th className="font-normal">How</th>
                <th className="font-normal">Found</th>
                <th className="font-normal">Rate, by the table and now</th>
                <th className="font-normal">Share, by the table and now</th>
              </tr>
            </thead>
            <tbody>
              {all.map(({ kind, mode, count }) => (
                <tr key={`${kind} ${mode}`} className="border-t border-rule">
                  <td className="py-1 pr-3">{wordOf(kind)}</td>
                  <td className="pr-3">{modeWords(mode)}</td>
                  <td className="pr-3 whitespace-nowrap">
                    <button
                      type="button"
                      className="px-2"
                      aria-label={`One less: ${wordOf(kind)} ${modeWords(mode)}`}
                      onClick={() => adjust(kind, mode, -1)}
                    >
                      −
                    </button>
                    <strong>{printNumber(count)}</strong>
                    <button
                      type="button"
                      className="px-2"
                      aria-label={`One more: ${wordOf(kind)} ${modeWords(mode)}`}
                      onClick={() => adjust(kind, mode, 1)}
                    >
                      +
                    </button>
                  </td>
                  <td className="pr-3">
                    {printNumber(RATES[kind], 3)} → {printNumber(learnt.rates?.[kind] ?? RATES[kind], 3)}
                  </td>
                  <td>
                    {kind === "bridge"
                      ? ""
                      : `${shareOf(MODE_SHARES[kind][mode])} → ${shareOf(learnt.modes?.[kind]?.[mode] ?? MODE_SHARES[kind][mode])}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      {circuits.length > 0 && <Circuits circuits={circuits} />}
      <div className="flex flex-wrap gap-3">
        <button
          type="button"
          className={BUTTON}
          onClick={() =>
            saveFile(`${JSON.stringify(learnt, null, 2)}\n`, fileName("habits", ".json"), "application/json")
          }
        >
          Save as priors of a case file
        </button>
        <button
          type="button"
          className={BUTTON}
          onClick={() => change({ since: new Date().toISOString(), isCleared: true }, "Habits begin anew today")}
        >
          Begin anew today
        </button>
        {(settings.since || settings.adjust.length > 0) && (
          <button
            type="button"
            className={BUTTON}
            onClick={() => change({ since: null, isCleared: true }, "All closed jobs count")}
          >
            Count all closed jobs, nothing by hand
          </button>
        )}
      </div>
    </section>
  );
}

function Circuits({ circuits }: { circuits: Habits["circuits"] }) {
  const rest = circuits.length - LISTED;
  return (
    <ul aria-label="By circuit" className="rounded-lg border border-rule bg-sheet px-4 py-2">
      {circuits.slice(0, LISTED).map(({ circuit, name, jobs, parts }) => (
        <li key={circuit} className="border-t border-rule py-1.5 first:border-0">
          <strong dir="auto">{name}</strong>, {jobs} job{jobs === 1 ? "" : "s"}:{" "}
          {[...parts]
            .sort((a, b) => b.count - a.count)
            .map((p) => `${p.part} ${modeWords(p.mode)} ${p.count} times in ${jobs}`)
            .join("; ")}
        </li>
      ))}
      {rest > 0 && <li className="py-1 text-faint">and {rest} more circuits</li>}
    </ul>
  );
}

/** What was counted with what was added by hand. */
function added(kinds: readonly FaultCount[], adjust: readonly FaultCount[]): FaultCount[] {
  const found = new Map(kinds.map((k) => [`${k.kind} ${k.mode}`, { ...k }]));
  for (const one of adjust) {
    const key = `${one.kind} ${one.mode}`;
    found.set(key, { ...one, count: (found.get(key)?.count ?? 0) + one.count });
  }
  return [...found.values()];
}

const wordOf = (kind: Kind | "bridge") => (kind === "bridge" ? "bridge" : KINDS[kind].word);
const shareOf = (share = 0) => `${printFixed(100 * share, 0)}\u00a0%`;
