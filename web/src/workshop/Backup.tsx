import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { format } from "date-fns";
import { HardDriveDownload, HardDriveUpload } from "lucide-react";
import { useRef, useState } from "react";
import { copiesApi } from "../api/copies.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { printFixed } from "../words/print.ts";
import { useWork } from "./useWork.ts";
import { WorkBar } from "./WorkBar.tsx";

/** What is to be put back. */
type Source = { readonly name: string; readonly file: File | null };

/** Copies of all there is: to be saved elsewhere, and put back. */
export function Backup() {
  const { data, error } = useQuery({ queryKey: ["copies"], queryFn: copiesApi.list });
  const [source, setSource] = useState<Source | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const copying = useWork();
  return (
    <section aria-label="Backup" className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">Backup</h2>
      <p>
        All jobs, readings and circuits in one file. A copy is also made every day beside the database, the last
        fourteen are kept.
      </p>
      <div className="flex flex-wrap gap-3">
        <a
          href={`/api/backup?work=${copying.id}`}
          download
          onClick={copying.watch}
          className="flex items-center gap-2 rounded-lg border border-rule px-4 py-2.5 hover:bg-band"
        >
          <HardDriveDownload size={20} aria-hidden /> Save a backup
        </a>
        <button
          type="button"
          onClick={() => input.current?.click()}
          className="flex items-center gap-2 rounded-lg border border-rule px-4 py-2.5 hover:bg-band"
        >
          <HardDriveUpload size={20} aria-hidden /> Put a backup back …
        </button>
        <input
          ref={input}
          type="file"
          aria-label="Backup file"
          className="hidden"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) setSource({ name: file.name, file });
            e.target.value = "";
          }}
        />
      </div>
      <WorkBar work={copying} words="Copying" />
      {error && <p role="alert">{error.message}.</p>}
      {data && data.apart > 0 && (
        <p role="status" className="border-l-4 border-wrong pl-3">
          {data.apart === 1 ? "A row that the disk damaged is" : `${data.apart} rows that the disk damaged are`} set
          apart: in the table “apart” of the database, and of every backup. Look at the disk.
        </p>
      )}
      {data && data.copies.length > 0 && (
        <details>
          <summary className="py-1">Copies on the server ({data.copies.length})</summary>
          <ul>
            {data.copies.map(({ name, at, bytes }) => (
              <li key={name} className="flex flex-wrap items-center gap-3 border-t border-rule py-1.5">
                <span className="min-w-0 grow break-all">
                  {format(new Date(at), "d MMM yyyy, HH:mm")} <span className="text-faint">{name}</span>
                </span>
                <span className="text-faint tabular-nums">
                  {printFixed(bytes / 1e6, 1)}
                  {"\u00a0"}MB
                </span>
                <button
                  type="button"
                  onClick={() => setSource({ name, file: null })}
                  className="rounded-lg border border-rule px-3 py-1 hover:bg-band"
                >
                  Put back …
                </button>
              </li>
            ))}
          </ul>
        </details>
      )}
      {source && <RestoreDialog source={source} onClose={() => setSource(null)} />}
    </section>
  );
}

function RestoreDialog({ source, onClose }: { source: Source; onClose: () => void }) {
  const queries = useQueryClient();
  const work = useWork();
  const [sent, setSent] = useState(0);
  const { file } = source;
  const restore = useMutation({
    mutationFn: () =>
      file ? work.during((_, signal) => copiesApi.upload(file, signal, setSent)) : copiesApi.restore(source.name),
    onSuccess: () => queries.invalidateQueries(),
  });
  const { data } = restore;
  return (
    <DialogFrame open onOpenChange={(open) => !open && onClose()} title="Put a backup back">
      {data ? (
        <p className="mt-3" role="status">
          Put back: {data.counts.jobs} jobs, {data.counts.readings} readings, {data.counts.circuits} circuits. What was
          there before is kept as <span className="break-all">{data.kept}</span>.
        </p>
      ) : (
        <p className="mt-3">
          Everything that is there now, for everybody who uses this server, gives way to what{" "}
          <strong className="break-all">{source.name}</strong> holds. What is there now is kept as a copy, and can be
          put back in the same way.
        </p>
      )}
      {sent < 1 && <WorkBar work={work} words="Putting it back" sent={sent} />}
      {restore.error && (
        <p role="alert" className="mt-3 text-wrong">
          {restore.error.message}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-3">
        <DialogClose>{data ? "Close" : "Leave all as it is"}</DialogClose>
        {!data && (
          <button
            type="button"
            disabled={restore.isPending}
            onClick={() => restore.mutate()}
            className="rounded-lg bg-copper px-4 py-2.5 font-bold text-sheet"
          >
            {restore.isPending ? "Putting it back …" : "Put it back"}
          </button>
        )}
      </div>
    </DialogFrame>
  );
}
