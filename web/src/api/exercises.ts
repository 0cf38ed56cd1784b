import { Attempt, AttemptList, type NewAttempt, type PracticeSet, ShownSet, ShownSets } from "@hound/core/paper";
import { Hunt } from "@hound/core/practice";
import { call } from "./client.ts";

/** The endpoints of sets and of exercises on paper, one function each. */
export const exercisesApi = {
  sets: () => call("GET", "/exercises/sets", ShownSets),
  keepSet: (id: string, set: PracticeSet) => call("PUT", `/exercises/sets/${id}`, ShownSet, set),
  removeSet: (id: string) => call("DELETE", `/exercises/sets/${id}`, null),
  startHunt: (set: string, exercise: number, id: string) =>
    call("POST", `/exercises/sets/${set}/hunts`, Hunt, { id, exercise }),
  attempts: () => call("GET", "/exercises", AttemptList),
  attempted: (done: NewAttempt) => call("POST", "/exercises", Attempt, done),
};
