import { Progress } from "@hound/core/record";
import { call } from "./client.ts";

/** The endpoints of long pieces of work. */
export const workApi = {
  progress: (id: string) => call("GET", `/work/${id}`, Progress),
  stop: (id: string) => call<undefined>("DELETE", `/work/${id}`, null),
};
