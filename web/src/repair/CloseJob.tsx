import { type Closing, isOver, OUTCOMES, type Outcome, TEXT_LIMITS, type TimedStage } from "@hound/core/record";
import { replacementsFor } from "@hound/core/repair";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useEffect, useMemo, useRef, useState } from "react";
import { jobsApi } from "../api/jobs.ts";
import { useOnDevice } from "../app/device.ts";
import { focusHeading } from "../app/focus.ts";
import { STAGES } from "../app/stages.ts";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { printFixed } from "../words/print.ts";
import { foundWords, kindsOfParts, orderWords } from "../words/repair.ts";
import type { ProofNow } from "./useProof.ts";
import type { RepairBench } from "./useRepairWork.ts";

interface CloseJobProps {
  readonly bench: RepairBench;
  readonly proof: ProofNow;
  readonly drawn: Drawn;
  readonly isOpenAtFirst: boolean;
  readonly outcome: Outcome | null;
  readonly onDone: () => void;
}

interface Form {
  readonly outcome: Outcome | null;
  /** Left as it is offered where nobody typed another. */
  readonly finding: string | null;
  readonly minutes: string | null;
}

/** How the job ends: what was found, what was used, how long it took. */
export function CloseJob({ bench, proof, drawn, isOpenAtFirst, outcome: asked, onDone }: CloseJobProps) {
  const { state } = useDesk();
  const { job } = state;
  const [isOpen, setOpen] = useState(isOpenAtFirst);
  const { value, set, forget } = useKept<Form>(`closing ${job.id}`, { outcome: null, finding: null, minutes: null });
  const [who] = useOnDevice("who", "");
  const [wrong, setWrong] = useState<string | null>(null);
  const { work, mend } = bench;
  const { data: stages = {} } = useQuery({
    queryKey: ["minutes", job.id],
    queryFn: () => jobsApi.minutes(job.id),
    enabled: isOpen,
    refetchOnMount: "always",
  });
  const kindOf = kindsOfParts(drawn.circuit);
  const faults = work?.faults ?? [];
  const used = useMemo(() => {
    const parts = mend.flatMap((s) => ("part" in s ? [s.part] : []));
    return replacementsFor(drawn.settled?.circuit ?? drawn.circuit, drawn.network, parts).map((one) => ({
      part: one.part.designator,
      what: work?.fitted[one.part.designator] || orderWords(one),
    }));
  }, [mend, drawn, work]);
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => {
    if (!isOpen) return;
    // All of it in sight, and the hand in it.
    form.current?.scrollIntoView({ block: "nearest" });
    form.current?.querySelector<HTMLElement>("input:checked, input")?.focus({ preventScroll: true });
  }, [isOpen]);
  if (isOver(job.state)) return null;
  const usual: Outcome | null = asked ?? (faults.length > 0 ? "found" : work ? "nothing" : null);
  const outcome = value.outcome ?? usual;
  const offered =
    outcome === "found" ? sentence(foundWords(faults, kindOf)) : outcome === "nothing" ? "No fault found." : "";
  const finding = value.finding ?? (job.finding || offered);
  const total = Object.values(stages).reduce((sum, m) => sum + m, 0);
  const minutes = value.minutes ?? (total > 0 ? String(Math.max(1, Math.round(total))) : "");
  const verdict = proof.proved?.verdict;
  const lacking = lackingWords(work !== null, proof);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!outcome) return setWrong("Say how it ended first.");
    if (outcome === "found" && faults.length === 0 && finding.trim() === "")
      return setWrong("Say what it was: choose it above, or in a word here.");
    const spent = Number(minutes.replace(",", "."));
    if (minutes.trim() !== "" && !(spent >= 0 && spent < 1e6)) return setWrong("Minutes are a number.");
    const closing: Closing = {
      outcome,
      faults: outcome === "found" ? [...faults] : [],
      used: outcome === "found" ? used : [],
      ...(minutes.trim() === "" ? {} : { minutes: spent }),
      stages,
      proof: verdict && verdict.taken > 0 ? { agree: verdict.agree, of: verdict.taken } : null,
      said: work?.said ?? null,
      ...(who === "" ? {} : { who }),
      at: new Date().toISOString(),
    };
    bench.close(closing, finding.trim());
    forget();
    setOpen(false);
    onDone();
    // How it ended stands at the top.
    focusHeading();
  };
  if (!isOpen)
    return (
      <button
        type="button"
        className={`shrink-0 self-start rounded-lg px-4 py-2.5 text-lg font-bold ${verdict?.kind === "repaired" ? "bg-copper text-sheet" : "border border-rule bg-sheet hover:bg-band"}`}
        onClick={() => setOpen(true)}
      >
        Close the job …
      </button>
    );
  return (
    <form
      ref={form}
      onSubmit={submit}
      aria-label="Close the job"
      className="shrink-0 rounded-xl border border-rule bg-sheet px-4 py-3"
    >
      <h2 className="text-xl font-bold">Close the job</h2>
      {outcome === "found" && lacking && <p className="text-doubt">{lacking}</p>}
      <fieldset className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
        <legend className="sr-only">How it ended</legend>
        {Object.entries(OUTCOMES).map(([key, word]) => (
          <label key={key} className="flex items-center gap-2 text-lg">
            <input
              type="radio"
              name="outcome"
              checked={outcome === key}
              onChange={() => set({ ...value, outcome: key as Outcome, finding: null })}
              className="size-6 accent-copper"
            />
            {word}
          </label>
        ))}
      </fieldset>
      <label className="mt-2 flex flex-col gap-1">
        What it was
        <textarea
          value={finding}
          rows={2}
          dir="auto"
          maxLength={TEXT_LIMITS.complaint}
          onChange={(e) => set({ ...value, finding: e.target.value })}
          className="rounded-lg border border-field bg-paper px-3 py-2"
        />
      </label>
      {outcome === "found" && used.length > 0 && (
        <p className="mt-2">Parts used: {used.map((u) => `${u.part} (${u.what})`).join("; ")}.</p>
      )}
      <label className="mt-2 flex flex-wrap items-center gap-2">
        Minutes
        <input
          value={minutes}
          inputMode="decimal"
          onChange={(e) => set({ ...value, minutes: e.target.value })}
          className="w-24 rounded-lg border border-field bg-paper px-3 py-1.5"
        />
        {total > 0 && <span className="text-faint">counted: {stageWords(stages)}</span>}
      </label>
      {wrong && (
        <p role="alert" className="mt-2 text-wrong">
          {wrong}
        </p>
      )}
      <div className="mt-3 flex justify-end gap-3">
        <button
          type="button"
          className="rounded-lg border border-rule px-4 py-2 hover:bg-band"
          onClick={() => {
            setOpen(false);
            onDone();
          }}
        >
          Not yet
        </button>
        <button type="submit" className="rounded-lg bg-copper px-4 py-2 font-bold text-sheet">
          Close it
        </button>
      </div>
    </form>
  );
}

/** What a found fault lacks to be proved; null where it is, or while that is worked out. */
function lackingWords(isBegun: boolean, { proved, isCurrent }: ProofNow): string | null {
  if (!isBegun) return "No repair was begun here: it is not proved.";
  if (!proved || !isCurrent || proved.verdict.kind === "repaired") return null;
  const { taken, agree } = proved.verdict;
  return taken > 0
    ? `The proof is not complete: ${agree} of ${taken} agree.`
    : "Nothing was read after the repair: it is not proved.";
}

/** `Readings 4, Suspects 2`. */
export function stageWords(stages: Partial<Record<TimedStage, number>>): string {
  return Object.entries(stages)
    .filter(([, m]) => m >= 0.1)
    .map(([stage, m]) => `${STAGES[stage as TimedStage]} ${printFixed(m, m < 10 ? 1 : 0)}`)
    .join(", ");
}

const sentence = (text: string) => (text === "" ? "" : `${text.charAt(0).toUpperCase()}${text.slice(1)}.`);
