import type { Judgement, Unseen, Verdict } from "@hound/core/judgement";
import { Clamped } from "../app/Clamped.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import type { Ranked } from "../ranking/useRanking.ts";
import { DoingCautions } from "../session/cautions.tsx";
import { type RepairRow, repairRows } from "../session/suspectRows.ts";
import { type KindOf, kindsIn, nameOfSuspect } from "../words/faults.ts";
import { doingOf, measurementWords } from "../words/measurements.ts";
import { percent } from "../words/quantities.ts";
import { repairWords, stepsWords } from "../words/repair.ts";

/** A bound on what is left says something below this. */
const WORTH_SAYING = 0.9;
/** A second fault less likely than this is not spoken of. */
const WORTH_A_WORD = 0.05;

/** Letters of a headline that the pane holds in large; a longer one is written smaller. */
const FITS_LARGE = 34;

/** Where the job stands, in a line and in two lines more: it keeps its height, whatever it says. */
export function WhereItStands({ ranked }: { ranked: Ranked }) {
  const { drawn } = useDesk();
  const { ranking, judgement } = ranked;
  if (ranking?.kind === "problem") return null;
  const rows = drawn && ranking ? repairRows(ranking, drawn.network) : [];
  const isTyped = ranked.isCurrent && ranked.isTyped;
  const headline = isTyped ? "Typed, not recorded yet" : judgement && headlineOf(judgement.verdict, rows);
  return (
    <section aria-label="Where the job stands" className="shrink-0">
      <h2
        className={`h-8 truncate ${(headline ?? "").length > FITS_LARGE ? "text-lg" : "text-2xl"} leading-8 font-bold ${headline ? "" : "text-faint"}`}
        title={headline ?? undefined}
      >
        {headline ?? "…"}
      </h2>
      <Clamped of="where the job stands">
        {ranked.judgement && !isTyped ? <Words {...ranked.judgement} /> : <OnItsWay ranked={ranked} />}
      </Clamped>
    </section>
  );
}

/** A repair less likely than this is not named as one of those in question. */
const IN_QUESTION = 0.15;

/** Where a job stands, in a few words: what is read and what is spoken. @param rows of the ranking it was judged from */
export function headlineOf(verdict: Verdict, rows: readonly RepairRow[]): string {
  switch (verdict.kind) {
    case "settled":
      return `Settled: ${repairWords(verdict.repair, verdict.turned)}`;
    case "healthy":
      return "Agrees with healthy";
    case "open": {
      if (verdict.quiet) return "Nothing speaks for a fault yet";
      const names = rows.filter((r) => r.probability >= IN_QUESTION).slice(0, 3);
      return `Not settled yet${names.length > 0 ? `: ${names.map(nameInLine).join(" or ")}` : ""}`;
    }
    case "stuck":
      return "Nothing measured here tells these apart";
    default:
      return verdict satisfies never;
  }
}

/** `R3`, `nothing wrong`: as it stands behind others in a line. */
const nameInLine = ({ key, name, modes: [mode] }: RepairRow) =>
  key === "mistaken"
    ? "a mis-taken reading"
    : mode.suspect.faults.length === 0
      ? `${name[0].toLowerCase()}${name.slice(1)}`
      : name;

/** What the list counts that is still in sight, what is on its way, and how far it is. */
function OnItsWay({ ranked }: { ranked: Ranked }) {
  const { ranking, counts, asked, isCurrent, isTyped, isStopped, share } = ranked;
  if (isCurrent && isTyped)
    return <p className="text-faint">What is typed counts below as if it were recorded. Enter records it.</p>;
  const isPartial = ranking?.kind === "ranking" && ranking.progress < 1 && counts === asked;
  if (isStopped && !isCurrent)
    return (
      <div className="flex items-center gap-3 text-doubt">
        <p className="grow">
          Stopped:{" "}
          {isPartial
            ? `${percent(ranking.progress)} of two faults at once were weighed`
            : "what is shown is out of date"}
          .
        </p>
        <button type="button" className={BUTTON} onClick={ranked.goOn}>
          Go on
        </button>
      </div>
    );
  if (share !== null && !isCurrent)
    return (
      <div className="flex flex-wrap items-center gap-x-3 text-doubt">
        <p className="grow">Weighing one fault at a time: {percent(share)} looked at.</p>
        <progress value={share} className="late h-3 w-40 accent-copper" aria-label="Single faults weighed" />
        <Stop ranked={ranked} />
      </div>
    );
  if (!ranking || isCurrent)
    return (
      <div className="flex items-center gap-3 text-faint">
        <p className="grow">Working it out …</p>
        {!isCurrent && <Stop ranked={ranked} />}
      </div>
    );
  if (isPartial)
    return (
      <div className="flex flex-wrap items-center gap-x-3 text-doubt">
        <p className="grow">
          Still weighing two faults at once: {percent(ranking.progress)} looked at
          {ranking.left < WORTH_SAYING && `, the rest can hold at most ${percent(ranking.left)}`}.
        </p>
        <progress value={ranking.progress} className="late h-3 w-40 accent-copper" aria-label="Two faults weighed" />
        <Stop ranked={ranked} />
      </div>
    );
  return (
    <div className="flex items-center gap-3 text-doubt">
      <p className="grow">
        Out of date: this counts {counts} reading{counts === 1 ? "" : "s"}
        {asked === counts ? "; what was changed is being weighed" : `; ${asked} are being weighed`} …
      </p>
      <Stop ranked={ranked} />
    </div>
  );
}

const BUTTON = "shrink-0 rounded-lg border border-doubt px-3 py-1 hover:bg-band";

/** Comes into sight only where the work takes long. */
function Stop({ ranked }: { ranked: Ranked }) {
  return (
    <button type="button" className={`late ${BUTTON}`} onClick={ranked.stop}>
      Stop
    </button>
  );
}

function Words({ verdict, toSettle, meters }: Judgement) {
  const { drawn, readings } = useDesk();
  const kindOf = kindsIn(drawn?.network);
  switch (verdict.kind) {
    case "settled":
      return <p>{settledWords(verdict)}</p>;
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
          {openWords(verdict, toSettle, (at) => readings[at]?.reading.quantity === "observation")}
          {meters.map(meterWords).join("")}
        </p>
      );
    case "stuck": {
      const how = verdict.dismantle && measurementWords(verdict.dismantle);
      return (
        <p>
          {how ? `Dismantling would: ${how.how} ${how.where}. ` : "Nor would dismantling, with what is on offer. "}
          {verdict.dismantle && <DoingCautions doing={doingOf(verdict.dismantle)} />}
        </p>
      );
    }
    default:
      return verdict satisfies never;
  }
}

/** How much more it takes. */
function openWords(
  { quiet, again, sure, others = [] }: Extract<Verdict, { kind: "open" }>,
  toSettle: number | null,
  isLook: (reading: number) => boolean,
): string {
  if (again !== undefined)
    return isLook(again)
      ? "What was seen was probably not so: look again."
      : "One reading was probably mis-taken: take it again.";
  if (sure) {
    const also = others.slice(0, 3).map(stepsWords).join(" or ");
    return `To be changed whatever else is: ${stepsWords(sure)}. Something besides it is most probably wrong${also && `: ${also}`}.`;
  }
  if (quiet) return "What is proposed may still show one.";
  if (toSettle === null) return "How many more readings it takes cannot be foreseen.";
  return `About ${toSettle} more reading${toSettle === 1 ? "" : "s"} should settle it.`;
}

/** What else may be wrong; how it is proved stands with the proposal. */
function settledWords({ besides, others }: Extract<Verdict, { kind: "settled" }>): string {
  if (besides < WORTH_A_WORD) return "Nothing more has to be read.";
  const also = others.length > 0 ? `: ${others.slice(0, 3).map(stepsWords).join(", ")}` : "";
  return `Something else may be wrong as well (${percent(besides)})${also}.`;
}

/** How to tell a meter that reads false from a fault. */
function meterWords({ quantity, meter, probability }: Judgement["meters"][number]): string {
  const what = { voltage: "volts", current: "amperes", resistance: "ohms" }[quantity];
  const which = meter === "" ? "the meter" : meter;
  return ` Or ${which} reads false (${percent(probability)}): hold it against known ${what}, or take another.`;
}

function unseenWords({ faults, probability, show }: Unseen, kindOf: KindOf): string {
  const how = show && measurementWords(show);
  return `${nameOfSuspect({ faults }, kindOf)} (${percent(probability)}${how ? `; ${how.how} ${how.where} would show it` : ""})`;
}
