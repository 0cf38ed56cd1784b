import { JOB_STATES, type LibraryCircuit, TEXT_LIMITS } from "@hound/core/record";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { libraryApi } from "../api/library.ts";
import { Loading } from "../app/Loading.tsx";
import { NoticeArea, NoticeBar, useNotice } from "../app/Notice.tsx";
import { Trouble } from "../app/PageError.tsx";
import { Versions } from "../circuit/Versions.tsx";
import { useRun } from "../desk/OutboxContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { useSeen } from "../desk/useSeen.ts";
import { TopBar } from "../frame/TopBar.tsx";
import { NewJobDialog } from "../jobs/NewJobDialog.tsx";

/** One circuit of the library: what it is, its versions, the jobs that used it. */
export function CircuitPage() {
  const { id = "" } = useParams();
  const { data, error } = useSeen(["library", id], () => libraryApi.open(id));
  if (error && !data) return <Trouble title="This circuit could not be opened" detail={error.message} />;
  if (!data) return <Loading what="the circuit" />;
  return (
    <NoticeArea>
      <Kept key={data.revision} circuit={data} />
      <NoticeBar className="fixed inset-x-0 bottom-0 z-40" />
    </NoticeArea>
  );
}

function Kept({ circuit }: { circuit: LibraryCircuit }) {
  const { id, revision } = circuit;
  const typed = useKept(`library ${id}`, { name: circuit.name, notes: circuit.notes });
  const { name, notes } = typed.value;
  const [starting, setStarting] = useState(false);
  const run = useRun();
  const navigate = useNavigate();
  const notice = useNotice();
  const tell = (error: Error) => notice({ text: `Not kept: ${error.message}. What you typed is still here.` });
  const change = (fields: { name?: string; notes?: string; trail?: string }) => {
    run("changeCircuit", { id, revision, fields }, `Changes of “${name}”`).then(() => typed.forget(typed.value), tell);
  };
  const remove = () => {
    run("deleteCircuit", { id, isDeleted: true }, `“${circuit.name}” deleted`).then(() => navigate("/library"), tell);
  };
  const isChanged = name.trim() !== circuit.name || notes !== circuit.notes;
  return (
    <div className="mx-auto max-w-4xl px-4 pb-24">
      <TopBar title={circuit.name} />
      <main className="flex flex-col gap-5">
        <form
          className="flex flex-col gap-3 rounded-lg border border-rule bg-sheet p-4"
          onSubmit={(e) => {
            e.preventDefault();
            change({ name, notes });
          }}
        >
          <label className="flex flex-col gap-1">
            Name
            <input
              value={name}
              required
              maxLength={TEXT_LIMITS.title}
              onChange={(e) => typed.set({ name: e.target.value, notes })}
              className="rounded-lg border border-rule bg-paper px-3 py-2 text-xl font-bold"
            />
          </label>
          <label className="flex flex-col gap-1">
            Notes
            <textarea
              value={notes}
              rows={3}
              maxLength={TEXT_LIMITS.complaint}
              onChange={(e) => typed.set({ name, notes: e.target.value })}
              className="rounded-lg border border-rule bg-paper px-3 py-2"
            />
          </label>
          <div className="flex flex-wrap gap-3">
            <button
              type="button"
              onClick={() => setStarting(true)}
              className="rounded-lg bg-copper px-4 py-2 font-bold text-sheet"
            >
              Start a job from it
            </button>
            {isChanged && (
              <button type="submit" className="rounded-lg border border-copper px-4 py-2 font-bold">
                Keep the changes
              </button>
            )}
            <span className="grow" />
            <button
              type="button"
              onClick={() => remove()}
              className="rounded-lg border border-rule px-4 py-2 hover:bg-band"
            >
              Delete
            </button>
          </div>
        </form>
        <section aria-label="Jobs" className="rounded-lg border border-rule bg-sheet p-4">
          <h2 className="text-lg font-bold">Jobs that started from it</h2>
          {circuit.jobs.length === 0 && <p className="text-faint">None yet.</p>}
          <ul>
            {circuit.jobs.map((job) => (
              <li key={job.id} className="flex justify-between gap-3 border-t border-rule py-1.5 first:border-0">
                <Link to={`/jobs/${job.id}/circuit`} className="hover:underline">
                  {job.title}
                </Link>
                <span className="text-faint">{JOB_STATES[job.state]}</span>
              </li>
            ))}
          </ul>
        </section>
        <section aria-label="Versions" className="rounded-lg border border-rule bg-sheet p-4">
          <h2 className="text-lg font-bold">Versions</h2>
          <Versions revisions={circuit.revisions} onRestore={(trail) => change({ trail })} />
        </section>
      </main>
      <NewJobDialog
        open={starting}
        onOpenChange={setStarting}
        from={{ libraryId: id, trail: circuit.trail, title: circuit.name }}
      />
    </div>
  );
}
