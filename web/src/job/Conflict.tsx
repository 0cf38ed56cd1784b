import { useDesk } from "../desk/DeskContext.tsx";

/** Two tabs, or two people: both versions of the trail side by side, and a choice. Nothing is thrown away unasked. */
export function Conflict() {
  const { desk, state } = useDesk();
  if (!state.conflict) return null;
  const versions = [
    { keep: "mine", title: "Typed here", text: state.text, label: "Keep what is typed here" },
    { keep: "theirs", title: "Stored meanwhile", text: state.conflict.circuit.trail, label: "Take what is stored" },
  ] as const;
  return (
    <section
      role="alert"
      aria-label="Two versions of the circuit"
      className="border-b-2 border-doubt bg-copper-wash px-4 py-3"
    >
      <p className="font-bold">
        This circuit was changed elsewhere while you typed. Which one holds? The other stays among the stored revisions.
      </p>
      <div className="mt-2 grid gap-3 md:grid-cols-2">
        {versions.map(({ keep, title, text, label }) => (
          <div key={keep} className="min-w-0">
            <h2 className="text-faint">{title}</h2>
            <pre
              tabIndex={0}
              className="max-h-36 overflow-auto rounded border border-rule bg-sheet p-2 font-mono text-sm"
            >
              {text}
            </pre>
            <button
              type="button"
              className="mt-2 rounded-lg border border-doubt bg-sheet px-3 py-1.5 font-bold"
              onClick={() => desk.resolve(keep)}
            >
              {label}
            </button>
          </div>
        ))}
      </div>
    </section>
  );
}
