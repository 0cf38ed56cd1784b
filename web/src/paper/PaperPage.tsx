import { readTrail } from "@hound/core/notation";
import { drawExercise, type Exercise, PAPER_KINDS, PaperKind } from "@hound/core/paper";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { useParams, useSearchParams } from "react-router";
import { Loading } from "../app/Loading.tsx";
import { newSeed } from "../app/newSeed.ts";
import { NotFound, Trouble } from "../app/PageError.tsx";
import { useArrival, useTitle } from "../app/useTitle.ts";
import { SAY } from "../words/paper.ts";
import { ChartSheet } from "./ChartSheet.tsx";
import { DRAWN } from "./circuitOf.ts";
import { type Origin, originOf } from "./origin.ts";
import { PaperDesk } from "./PaperDesk.tsx";
import { PracticeHeader } from "./PracticeHeader.tsx";
import { QuestionSheet } from "./QuestionSheet.tsx";

/** An exercise on paper: its kind in the address, with its seed, and of which circuit or set it is. */
export function PaperPage() {
  const { kind } = useParams();
  const known = PaperKind.safeParse(kind);
  if (!known.success) return <NotFound />;
  return <OfKind key={known.data} kind={known.data} />;
}

function OfKind({ kind }: { kind: PaperKind }) {
  const [search, setSearch] = useSearchParams();
  const seed = Number(search.get("seed"));
  useEffect(() => {
    // What is begun has an address of its own: going back comes to it again.
    if (!(seed > 0)) setSearch((before) => withSeed(before), { replace: true });
  }, [seed, setSearch]);
  const address = {
    of: search.get("of") ?? DRAWN,
    set: search.get("set"),
    exercise: Number(search.get("exercise")),
  };
  const { data: origin, error } = useQuery({
    queryKey: ["paper", kind, address],
    queryFn: () => originOf(kind, address),
    staleTime: Number.POSITIVE_INFINITY,
  });
  useTitle(PAPER_KINDS[kind].name, "On paper");
  useArrival();
  if (error) return <Trouble title="This exercise could not be begun" detail={error.message} />;
  if (!origin || !(seed > 0)) return <Loading what="the exercise" />;
  return <Begun key={seed} kind={kind} seed={seed} origin={origin} />;
}

function withSeed(search: URLSearchParams): URLSearchParams {
  const next = new URLSearchParams(search);
  next.set("seed", String(newSeed()));
  return next;
}

function Begun({ kind, seed, origin }: { kind: PaperKind; seed: number; origin: Origin }) {
  const [, setSearch] = useSearchParams();
  const drawn = useMemo(() => drawnFor(kind, seed, origin.trail), [kind, seed, origin.trail]);
  if (typeof drawn === "string")
    return <Trouble title="This exercise could not be begun" detail={`${drawn}. Take another circuit, or none.`} />;
  const sheet = { exercise: drawn, origin, onAnother: origin.set ? null : () => setSearch(withSeed) };
  return (
    <div className="flex h-full flex-col">
      <PracticeHeader title={origin.title} />
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
