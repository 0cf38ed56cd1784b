import { useDesk } from "../desk/DeskContext.tsx";

const WORDS = {
  reading: "A reading is not what was stored",
  circuit: "The newest version of the circuit is not what was stored; the last whole one is shown",
  fields: "Title, complaint, finding, state or settings are not what was stored; look them through",
} as const;

/** Rows that a bad disk changed: what is left of them is shown, and the rest of the job works. */
export function DamagedRows() {
  const { desk, state } = useDesk();
  const { damaged, circuit } = state.job;
  if (damaged.length === 0) return null;
  return (
    <section aria-label="Damaged on the disk" role="alert" className="shrink-0 bg-wrong-wash px-4 py-2">
      <p className="font-bold">
        The disk of the server changed something of this job. A backup may have it whole: Workshop, Backup.
      </p>
      <ul>
        {damaged.map(({ what, id, text }) => (
          <li key={`${what} ${id}`} className="flex flex-wrap items-center gap-2 border-t border-rule py-1.5">
            <details className="min-w-0 grow">
              <summary>{WORDS[what]}</summary>
              <pre tabIndex={0} className="max-h-32 overflow-auto rounded bg-sheet p-2 text-sm whitespace-pre-wrap">
                {text}
              </pre>
            </details>
            <button
              type="button"
              className="shrink-0 rounded border border-wrong px-3 py-1 hover:bg-band"
              onClick={() => {
                if (what === "reading") desk.dropDamaged(id);
                else if (what === "fields") desk.changeJob({});
                else desk.storeAgain(circuit.trail);
              }}
            >
              {what === "reading" ? "Delete it" : "Keep it as shown"}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
