import { type Act, Hunt, HuntList, type NewHunt, type RunFile, Told } from "@hound/core/practice";
import { z } from "zod";
import { call } from "./client.ts";

const Answer = z.strictObject({ told: Told, acts: z.number().int() });

/** The endpoints of practice, one function each. */
export const huntsApi = {
  list: () => call("GET", "/hunts", HuntList),
  open: (id: string) => call("GET", `/hunts/${id}`, Hunt),
  start: (id: string, hunt: Omit<NewHunt, "id">) => call("POST", "/hunts", Hunt, { id, ...hunt }),
  bring: (run: RunFile) => call("POST", "/hunts/runs", Hunt, run),
  act: (id: string, after: number, act: Act) => call("POST", `/hunts/${id}/acts`, Answer, { after, act }),
  name: (id: string, named: readonly string[], sure: number) =>
    call("POST", `/hunts/${id}/names`, Hunt, { named, sure }),
  giveUp: (id: string) => call("POST", `/hunts/${id}/end`, Hunt),
  best: (id: string, best: NonNullable<Hunt["best"]>) => call("PUT", `/hunts/${id}/best`, Hunt, best),
  remove: (id: string) => call("DELETE", `/hunts/${id}`, null),
};
