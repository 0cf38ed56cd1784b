import {
  type Attempt,
  PracticeSet,
  ResultsFile,
  resultsCsv,
  resultsOf,
  type SetResult,
  type ShownSet,
} from "@hound/core/paper";
import { type HuntSummary, RunFile } from "@hound/core/practice";
import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { Link, useNavigate } from "react-router";
import { exercisesApi } from "../api/exercises.ts";
import { huntsApi } from "../api/hunts.ts";
import { useOnDevice } from "../app/device.ts";
import { useNotice } from "../app/Notice.tsx";
import { newId } from "../app/newId.ts";
import { readTextFile } from "../app/readTextFile.ts";
import { fileName, saveFile } from "../app/saveFile.ts";
import { TakeAway } from "./TakeAway.tsx";
import { huntKey } from "./useHunt.ts";
import { useStart } from "./useStart.ts";

interface SetsProps {
  readonly sets: readonly ShownSet[];
  readonly hunts: readonly HuntSummary[];
  readonly attempts: readonly Attempt[];
}

const BUTTON = "rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-band";

/** Sets that were handed out, what was done of them, and files of others. */
export function Sets({ sets, hunts, attempts }: SetsProps) {
  const [who, setWho] = useOnDevice("who", "");
  return (
    <section aria-label="Sets of exercises" className="flex flex-col gap-3">
      <h2 className="text-2xl font-bold">Sets of exercises</h2>
      <p>
        A set is a file: the same circuits, the same hidden faults and the same help for everybody. Results of several
        learners go out as one table.
      </p>
      <div className="flex flex-wrap items-end gap-4">
        <OpenFile />
        <label className="flex items-center gap-2">
          Your name, for the results
          <input
            value={who}
            autoComplete="off"
            className="w-44 rounded-lg border border-rule bg-paper px-3 py-1.5"
            onChange={(e) => setWho(e.target.value)}
          />
        </label>
      </div>
      {sets.map((set) => (
        <OneSet key={set.id} set={set} results={resultsOf(set.name, hunts, attempts)} who={who} />
      ))}
    </section>
  );
}

/** A set, or a run that somebody made, from a file. */
function OpenFile() {
  const input = useRef<HTMLInputElement>(null);
  const notice = useNotice();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const open = async (file: File) => {
    try {
      const read = await readTextFile(file);
      if ("why" in read) throw new Error(read.why);
      const given: unknown = JSON.parse(read.text);
      const run = RunFile.safeParse(given);
      if (run.success) {
        const hunt = await huntsApi.bring(run.data);
        queries.setQueryData(huntKey(hunt.id), hunt);
        return navigate(`/practice/${hunt.id}/marks`);
      }
      const set = PracticeSet.safeParse(given);
      if (!set.success) throw new Error(whatIsWrong(given, set.error.issues));
      await exercisesApi.keepSet(newId(), set.data);
      await queries.invalidateQueries({ queryKey: ["sets"] });
    } catch (error) {
      const why = error instanceof SyntaxError ? "it is no JSON" : (error as Error).message;
      notice({ text: `${file.name} was not taken in: ${why}.` });
    }
  };
  return (
    <>
      <button type="button" className={BUTTON} onClick={() => input.current?.click()}>
        Open a set or a run
      </button>
      <input
        ref={input}
        type="file"
        accept=".json"
        hidden
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = "";
          if (file) void open(file);
        }}
      />
    </>
  );
}

function whatIsWrong(
  given: unknown,
  issues: readonly { readonly path: readonly PropertyKey[]; readonly message: string }[],
) {
  const format = typeof given === "object" && given !== null && "format" in given ? given.format : null;
  if (format !== "clever-hound-set") return "it is neither a set of exercises nor a run";
  const [{ path, message }] = issues;
  return `at ${path.map(String).join(" ") || "its beginning"}: ${message}`;
}

function OneSet({ set, results, who }: { set: ShownSet; results: readonly SetResult[]; who: string }) {
  const notice = useNotice();
  const start = useStart((id, exercise: number) => exercisesApi.startHunt(set.id, exercise, id));
  const begin = (exercise: number) =>
    start.mutate(exercise, { onError: (error) => notice({ text: `Not begun: ${error.message}` }) });
  const own = results.filter((r) => r.who === who);
  return (
    <article className="rounded-xl border border-rule bg-sheet px-4 py-3">
      <h3 dir="auto" className="text-xl font-bold">
        {set.name}
      </h3>
      {set.about !== "" && <p className="text-faint">{set.about}</p>}
      <ol className="mt-1">
        {set.exercises.map((exercise, i) => {
          const mine = own.filter((r) => r.exercise === i + 1);
          const isDone = mine.some((r) => r.isDone);
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: exercises keep their place
            <li key={i} className="flex flex-wrap items-center gap-x-4 border-t border-rule py-1.5">
              <span className="min-w-0 grow truncate">
                {i + 1}. {exercise.what === "hunt" ? "Hunt: " : ""}
                <span dir="auto">{exercise.title}</span>
              </span>
              <span className="text-faint">{mine.length === 0 ? "" : isDone ? "done" : "tried"}</span>
              {exercise.what === "hunt" ? (
                <button type="button" disabled={start.isPending} className={BUTTON} onClick={() => begin(i + 1)}>
                  {mine.length > 0 ? "Again" : "Begin"}
                </button>
              ) : (
                <Link
                  className={BUTTON}
                  to={`/practice/paper/${exercise.kind}?${new URLSearchParams({ seed: String(exercise.seed), set: set.id, exercise: String(i + 1) })}`}
                >
                  {mine.length > 0 ? "Look again" : "Begin"}
                </Link>
              )}
            </li>
          );
        })}
      </ol>
      <p className="mt-2 flex flex-wrap gap-3">
        <button
          type="button"
          className={BUTTON}
          disabled={own.length === 0}
          onClick={() => {
            const file: ResultsFile = { format: "clever-hound-results", version: 1, set: set.name, results: own };
            const name = fileName(`results ${set.name} ${who}`, ".json");
            saveFile(JSON.stringify(file, null, 2), name, "application/json");
          }}
        >
          Save my results
        </button>
        <AllResults set={set} results={results} />
        <TakeAway what={set.name} list="sets" remove={() => exercisesApi.removeSet(set.id)} />
      </p>
    </article>
  );
}

/** Results of all who worked here, and of files that others sent, as one table. */
function AllResults({ set, results }: { set: ShownSet; results: readonly SetResult[] }) {
  const input = useRef<HTMLInputElement>(null);
  const notice = useNotice();
  const save = (all: readonly SetResult[]) =>
    saveFile(resultsCsv(all), fileName(`results ${set.name}`, ".csv"), "text/csv");
  const gather = async (files: readonly File[]) => {
    const all = [...results];
    for (const file of files) {
      const read = await readTextFile(file);
      const given = "why" in read ? null : resultsIn(read.text);
      if (given?.set !== set.name)
        return notice({ text: `${file.name} holds no results of “${set.name}”. Nothing was saved.` });
      all.push(...given.results);
    }
    save(withoutTwins(all));
  };
  return (
    <>
      <button type="button" className={BUTTON} disabled={results.length === 0} onClick={() => save(results)}>
        All results here as a table
      </button>
      <button type="button" className={BUTTON} onClick={() => input.current?.click()}>
        … with files of learners
      </button>
      <input
        ref={input}
        type="file"
        accept=".json"
        multiple
        hidden
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = "";
          if (files.length > 0) void gather(files);
        }}
      />
    </>
  );
}

function resultsIn(text: string): ResultsFile | null {
  try {
    return ResultsFile.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

/** The same result from here and from a file is one. */
function withoutTwins(results: readonly SetResult[]): SetResult[] {
  const keys = new Set<string>();
  return results.filter((r) => {
    const key = `${r.who}\n${r.exercise}\n${r.at}`;
    const isNew = !keys.has(key);
    keys.add(key);
    return isNew;
  });
}
