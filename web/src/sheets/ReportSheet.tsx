import { DETAILS, type Details, type Letterhead } from "@hound/core/record";
import { cautionsFor } from "@hound/core/safety";
import { useMemo, useRef } from "react";
import { picturesApi } from "../api/pictures.ts";
import { workshopApi } from "../api/workshop.ts";
import { useNotice } from "../app/Notice.tsx";
import { fileName, saveFile } from "../app/saveFile.ts";
import { useCaseOf } from "../desk/caseOf.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { stampOf } from "../desk/stamp.ts";
import { useSeen } from "../desk/useSeen.ts";
import { useProof } from "../repair/useProof.ts";
import { useRepairWork } from "../repair/useRepairWork.ts";
import { Cautions, useSafetyFacts } from "../session/cautions.tsx";
import { inWords } from "../words/print.ts";
import { partedBy, reportFacts } from "./reportFacts.ts";
import { SheetBoard } from "./SheetBoard.tsx";
import { SheetTable } from "./SheetTable.tsx";
import { type SheetProps, useReady } from "./sheetProps.ts";

const EMPTY: Letterhead = { head: "", foot: "" };
/** Photographs that stand on the report. */
const PHOTOS = 6;
const BUTTON = "rounded-lg border border-rule px-3 py-1.5 hover:bg-band disabled:opacity-40";

/** One page for a customer or a colleague: what was complained of, found and why, replaced, proved, and not tested. */
export function ReportSheet({ drawn, width, onReady }: SheetProps) {
  const { state, readings, meter } = useDesk();
  const { job } = state;
  const bench = useRepairWork(drawn);
  const { proved, isCurrent } = useProof(drawn, bench);
  // A report that is printed before all of it is worked out would say what is not so.
  const isReady = !bench.work || (proved !== null && isCurrent);
  useReady(isReady, onReady);
  const letterhead = useSeen(["letterhead"], workshopApi.letterhead, { staleTime: 30_000 }).data ?? EMPTY;
  const { data } = useSeen(["pictures", job.id], () => picturesApi.list(job.id), { staleTime: 30_000 });
  const svg = useRef<SVGSVGElement>(null);
  const notice = useNotice();
  const caseOf = useCaseOf();
  const safety = useSafetyFacts();
  const taken = useMemo(() => readings.map((r) => r.reading), [readings]);
  const { before } = useMemo(() => partedBy(taken, job, bench.mend), [taken, job, bench.mend]);
  const facts = useMemo(
    () =>
      reportFacts({
        job,
        network: drawn.network,
        input: { circuit: drawn.circuit, readings: before, meter, priors: job.priors },
        verdict: proved?.verdict ?? null,
        unseen: proved?.set.unseen ?? [],
      }),
    [job, drawn, before, meter, proved],
  );
  const photos = (data?.pictures ?? [])
    .filter((p) => p.inReport)
    .slice(0, PHOTOS)
    .map(({ id, name, caption, turns }) => ({
      id,
      caption: caption || name,
      at: picturesApi.address(job.id, id, { turns }),
    }));
  const extras = () => ({
    letterhead,
    details: (Object.keys(DETAILS) as (keyof Details)[]).flatMap((key) =>
      job.details[key] ? [[DETAILS[key], job.details[key]] as const] : [],
    ),
    cautions: safety ? cautionsFor("print", safety).map((c) => inWords(c.words)) : [],
    stamp: stampOf(state, new Date()),
  });
  const saveHtml = async () => {
    if (!svg.current) return;
    try {
      const [{ pictureOf, dataOf, dataAddress, fontsInside }, { reportHtml }] = await Promise.all([
        import("../board/picture.ts"),
        import("./reportHtml.ts"),
      ]);
      const board = await dataOf(await pictureOf(svg.current, job.title, "", "svg"));
      const inside = await Promise.all(
        photos.map(async ({ caption, at }) => ({ caption, address: await dataAddress(at) })),
      );
      const page = reportHtml(facts, { ...extras(), board, photos: inside, fonts: await fontsInside() });
      saveFile(page, fileName(job.title, "-report.html"), "text/html");
    } catch (error) {
      notice({ text: `The report was not saved: ${(error as Error).message}` });
    }
  };
  const saveMarkdown = async () => {
    const { reportMarkdown } = await import("./reportMarkdown.ts");
    saveFile(reportMarkdown(facts, extras()), fileName(job.title, "-report.md"), "text/markdown");
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 print:hidden">
        <span className="text-faint">Save it as</span>
        <button type="button" disabled={!isReady} className={BUTTON} onClick={saveHtml}>
          One HTML file
        </button>
        <button type="button" disabled={!isReady} className={BUTTON} onClick={saveMarkdown}>
          Markdown
        </button>
        <button
          type="button"
          className={BUTTON}
          onClick={() => saveFile(caseOf(state), fileName(job.title, ".json"), "application/json")}
        >
          Case file
        </button>
      </div>
      {letterhead.head !== "" && (
        <p dir="auto" data-letterhead className="order-first whitespace-pre-line">
          {letterhead.head}
        </p>
      )}
      <section>
        <h2 className="text-[13pt] font-bold">Complaint</h2>
        <p dir="auto" className="break-words whitespace-pre-line">
          {facts.complaint || "None was written down."}
        </p>
      </section>
      <section className="break-inside-avoid" aria-label="What was found">
        <h2 className="text-[13pt] font-bold">{facts.outcome}</h2>
        <p dir="auto" className="break-words whitespace-pre-line">
          {facts.finding || "Nothing was written down yet."}
        </p>
        {facts.reasons.length > 0 && (
          <ul className="list-disc pl-5 text-[10.5pt]">
            {facts.reasons.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
      </section>
      <SheetBoard drawn={drawn} width={width} withReadings taken={before} highest={250} svg={svg} />
      {facts.replaced.length > 0 && (
        <section className="break-inside-avoid">
          <h2 className="text-[13pt] font-bold">Replaced</h2>
          {facts.replaced.map((line) => (
            <p key={line}>{line}</p>
          ))}
        </section>
      )}
      {(bench.work || job.closing) && (
        <section className="break-inside-avoid" aria-busy={!isReady}>
          <h2 className="text-[13pt] font-bold">{isReady ? facts.proofTitle : "Proof"}</h2>
          <p>{isReady ? facts.proofWords : "Working it out …"}</p>
          {facts.proof.length > 0 && (
            <SheetTable
              label="Proof"
              columns={["Where", "Read", "Healthy", ""]}
              rows={facts.proof.map((p) => ({
                key: `${p.where} ${p.read}`,
                cells: [p.where, p.read, p.healthy, p.says],
              }))}
            />
          )}
          {facts.untested.length > 0 && (
            <p className="mt-1 text-[10.5pt]">Not shown by these readings: {facts.untested.join("; ")}.</p>
          )}
        </section>
      )}
      {photos.length > 0 && (
        <div className="flex flex-wrap gap-3">
          {photos.map((p) => (
            <figure key={p.id} className="max-w-[48%] break-inside-avoid">
              <img src={p.at} alt={p.caption} className="max-h-40 object-contain" />
              <figcaption dir="auto" className="text-[9.5pt] break-words">
                {p.caption}
              </figcaption>
            </figure>
          ))}
        </div>
      )}
      <Cautions place="print" className="break-inside-avoid text-[9.5pt]" />
      {facts.who !== "" && <p>{facts.who}</p>}
      {letterhead.foot !== "" && (
        <p dir="auto" className="text-[9pt] whitespace-pre-line">
          {letterhead.foot}
        </p>
      )}
    </>
  );
}
