import { QueryObserver } from "@tanstack/react-query";
import { expect, it, vi } from "vitest";
import { ApiError } from "../api/client.ts";
import { makeQueries } from "./queries.ts";

it("asks again what the server did not answer as soon as it answers anything; what it refused stays refused", async () => {
  const queries = makeQueries();
  let isUp = false;
  const failing = (status: number) =>
    vi.fn(async () => {
      if (isUp && status === 0) return "fine";
      throw new ApiError(status, { type: "made-up", title: "no", status });
    });
  const watch = (name: string, queryFn: () => Promise<string>) => {
    const observer = new QueryObserver(queries, { queryKey: [name], queryFn, retry: false });
    observer.subscribe(() => {});
    return observer;
  };
  const [silent, refused] = [failing(0), failing(404)];
  const [health, gone] = [watch("health", silent), watch("job", refused)];
  const until = (check: () => unknown) => vi.waitFor(check, { timeout: 60_000 });
  await until(() => expect([health, gone].map((o) => o.getCurrentResult().status)).toEqual(["error", "error"]));
  isUp = true;
  watch("jobs", async () => "listed");
  await until(() => expect(health.getCurrentResult().data).toBe("fine"));
  expect([silent, refused].map((f) => f.mock.calls.length)).toEqual([2, 1]);
});
