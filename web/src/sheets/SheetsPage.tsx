import { DETAILS, type Details } from "@hound/core/record";
import { ArrowLeft, Pencil, Printer } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, Navigate, NavLink, useParams } from "react-router";
import { NoticeBar } from "../app/Notice.tsx";
import { PaneBoundary } from "../app/PageError.tsx";
import { deviceStore } from "../app/stores.ts";
import { useArrival, useTitle } from "../app/useTitle.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { OpenedDesk } from "../desk/OpenedDesk.tsx";
import { stampOf } from "../desk/stamp.ts";
import { JobCard } from "../pictures/JobCard.tsx";
import { isLarge } from "../session/large.tsx";
import { ExpectedSheet } from "./ExpectedSheet.tsx";
import { JobSheet } from "./JobSheet.tsx";
import { MeasuredSheet } from "./MeasuredSheet.tsx";
import { ReductionSheet } from "./ReductionSheet.tsx";
import { ReportSheet } from "./ReportSheet.tsx";
import { PAPERS, type Paper, PRINTED_WIDTH, SHEET_NAMES, SHEETS, type SheetName } from "./sheets.ts";
import { VariantsSheet } from "./VariantsSheet.tsx";

/** Sheets of a job to be printed or saved as PDF by the browser. */
export function SheetsPage() {
  const { id = "", sheet } = useParams();
  if (!SHEET_NAMES.includes(sheet as SheetName)) return <Navigate to={`/jobs/${id}/sheets/job`} replace />;
  return (
    <OpenedDesk id={id} what="the sheet">
      <Sheet name={sheet as SheetName} />
      <NoticeBar className="fixed inset-x-0 bottom-0 z-40 print:hidden" />
    </OpenedDesk>
  );
}

const PAPER_PLACE = "hound:paper";

function Sheet({ name }: { name: SheetName }) {
  const { state, drawn } = useDesk();
  const { job } = state;
  const [paper, setPaper] = useState<Paper>(() => (deviceStore.get(PAPER_PLACE) === "letter" ? "letter" : "a4"));
  const [card, setCard] = useState(false);
  const [isReady, setReady] = useState(true);
  const now = useNow();
  useTitle(SHEETS[name], job.title);
  useArrival();
  const { size, width } = PAPERS[paper];
  const choose = (wanted: Paper) => {
    deviceStore.set(PAPER_PLACE, wanted);
    setPaper(wanted);
  };
  const printed = PRINTED_WIDTH[paper];
  return (
    <div className="sheets min-h-full bg-band print:bg-white">
      <style>{`@page { size: ${size}; margin: 14mm }`}</style>
      <nav
        aria-label="Sheets"
        className="sticky top-0 z-10 flex flex-wrap items-center gap-x-4 gap-y-1 bg-band px-4 py-2 print:hidden"
      >
        <Link to={`/jobs/${job.id}/circuit`} className="flex items-center gap-1.5 rounded-lg p-2 hover:bg-rule/50">
          <ArrowLeft size={20} aria-hidden /> Back to the job
        </Link>
        {SHEET_NAMES.map((one) => (
          <NavLink
            key={one}
            to={`/jobs/${job.id}/sheets/${one}`}
            className={({ isActive }) =>
              `border-b-4 px-1 py-1 ${isActive ? "border-copper font-bold" : "border-transparent text-faint hover:text-ink"}`
            }
          >
            {SHEETS[one]}
          </NavLink>
        ))}
        <span className="grow" />
        <label className="flex items-center gap-2">
          Paper
          <select
            value={paper}
            onChange={(e) => choose(e.target.value as Paper)}
            className="rounded-lg border border-field bg-sheet px-2 py-1.5"
          >
            {(Object.keys(PAPERS) as Paper[]).map((key) => (
              <option key={key} value={key}>
                {PAPERS[key].name}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          disabled={!isReady}
          onClick={() => window.print()}
          className="flex items-center gap-2 rounded-lg bg-copper px-4 py-2 font-bold text-sheet disabled:bg-band disabled:text-ink"
        >
          <Printer size={20} aria-hidden /> {isReady ? "Print or save as PDF" : "Working it out …"}
        </button>
      </nav>
      <main
        // On the screen as on the paper; one looks at black on white, whatever the look of the pages.
        data-paper
        style={{ maxWidth: width }}
        className="sheet-paper mx-auto flex flex-col gap-3 bg-sheet p-4 sm:p-[14mm] text-[11pt] text-ink shadow-lg print:max-w-none print:p-0 print:shadow-none"
      >
        <div className="flex items-start gap-3 border-b-2 border-ink pb-2">
          <div className="min-w-0 grow">
            <h1 dir="auto" tabIndex={-1} data-heading className="text-[17pt] leading-tight font-bold break-words">
              {job.title}
            </h1>
            <p className="text-[12pt]">{SHEETS[name]}</p>
          </div>
          <button
            type="button"
            aria-label="Change title, complaint, customer"
            title="Change title, complaint, customer"
            onClick={() => setCard(true)}
            className="rounded-lg p-2 hover:bg-band print:hidden"
          >
            <Pencil size={20} aria-hidden />
          </button>
        </div>
        <JobDetails details={job.details ?? {}} />
        <PaneBoundary key={name} name="This sheet">
          {!drawn || drawn.outdated ? (
            <Undrawn trail={state.text} />
          ) : isLarge(drawn.network) ? (
            <p>This circuit is too large for a sheet.</p>
          ) : name === "expected" ? (
            <ExpectedSheet drawn={drawn} width={printed} />
          ) : name === "reduction" ? (
            <ReductionSheet drawn={drawn} width={printed} />
          ) : name === "measured" ? (
            <MeasuredSheet drawn={drawn} width={printed} />
          ) : name === "variants" ? (
            <VariantsSheet drawn={drawn} width={printed} />
          ) : name === "report" ? (
            <ReportSheet drawn={drawn} width={printed} onReady={setReady} />
          ) : (
            <JobSheet drawn={drawn} width={printed} onReady={setReady} />
          )}
        </PaneBoundary>
        <p className="mt-auto border-t border-ink pt-1 text-[9pt]" data-stamp>
          {stampOf(state, now)}
        </p>
      </main>
      {card && <JobCard onClose={() => setCard(false)} />}
    </div>
  );
}

/** What there is instead of a board: the trail as it was written, since somebody may want to mend it on paper. */
function Undrawn({ trail }: { trail: string }) {
  if (trail.trim() === "") return <p>There is no circuit yet.</p>;
  return (
    <>
      <p className="font-bold">The trail has mistakes; a sheet is made once they are mended.</p>
      <pre className="font-mono break-words whitespace-pre-wrap">{trail}</pre>
    </>
  );
}

/** The time on a sheet is the time it is printed. */
function useNow(): Date {
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const tick = () => setNow(new Date());
    window.addEventListener("beforeprint", tick);
    const timer = setInterval(tick, 30_000);
    return () => {
      window.removeEventListener("beforeprint", tick);
      clearInterval(timer);
    };
  }, []);
  return now;
}

function JobDetails({ details }: { details: Details }) {
  const said = (Object.keys(DETAILS) as (keyof Details)[]).filter((key) => details[key]);
  if (said.length === 0) return null;
  return (
    <dl className="flex flex-wrap gap-x-6 gap-y-0.5">
      {said.map((key) => (
        <div key={key} className="flex gap-1.5">
          <dt className="text-faint">{DETAILS[key]}</dt>
          <dd dir="auto" className="font-bold break-words">
            {details[key]}
          </dd>
        </div>
      ))}
    </dl>
  );
}
