import type { FormEvent } from "react";
import { workshopApi } from "../api/workshop.ts";
import { useOnDevice } from "../app/device.ts";
import { useErrands, useRun } from "../desk/OutboxContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { useSeen } from "../desk/useSeen.ts";

/** Who works here: names, and which of them sits at this browser. No passwords: a name is no proof of anything. */
export function People() {
  const { data } = useSeen(["people"], workshopApi.people, { staleTime: 30_000 });
  const [who, setWho] = useOnDevice("who", "");
  const { value: name, set: setName, forget } = useKept("another name", "");
  const run = useRun();
  const { list } = useErrands();
  const gone = new Set(
    list.flatMap((e) =>
      e.kind === "people" && e.refused === undefined ? [(e.body as { remove?: string }).remove] : [],
    ),
  );
  const names = [...new Set([...(data?.names ?? []), ...(who === "" ? [] : [who])])].filter((n) => !gone.has(n));
  const add = (event: FormEvent) => {
    event.preventDefault();
    const one = name.trim();
    if (one === "") return;
    setWho(one);
    forget();
    run("people", { add: one }, `${one} works here`).catch(() => {});
  };
  return (
    <section aria-label="People" className="flex flex-col gap-2">
      <h2 className="text-xl font-bold">People</h2>
      <p>Who sits at this browser? Readings, notes and changes are kept with the name.</p>
      <fieldset className="rounded-lg border border-rule bg-sheet px-4 py-2">
        <legend className="sr-only">Who sits at this browser</legend>
        {["", ...names].map((one) => (
          <div key={one} className="flex items-center gap-3">
            <label className="flex min-w-0 grow items-center gap-3 py-1.5">
              <input
                type="radio"
                name="who"
                checked={who === one}
                onChange={() => setWho(one)}
                className="size-6 shrink-0 accent-copper"
              />
              <span dir="auto" className="break-words">
                {one === "" ? "Nobody in particular" : one}
              </span>
            </label>
            {one !== "" && one !== who && (
              <button
                type="button"
                className="rounded-lg px-2 py-1 text-faint underline"
                aria-label={`Take ${one} off the list`}
                onClick={() => run("people", { remove: one }, `${one} is off the list`).catch(() => {})}
              >
                Take off
              </button>
            )}
          </div>
        ))}
        <form onSubmit={add} className="flex gap-2 pt-1">
          <input
            value={name}
            maxLength={80}
            dir="auto"
            aria-label="Another name"
            placeholder="Another name"
            onChange={(e) => setName(e.target.value)}
            className="min-w-0 grow rounded-lg border border-field bg-paper px-3 py-1.5"
          />
          <button type="submit" className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band">
            That is me
          </button>
        </form>
      </fieldset>
    </section>
  );
}
