import {
  type HabitChange,
  Habits,
  Letterhead,
  type LetterheadChange,
  People,
  type PeopleChange,
  Statistics,
} from "@hound/core/record";
import { call } from "./client.ts";

/** What belongs to the workshop as a whole, one function each. */
export const workshopApi = {
  people: () => call("GET", "/people", People),
  changePeople: (change: PeopleChange) => call("PATCH", "/people", People, change),
  letterhead: () => call("GET", "/letterhead", Letterhead),
  changeLetterhead: (change: LetterheadChange) => call("PATCH", "/letterhead", Letterhead, change),
  habits: (circuit?: string) =>
    call("GET", `/habits${circuit === undefined ? "" : `?${new URLSearchParams({ circuit })}`}`, Habits),
  changeHabits: (change: HabitChange) => call("PATCH", "/habits", Habits, change),
  statistics: () => call("GET", "/statistics", Statistics),
};
