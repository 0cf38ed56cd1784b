import type { Unseen, Verdict } from "@hound/core/plan";
import type { RepairStep } from "@hound/core/rank";
import { nameOfSuspect } from "../../words/faults.ts";
import { measurementWords, precaution } from "../../words/measurements.ts";
import { percent } from "../../words/quantities.ts";
import { useDesk } from "../DeskContext.tsx";
import type { NextReadings } from "../ranking/messages.ts";
import type { Ranked } from "../ranking/useRanking.ts";

interface StandsProps {
  readonly ranked: Ranked;
  readonly planned: NextReadings | null;
}

const verdictIn = ({ ranked, planned }: StandsProps): Verdict | null =>
  ranked.isCurrent ? (planned?.verdict ?? null) : null;

/** Where the job stands in one line, first of all; it never moves what is below it. */
export function Headline(props: StandsProps) {
  const verdict = verdictIn(props);
  if (props.ranked.ranking?.kind === "problem") return null;
  return (
    <h2
      aria-live="polite"
      className={`-mb-1 h-8 shrink-0 truncate text-2xl font-bold ${verdict ? "" : "text-faint"}`}
      title={verdict ? headlineOf(verdict) : undefined}
    >
      {verdict ? headlineOf(verdict) : "…"}
    </h2>
  );
}

function headlineOf(verdict: Verdict): string {
  switch (verdict.kind) {
    case "settled":
      return `Settled: ${repairWords(verdict.repair)}`;
    case "healthy":
      return "Agrees with healthy";
    case "open":
      return "Open";
    case "stuck":
      return "Nothing measured here tells these apart";
    default:
      return verdict satisfies never;
  }
}

/** What follows from where the job stands; and when what is shown is not up to date, that it is not. */
export function WhereItStands(props: StandsProps) {
  const { ranked, planned } = props;
  if (ranked.ranking?.kind === "problem") return null;
  const verdict = verdictIn(props);
  return (
    <section aria-label="Where the job stands" className="min-h-11 shrink-0 rounded-xl bg-band px-4 py-2.5">
      {verdict ? <Words verdict={verdict} toSettle={planned?.toSettle ?? null} /> : <OnItsWay ranked={ranked} />}
    </section>
  );
}

/** What the list counts that is still in sight, what is on its way, and how far it is. */
export function OnItsWay({ ranked }: { ranked: Ranked }) {
  const { ranking, counts, asked } = ranked;
  if (!ranking) return <p className="text-faint">Working it out …</p>;
  const isPartial = ranking.kind === "ranking" && ranking.progress < 1 && counts === asked;
  if (isPartial)
    return (
      <p className="text-doubt">
        Still weighing two faults at once: {percent(ranking.progress)} looked at, the rest can hold at most{" "}
        {percent(ranking.left)}.
      </p>
    );
  return (
    <p className="text-doubt">
      Out of date: this counts {counts} reading{counts === 1 ? "" : "s"}
      {asked === counts ? "; what was changed is being weighed" : `; ${asked} are being weighed`} …
    </p>
  );
}

function Words({ verdict, toSettle }: { verdict: Verdict; toSettle: number | null }) {
  const { drawn } = useDesk();
  const kindOf = (part: string) => drawn?.network.branches.find((b) => b.name === part)?.kind;
  switch (verdict.kind) {
    case "settled":
      return <p>{proofWords(verdict.repair, kindOf)}</p>;
    case "healthy":
      return (
        <p>
          Nothing read speaks for a fault.
          {verdict.unseen.length > 0 &&
            ` What these readings could not show: ${verdict.unseen.map((u) => unseenWords(u, kindOf)).join("; ")}.`}
        </p>
      );
    case "open":
      return (
        <p>
          {toSettle !== null && toSettle > 0
            ? `About ${toSettle} more reading${toSettle === 1 ? "" : "s"} should settle it.`
            : "How many more readings it takes cannot be told yet."}
        </p>
      );
    case "stuck": {
      const how = verdict.dismantle && measurementWords(verdict.dismantle);
      const care = verdict.dismantle && precaution(verdict.dismantle);
      return (
        <p>
          {how ? `Dismantling would: ${how.how} ${how.where}. ` : "Nor would dismantling, with what is on offer. "}
          {care}
        </p>
      );
    }
    default:
      return verdict satisfies never;
  }
}

/** What is to be done: `replace R2`, `clear the bridge from B to D`. */
export function repairWords(repair: readonly RepairStep[]): string {
  if (repair.length === 0) return "nothing";
  return repair
    .map((step) => ("part" in step ? `replace ${step.part}` : `clear what joins ${step.nodes[0]} to ${step.nodes[1]}`))
    .join(", and ");
}

/** One step that would show that it is this. */
function proofWords(repair: readonly RepairStep[], kindOf: (part: string) => string | undefined): string {
  const [step] = repair;
  if (!step) return "";
  if (!("part" in step))
    return `To prove it: power off, ohms from ${step.nodes[0]} to ${step.nodes[1]}, before and after it is cleared.`;
  const { part } = step;
  const kind = kindOf(part);
  if (kind === "supply")
    return `To prove it: ${part} alone, unloaded and under load; then a known-good one in its place.`;
  if (kind === "resistor" || kind === "potentiometer" || kind === "sensor" || kind === "coil" || kind === "load")
    return `To prove it: power off, one lead of ${part} lifted, its ohms against what is written on it.`;
  return `To prove it: a known-good ${part} in its place, and the worst reading taken again.`;
}

function unseenWords({ faults, probability, show }: Unseen, kindOf: Parameters<typeof nameOfSuspect>[1]): string {
  const how = show && measurementWords(show);
  return `${nameOfSuspect({ faults }, kindOf)} (${percent(probability)}${how ? `; ${how.how} ${how.where} would show it` : ""})`;
}
