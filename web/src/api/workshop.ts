import { type HabitSettings, Habits, Letterhead, People, type PeopleChange, Statistics } from "@hound/core/record";
import { call } from "./client.ts";

/** What belongs to the workshop as a whole, one function each. */
export const workshopApi = {
  people: () => call("GET", "/people", People),
  changePeople: (change: PeopleChange) => call("PATCH", "/people", People, change),
  letterhead: () => call("GET", "/letterhead", Letterhead),
  writeLetterhead: (letterhead: Letterhead) => call("PUT", "/letterhead", Letterhead, letterhead),
  habits: (circuit?: string) =>
    call("GET", `/habits${circuit === undefined ? "" : `?${new URLSearchParams({ circuit })}`}`, Habits),
  writeHabits: (settings: HabitSettings) => call("PUT", "/habits", Habits, settings),
  statistics: () => call("GET", "/statistics", Statistics),
};
