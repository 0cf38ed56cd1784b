import { type FormEvent, useState } from "react";
import { useSearchParams } from "react-router";
import { call } from "../api/client.ts";

/** Asks once for the code that the server's terminal shows, where the server is open to a network. */
export function PairPage() {
  const [search] = useSearchParams();
  const [code, setCode] = useState("");
  const [message, setMessage] = useState("");
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await call("POST", "/pair", null, { code });
      const back = search.get("back") ?? "/jobs";
      // Only to a page of our own.
      location.assign(back.startsWith("/") && !back.startsWith("//") ? back : "/jobs");
    } catch (error) {
      setMessage((error as Error).message);
    }
  };
  return (
    <main className="mx-auto max-w-md p-6">
      <h1 className="text-2xl font-bold">Which code does the server show?</h1>
      <p className="mt-2 text-faint">
        It stands in the terminal in which the server was started. This browser is asked once.
      </p>
      <form onSubmit={submit} className="mt-4 flex gap-2">
        <input
          aria-label="Code"
          aria-invalid={message !== ""}
          aria-describedby="pair-says"
          value={code}
          onChange={(e) => setCode(e.target.value)}
          inputMode="numeric"
          autoComplete="one-time-code"
          placeholder="0000 0000"
          className="min-w-0 grow rounded-lg border border-rule bg-sheet px-3 py-2.5 text-2xl font-bold"
        />
        <button type="submit" className="rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet">
          Pair
        </button>
      </form>
      <p id="pair-says" role="alert" className="mt-2 min-h-6 text-wrong">
        {message}
      </p>
    </main>
  );
}
