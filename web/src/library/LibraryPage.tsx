import type { LibrarySummary } from "@hound/core/record";
import { useState } from "react";
import { Link } from "react-router";
import { libraryApi } from "../api/library.ts";
import { Loading } from "../app/Loading.tsx";
import { MoreButton, PAGE } from "../app/MoreButton.tsx";
import { SearchField } from "../app/SearchField.tsx";
import { useRun } from "../desk/OutboxContext.tsx";
import { useSeen } from "../desk/useSeen.ts";
import { TopBar } from "../frame/TopBar.tsx";

/** Circuits kept by name, to start jobs from. */
export function LibraryPage() {
  const [search, setSearch] = useState("");
  const [deleted, setDeleted] = useState(false);
  const [limit, setLimit] = useState(PAGE);
  const { data, error, isPending } = useSeen(
    ["library", search, deleted, limit],
    () => libraryApi.list(search, deleted, limit),
    { keepsLast: true },
  );
  return (
    <div className="mx-auto max-w-4xl px-4 pb-24">
      <TopBar title="Library" />
      <main>
        <SearchField label="Search the library" hint="Search name and notes" value={search} onChange={setSearch} />
        <div className="mt-6">
          {error && (
            <p role="alert" className="rounded-lg border border-wrong bg-wrong-wash p-4">
              {error.message}. The list below may be old.
            </p>
          )}
          {isPending && !error && <Loading what="the library" />}
          {data && data.circuits.length > 0 && (
            <ul className="flex flex-col gap-2">
              {data.circuits.map((circuit) => (
                <Row key={circuit.id} circuit={circuit} />
              ))}
            </ul>
          )}
          {data && <MoreButton shown={data.circuits.length} total={data.total} onMore={() => setLimit(limit + PAGE)} />}
          {data && data.circuits.length === 0 && <Nothing deleted={deleted} searched={search !== ""} />}
          <p className="mt-6">
            <button type="button" className="text-faint underline" onClick={() => setDeleted(!deleted)}>
              {deleted ? "Back to the library" : "Deleted circuits"}
            </button>
          </p>
        </div>
      </main>
    </div>
  );
}

function Row({ circuit }: { circuit: LibrarySummary }) {
  const run = useRun();
  const facts = [
    `${circuit.partCount} parts`,
    circuit.jobCount === 0 ? "no job yet" : circuit.jobCount === 1 ? "1 job" : `${circuit.jobCount} jobs`,
    ...(circuit.revision > 0 ? [`version ${circuit.revision + 1}`] : []),
  ];
  return (
    <li className="flex items-center gap-3 rounded-lg border border-rule bg-sheet px-4 py-3">
      <div className="min-w-0 grow">
        {circuit.deletedAt === null ? (
          <Link to={`/library/${circuit.id}`} className="text-lg font-bold hover:underline">
            {circuit.name}
          </Link>
        ) : (
          <span className="text-lg font-bold">{circuit.name}</span>
        )}
        {circuit.notes && <p className="truncate text-faint">{circuit.notes}</p>}
      </div>
      <span className="text-right text-sm text-faint">{facts.join(" · ")}</span>
      {circuit.deletedAt !== null && (
        <button
          type="button"
          className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
          onClick={() =>
            run("deleteCircuit", { id: circuit.id, isDeleted: false }, `“${circuit.name}” restored`).catch(() => {})
          }
        >
          Restore
        </button>
      )}
    </li>
  );
}

function Nothing({ deleted, searched }: { deleted: boolean; searched: boolean }) {
  if (deleted || searched)
    return <p className="py-8 text-lg text-faint">{deleted ? "Nothing is deleted." : "No circuit matches."}</p>;
  return (
    <div className="rounded-xl border border-dashed border-rule p-8 text-center">
      <p className="text-xl font-bold">Nothing kept yet</p>
      <p className="mt-2 text-faint">
        In a job, stage Circuit, “Keep in library” puts the circuit here. The next job with the same equipment starts
        from it.
      </p>
    </div>
  );
}
