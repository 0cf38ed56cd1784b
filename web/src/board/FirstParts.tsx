import { readTrail } from "@hound/core/notation";
import { type FormEvent, useId, useLayoutEffect, useRef } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";

interface Typed {
  /** The supply, once it is said. */
  readonly supply: string | null;
  readonly words: string;
}

/** An empty board: first the supply, then the first part behind its plus; from there the board builds forward. */
export function FirstParts({ onBegun }: { onBegun: (designator: string) => void }) {
  const { state, trailDocument } = useDesk();
  const typed = useKept<Typed>(`first parts ${state.job.id}`, { supply: null, words: "BT1 12V" });
  const { supply, words } = typed.value;
  const says = useId();
  const field = useRef<HTMLInputElement>(null);
  useLayoutEffect(() => {
    if (supply !== null) field.current?.select();
  }, [supply]);
  const text = supply === null ? `${words}: R1 1` : `${supply}: ${words}`;
  const trail = readTrail(text);
  const wrong = trail.mistakes.find((m) => m.severity === "mistake");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (wrong) return;
    if (supply === null) {
      typed.set({ supply: words.trim(), words: "R1 100" });
      return;
    }
    typed.forget();
    trailDocument.replace(text);
    onBegun([...trail.places.keys()].at(-1) ?? "R1");
  };
  return (
    <form onSubmit={submit} className="mx-auto flex w-full max-w-md flex-col gap-3 p-6">
      <p className="text-lg text-faint">The board appears here as you write the trail. Or begin here:</p>
      <label className="flex flex-col gap-1 text-lg font-bold">
        {supply === null ? "First supply" : `First part behind the plus of ${supply.split(/\s/)[0]}`}
        <input
          ref={field}
          value={words}
          autoComplete="off"
          spellCheck={false}
          aria-invalid={wrong !== undefined}
          aria-describedby={says}
          onFocus={(e) => e.target.select()}
          onChange={(e) => typed.set({ supply, words: e.target.value })}
          className="rounded-lg border border-field bg-paper px-3 py-2 font-mono text-xl font-normal"
        />
      </label>
      <p id={says} className="min-h-6 text-wrong">
        {wrong?.message}
      </p>
      <button
        type="submit"
        disabled={wrong !== undefined}
        className="self-start rounded-lg bg-copper px-4 py-2 font-bold text-sheet disabled:opacity-40"
      >
        Put it in
      </button>
    </form>
  );
}
