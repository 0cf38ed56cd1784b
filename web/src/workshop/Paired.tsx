import { PairedBrowsers } from "@hound/core/record";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { call } from "../api/client.ts";
import { useNotice } from "../app/Notice.tsx";
import { dayAndTime } from "../words/times.ts";

const KEY = ["pairings"];

/** Browsers elsewhere that were let in, each to be let in no more; nothing where the server is open to this machine alone. */
export function Paired() {
  const queries = useQueryClient();
  const notice = useNotice();
  const { data } = useQuery({
    queryKey: KEY,
    queryFn: () => call("GET", "/pairings", PairedBrowsers),
    retry: false,
  });
  if (!data) return null;
  const end = (id: string) =>
    call<undefined>("DELETE", `/pairings/${id}`, null).then(
      () => queries.invalidateQueries({ queryKey: KEY }),
      (error: Error) => notice({ text: `It goes on: ${error.message}` }),
    );
  return (
    <section aria-label="Browsers that were let in" className="flex flex-col gap-2">
      <h2 className="text-xl font-bold">Browsers that were let in</h2>
      <p>They gave the code that the server’s terminal shows, and may read and change everything here.</p>
      {data.list.length === 0 && <p className="text-faint">None yet.</p>}
      <ul className="rounded-lg border border-rule bg-sheet px-4 py-1 empty:hidden">
        {data.list.map(({ id, at, from, on }) => (
          <li key={id} className="flex flex-wrap items-center gap-3 border-t border-rule py-1.5 first:border-0">
            <span className="min-w-0 grow break-words">
              {on === "" ? "A browser" : on} <span className="text-faint">from {from}</span>
              {id === data.own && <strong> – this one</strong>}
            </span>
            <span className="text-faint tabular-nums">{dayAndTime(new Date(at))}</span>
            <button
              type="button"
              aria-label={`Let in no more: ${on === "" ? "a browser" : on} from ${from}`}
              onClick={() => end(id)}
              className="rounded-lg border border-rule px-3 py-1 hover:bg-band"
            >
              Let in no more
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
