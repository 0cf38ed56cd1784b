import { useMutation, useQueryClient } from "@tanstack/react-query";
import { FolderDown, FolderUp } from "lucide-react";
import { useRef, useState } from "react";
import { z } from "zod";
import { upload } from "../api/client.ts";
import { useWork } from "./useWork.ts";
import { WorkBar } from "./WorkBar.tsx";

const Brought = z.strictObject({ jobs: z.number(), circuits: z.number() });
const BUTTON = "flex items-center gap-2 rounded-lg border border-rule px-4 py-2.5 hover:bg-band";

/** The whole workshop as a folder of open files, to be taken along, and brought into an empty one. */
export function Folder() {
  const input = useRef<HTMLInputElement>(null);
  const packing = useWork();
  const bringing = useWork();
  const [sent, setSent] = useState(0);
  const queries = useQueryClient();
  const bring = useMutation({
    mutationFn: (file: File) =>
      bringing.during((id, signal) => upload(`/workshop?work=${id}`, Brought, file, signal, setSent)),
    onSettled: () => queries.invalidateQueries(),
  });
  return (
    <section aria-label="Open files" className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">Open files</h2>
      <p>
        Cases, trails, tables (CSV), pictures and the timeline of every job, in a folder that any program can read. It
        can be brought into an empty workshop.
      </p>
      <div className="flex flex-wrap gap-3">
        <a href={`/api/workshop.zip?work=${packing.id}`} download onClick={packing.watch} className={BUTTON}>
          <FolderDown size={20} aria-hidden /> Save the workshop as a folder
        </a>
        <button type="button" className={BUTTON} disabled={bring.isPending} onClick={() => input.current?.click()}>
          <FolderUp size={20} aria-hidden /> {bring.isPending ? "Bringing it in …" : "Bring a folder in …"}
        </button>
        <input
          ref={input}
          type="file"
          accept=".zip"
          aria-label="Folder of a workshop, packed"
          className="hidden"
          onChange={(e) => {
            const file = e.target.files?.[0];
            setSent(0);
            if (file) bring.mutate(file);
            e.target.value = "";
          }}
        />
      </div>
      <WorkBar work={packing} words="Packing" of="jobs" />
      <WorkBar work={bringing} words="Bringing it in" of="jobs" sent={sent} />
      {bring.error && <p role="alert">{bring.error.message}.</p>}
      {bring.data && (
        <p role="status">
          {bring.data.jobs} jobs and {bring.data.circuits} circuits are here now.
        </p>
      )}
    </section>
  );
}
