import { readTrail } from "@hound/core/notation";
import { drawExercise, type Exercise, PAPER_KINDS, PaperKind } from "@hound/core/paper";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { exercisesApi } from "../api/exercises.ts";
import { jobsApi } from "../api/jobs.ts";
import { libraryApi } from "../api/library.ts";
import { Loading } from "../app/Loading.tsx";
import { NotFound, Trouble } from "../app/PageError.tsx";
import { useArrival, useTitle } from "../app/useTitle.ts";
import { SAY } from "../words/paper.ts";
import { ChartSheet } from "./ChartSheet.tsx";
import { PaperDesk } from "./PaperDesk.tsx";
import { QuestionSheet } from "./QuestionSheet.tsx";

/** An exercise on paper: its kind in the address, with its seed, and of which circuit or set it is. */
export function PaperPage() {
  const { kind } = useParams();
  const known = PaperKind.safeParse(kind);
  if (!known.success) return <NotFound />;
  return <OfKind key={known.data} kind={known.data} />;
}

/** What an exercise is part of, and where it is from. */
export interface Origin {
  readonly set: { readonly name: string; readonly exercise: number } | null;
  readonly title: string;
  /** Its circuit; null where it is drawn by the seed. */
  readonly trail: string | null;
}

function OfKind({ kind }: { kind: PaperKind }) {
  const [search, setSearch] = useSearchParams();
  const seed = Number(search.get("seed"));
  useEffect(() => {
    // What is begun has an address of its own: going back comes to it again.
    if (!(seed > 0)) setSearch((before) => withSeed(before), { replace: true });
  }, [seed, setSearch]);
  const from = search.get("of") ?? "";
  const set = search.get("set");
  const at = Number(search.get("exercise"));
  const { data: origin, error } = useQuery({
    queryKey: ["paper", kind, from, set, at],
    queryFn: () => originOf(kind, from, set, at),
    staleTime: Number.POSITIVE_INFINITY,
    networkMode: "always",
  });
  useTitle(PAPER_KINDS[kind].name, "On paper");
  useArrival();
  if (error) return <Trouble title="This exercise could not be begun" detail={error.message} />;
  if (!origin || !(seed > 0)) return <Loading what="the exercise" />;
  return <Begun key={seed} kind={kind} seed={seed} origin={origin} />;
}

function withSeed(search: URLSearchParams): URLSearchParams {
  const next = new URLSearchParams(search);
  next.set("seed", String(1 + Math.floor(Math.random() * 0xfffffffe)));
  return next;
}

async function originOf(kind: PaperKind, from: string, set: string | null, at: number): Promise<Origin> {
  const { name: title } = PAPER_KINDS[kind];
  if (set !== null) {
    const { sets } = await exercisesApi.sets();
    const own = sets.find((s) => s.id === set);
    const exercise = own?.exercises[at - 1];
    if (!own || exercise?.what !== "paper") throw new Error("there is no such set of exercises here");
    return { set: { name: own.name, exercise: at }, title: exercise.title, trail: exercise.trail };
  }
  const [where, id] = from.split(" ");
  if (where === "library") {
    const { name, trail } = await libraryApi.open(id);
    return { set: null, title: `${title} ${name}`, trail };
  }
  if (where === "job") {
    const job = await jobsApi.open(id);
    return { set: null, title: `${title} ${job.title}`, trail: job.circuit.trail };
  }
  return { set: null, title, trail: null };
}

function Begun({ kind, seed, origin }: { kind: PaperKind; seed: number; origin: Origin }) {
  const [, setSearch] = useSearchParams();
  const drawn = useMemo(() => drawnFor(kind, seed, origin.trail), [kind, seed, origin.trail]);
  if (typeof drawn === "string")
    return <Trouble title="This exercise could not be begun" detail={`${drawn}. Take another circuit, or none.`} />;
  const sheet = { exercise: drawn, origin, onAnother: origin.set ? null : () => setSearch(withSeed) };
  return (
    <div className="flex h-full flex-col">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1 bg-band px-3 py-2">
        <Link to="/practice" className="underline underline-offset-4">
          Practice
        </Link>
        <h1 dir="auto" tabIndex={-1} data-heading className="min-w-0 grow truncate text-xl font-bold">
          {origin.title}
        </h1>
      </header>
      {kind === "chart" ? (
        <PaperDesk id={`${kind} ${seed} ${origin.title}`} circuit={drawn.circuit}>
          <ChartSheet {...sheet} />
        </PaperDesk>
      ) : (
        <QuestionSheet {...sheet} />
      )}
    </div>
  );
}

function drawnFor(kind: PaperKind, seed: number, trail: string | null): Exercise | string {
  if (trail === null) return drawExercise(kind, seed, null, SAY);
  const { circuit } = readTrail(trail);
  return circuit ? drawExercise(kind, seed, circuit, SAY) : "its circuit cannot be read";
}
