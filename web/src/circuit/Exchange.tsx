import { lostInPartsTable, writeParts, writeReadings, writeTrail } from "@hound/core/notation";
import { Download, FileUp } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { Suspense, useState } from "react";
import { leaveHand } from "../app/focus.ts";
import { lazyNamed } from "../app/lazyNamed.ts";
import { useNotice } from "../app/Notice.tsx";
import { newId } from "../app/newId.ts";
import { fileName, saveFile } from "../app/saveFile.ts";
import { useCaseOf } from "../desk/caseOf.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { useRun } from "../desk/OutboxContext.tsx";
import { fileStamp, stampOf } from "../desk/stamp.ts";
import { useIncoming } from "./useIncoming.tsx";

const EarlierVersions = lazyNamed(() => import("./EarlierVersions.tsx"), "EarlierVersions");

const BUTTON = "flex items-center gap-1.5 rounded-lg px-2.5 py-1.5 hover:bg-band";
const ITEM = "cursor-pointer rounded px-3 py-2 outline-none data-[highlighted]:bg-band data-[disabled]:opacity-40";

/** Circuits and readings in and out, in the open formats. A file dropped anywhere opens the import. */
export function Exchange() {
  const { ask, dialog } = useIncoming();
  const [earlier, setEarlier] = useState(false);
  return (
    <div className="flex gap-1 pb-1">
      <button type="button" className={BUTTON} onClick={ask}>
        <FileUp size={18} aria-hidden /> Import
      </button>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className={BUTTON}>
          <Download size={18} aria-hidden /> Export
        </DropdownMenu.Trigger>
        <DropdownMenu.Content
          align="end"
          onCloseAutoFocus={leaveHand}
          className="z-40 rounded-lg border border-rule bg-sheet p-1 shadow-lg"
        >
          <ExportItems onEarlier={() => setEarlier(true)} />
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      <Suspense>{earlier && <EarlierVersions onClose={() => setEarlier(false)} />}</Suspense>
      {dialog}
    </div>
  );
}

function ExportItems({ onEarlier }: { onEarlier: () => void }) {
  const { state, readings } = useDesk();
  const notice = useNotice();
  const { job, text, trail } = state;
  const { circuit } = trail;
  const caseOf = useCaseOf();
  const run = useRun();
  const keep = () => {
    const name = circuit?.title || job.title;
    run("keepCircuit", { id: newId(), name, notes: job.complaint, trail: text }, `“${name}” into the library`).then(
      () => notice({ text: `“${name}” is in the library` }),
      (error) => notice({ text: `Not kept: ${error.message}` }),
    );
  };
  const stamped = (trail: string) => `# ${stampOf(state, new Date())}\n${trail}`;
  const save = (contents: string, ending: string, type: string, lost: readonly string[] = []) => {
    saveFile(contents, fileName(job.title, `${fileStamp(state, new Date())}${ending}`), type);
    if (lost.length > 0) notice({ text: `Saved. This format cannot hold ${lost.join(", ")}.` });
  };
  return (
    <>
      <DropdownMenu.Item className={ITEM} onSelect={() => save(stamped(text), ".trail", "text/plain")}>
        Trail, as written
      </DropdownMenu.Item>
      <DropdownMenu.Item
        className={ITEM}
        disabled={!circuit}
        onSelect={() => circuit && save(stamped(writeTrail(circuit)), "-parts.trail", "text/plain", ["comments"])}
      >
        Trail, one part a line
      </DropdownMenu.Item>
      <DropdownMenu.Item
        className={ITEM}
        disabled={!circuit}
        onSelect={() => circuit && save(writeParts(circuit), "-parts.csv", "text/csv", lostInPartsTable(circuit))}
      >
        Parts table, CSV
      </DropdownMenu.Item>
      <DropdownMenu.Item
        className={ITEM}
        disabled={readings.length === 0}
        onSelect={() => save(writeReadings(readings.map((r) => r.reading)), "-readings.csv", "text/csv")}
      >
        Readings, CSV
      </DropdownMenu.Item>
      <DropdownMenu.Item className={ITEM} disabled={!circuit} onSelect={() => keep()}>
        Keep in library
      </DropdownMenu.Item>
      <DropdownMenu.Item className={ITEM} onSelect={onEarlier}>
        Earlier versions …
      </DropdownMenu.Item>
      <DropdownMenu.Item className={ITEM} onSelect={() => save(caseOf(state), ".json", "application/json")}>
        Everything, as a case file
      </DropdownMenu.Item>
    </>
  );
}
