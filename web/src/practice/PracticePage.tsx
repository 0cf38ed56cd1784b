import { progressOf } from "@hound/core/practice";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { exercisesApi } from "../api/exercises.ts";
import { huntsApi } from "../api/hunts.ts";
import { Loading } from "../app/Loading.tsx";
import { NoticeArea, NoticeBar } from "../app/Notice.tsx";
import { useSeen } from "../desk/useSeen.ts";
import { TopBar } from "../frame/TopBar.tsx";
import { clockWords, endWords, truthWords } from "../words/practice.ts";
import { FirstHunts } from "./FirstHunts.tsx";
import { NewHuntForm } from "./NewHuntForm.tsx";
import { PaperExercises } from "./PaperExercises.tsx";
import { ProgressCard } from "./ProgressCard.tsx";
import { SetMaker } from "./SetMaker.tsx";
import { Sets } from "./Sets.tsx";
import { TakeAway } from "./TakeAway.tsx";

/** Practice: hunts on a bench that cannot be hurt, exercises on paper, and how one gets on. */
export function PracticePage() {
  return (
    <NoticeArea>
      <div className="mx-auto max-w-4xl px-4 pb-24">
        <TopBar title="Practice" />
        <main className="flex flex-col gap-5">
          <Practice />
        </main>
      </div>
      <NoticeBar className="fixed inset-x-0 bottom-0 z-40" />
    </NoticeArea>
  );
}

function Practice() {
  const { data, error } = useQuery({ queryKey: ["hunts"], queryFn: huntsApi.list });
  const { attempts } = useSeen(["attempts"], exercisesApi.attempts).data ?? NO_ATTEMPTS;
  const { sets } = useSeen(["sets"], exercisesApi.sets).data ?? NO_SETS;
  if (!data && !error) return <Loading what="your hunts" />;
  const hunts = data?.hunts ?? [];
  const open = hunts.filter((h) => h.state === "open");
  const progress = progressOf(hunts);
  return (
    <>
      {error && (
        <p role="alert" className="rounded-lg border border-wrong bg-wrong-wash p-4">
          {error.message}. The stand-in bench is on the server: hunts wait until it answers.
        </p>
      )}
      <section aria-label="Hunts" className="flex flex-col gap-3">
        <h2 className="text-2xl font-bold">Hunt a fault</h2>
        <p>
          A bench that cannot be hurt: a fault is hidden in a circuit, the meter is in your hand with all its traps, and
          each act costs its minutes. Name the fault; then see what each reading told, beside the best way.
        </p>
        {open.length > 0 && <Open hunts={open} />}
        <FirstHunts done={new Set(hunts.filter((h) => h.state === "found").map((h) => h.title))} />
        <NewHuntForm wanted={progress.next?.kind ?? null} />
      </section>
      <PaperExercises attempts={attempts} />
      <ProgressCard progress={progress} />
      <Sets {...{ sets, hunts, attempts }} />
      <SetMaker />
      <Done hunts={hunts.filter((h) => h.state !== "open")} />
    </>
  );
}

const NO_ATTEMPTS = { attempts: [] };
const NO_SETS = { sets: [] };

type Hunts = Awaited<ReturnType<typeof huntsApi.list>>["hunts"];

function Open({ hunts }: { hunts: Hunts }) {
  return (
    <ul aria-label="Hunts under way" className="flex flex-col gap-2">
      {hunts.map((h) => (
        <li key={h.id} className="flex items-center gap-3 rounded-xl border-2 border-copper bg-sheet px-4 py-2">
          <span className="min-w-0 grow truncate">
            Under way: <strong dir="auto">{h.title}</strong>, {clockWords(h.minutes)}
          </span>
          <TakeAway what={h.title} list="hunts" remove={() => huntsApi.remove(h.id)} />
          <Link to={`/practice/${h.id}`} className="rounded-lg bg-copper px-4 py-2 font-bold text-sheet">
            Go on
          </Link>
        </li>
      ))}
    </ul>
  );
}

const SHOWN = 12;

function Done({ hunts }: { hunts: Hunts }) {
  const [isAll, setAll] = useState(false);
  if (hunts.length === 0) return null;
  return (
    <section aria-label="Hunts that are over">
      <h2 className="text-xl font-bold">Over</h2>
      <ul>
        {hunts.slice(0, isAll ? hunts.length : SHOWN).map((h) => (
          <li key={h.id} className="flex flex-wrap items-center gap-x-4 border-t border-rule py-1.5">
            <Link
              to={`/practice/${h.id}/marks`}
              dir="auto"
              className="min-w-0 grow truncate underline decoration-rule underline-offset-4"
            >
              {h.title}
            </Link>
            <span className="text-faint">{h.truth && truthWords(h.truth)}</span>
            <span>
              {endWords(h)}, {clockWords(h.minutes)}
              {h.best && <span className="text-faint"> (best {clockWords(h.best.minutes)})</span>}
            </span>
            <TakeAway what={h.title} list="hunts" remove={() => huntsApi.remove(h.id)} />
          </li>
        ))}
      </ul>
      {!isAll && hunts.length > SHOWN && (
        <button type="button" className="underline" onClick={() => setAll(true)}>
          all {hunts.length}
        </button>
      )}
    </section>
  );
}
