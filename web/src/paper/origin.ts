import { PAPER_KINDS, type PaperKind } from "@hound/core/paper";
import { exercisesApi } from "../api/exercises.ts";
import { circuitOf, DRAWN } from "./circuitOf.ts";

/** What an exercise is part of, and where it is from. */
export interface Origin {
  readonly set: { readonly name: string; readonly exercise: number } | null;
  readonly title: string;
  /** Its circuit; null where it is drawn by the seed. */
  readonly trail: string | null;
}

interface Address {
  /** As `CircuitChoice` has it. */
  readonly of: string;
  readonly set: string | null;
  /** From 1. */
  readonly exercise: number;
}

/** @throws Error where what the address names is not there */
export async function originOf(kind: PaperKind, { of, set, exercise }: Address): Promise<Origin> {
  const { name } = PAPER_KINDS[kind];
  if (set !== null) {
    const { sets } = await exercisesApi.sets();
    const own = sets.find((s) => s.id === set);
    const one = own?.exercises[exercise - 1];
    if (!own || one?.what !== "paper") throw new Error("there is no such set of exercises here");
    return { set: { name: own.name, exercise }, title: one.title, trail: one.trail };
  }
  if (of === DRAWN) return { set: null, title: name, trail: null };
  const { title, trail } = await circuitOf(of);
  return { set: null, title: `${name} ${title}`, trail };
}
