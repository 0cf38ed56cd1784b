import { aKind, type Kind } from "@hound/core/circuit";
import { RATES } from "@hound/core/faults";
import type { Priors } from "@hound/core/record";
import { X } from "lucide-react";
import { useState } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { useHabits } from "../ranking/useHabits.ts";
import { percent } from "../words/quantities.ts";

type How = "excluded" | "pinned";
const WORDS: Readonly<Record<How, string>> = { excluded: "as good as ruled out", pinned: "suspected by you" };

interface OpinionProps {
  /** Designator. */
  readonly part: string;
  readonly kind: Kind;
  /** Probability of the repair now. */
  readonly probability: number;
}

/** What somebody knows of a part (“replaced last week”), and how often its kind fails: both count at once. */
export function OpinionForm({ part, kind, probability }: OpinionProps) {
  const { desk, state, drawn } = useDesk();
  const { value: reason, set: setReason, forget } = useKept(`why of ${part} ${state.job.id}`, "");
  const [before, setBefore] = useState<number | null>(null);
  const { priors } = state.job;
  const put = (next: Priors) => {
    setBefore(probability);
    desk.changeJob({ priors: next });
  };
  const say = (how: How) => {
    const other = how === "excluded" ? "pinned" : "excluded";
    put({
      ...without(without(priors, "excluded", part), "pinned", part),
      [other]: (priors[other] ?? []).filter((o) => o.part !== part),
      [how]: [...(priors[how] ?? []).filter((o) => o.part !== part), { part, ...(reason ? { reason } : {}) }],
    });
    forget();
  };
  const { priors: habits } = useHabits(drawn?.circuit ?? null);
  const rate = priors.rates?.[kind] ?? habits?.rates?.[kind] ?? RATES[kind];
  return (
    <div className="flex flex-col gap-2 border-t border-rule pt-2">
      <div className="flex flex-wrap items-center gap-2">
        <input
          aria-label={`Why, of ${part}`}
          value={reason}
          maxLength={500}
          onChange={(e) => setReason(e.target.value)}
          placeholder="replaced last week …"
          className="min-w-32 grow rounded border border-rule bg-paper px-2 py-1"
        />
        <button type="button" className={QUIET} onClick={() => say("excluded")}>
          Rule {part} out
        </button>
        <button type="button" className={QUIET} onClick={() => say("pinned")}>
          Suspect {part}
        </button>
      </div>
      <label className="flex flex-wrap items-center gap-2 text-faint">
        How often {aKind(kind)} fails, beside a resistor
        <input
          type="number"
          min={0}
          step="any"
          value={Number(rate.toPrecision(3))}
          onChange={(e) => {
            const value = Number(e.target.value);
            if (e.target.value !== "" && value >= 0) put({ ...priors, rates: { ...priors.rates, [kind]: value } });
          }}
          className="w-20 rounded border border-rule bg-paper px-2 py-1 text-ink"
        />
        times
        {before !== null && before !== probability && (
          <span role="status">
            {part}: {percent(before)} → <strong className="text-ink">{percent(probability)}</strong>
          </span>
        )}
      </label>
    </div>
  );
}

/** All that was said of parts in this job, each with its reason, and away with it. */
export function OpinionList() {
  const { desk, state } = useDesk();
  const { priors } = state.job;
  const said = (["excluded", "pinned"] as const).flatMap((how) => (priors[how] ?? []).map((o) => ({ ...o, how })));
  if (said.length === 0) return null;
  return (
    <ul aria-label="What is known of parts" className="flex flex-col gap-1">
      {said.map(({ part, reason, how }) => (
        <li key={`${how} ${part}`} className="flex items-center gap-2 rounded-lg border border-doubt px-3 py-1">
          <span className="min-w-0 grow">
            <strong>{part}</strong> {WORDS[how]}
            {reason && <>: “{reason}”</>}
          </span>
          <button
            type="button"
            aria-label={`Forget that of ${part}`}
            className="rounded p-1.5 hover:bg-band"
            onClick={() => desk.changeJob({ priors: without(priors, how, part) })}
          >
            <X size={16} aria-hidden />
          </button>
        </li>
      ))}
    </ul>
  );
}

function without(priors: Priors, how: How, part: string): Priors {
  return { ...priors, [how]: (priors[how] ?? []).filter((o) => o.part !== part) };
}

const QUIET = "shrink-0 rounded-lg border border-rule px-2.5 py-1 hover:bg-band";
