import { TriangleAlert } from "lucide-react";
import { useOddities } from "../board/useFigures.ts";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";

/** What is odd about the circuit as drawn, and what is still unknown in it: notes, not obstacles. */
export function Oddities({ drawn }: { drawn: Drawn }) {
  const { select, hover } = useDesk();
  const found = useOddities(drawn, true);
  if (found.length === 0) return null;
  return (
    <section aria-label="What is odd" className="shrink-0 rounded-lg border border-rule bg-sheet">
      <h2 className="px-3 pt-2 font-bold">Worth a second look</h2>
      <ul tabIndex={0} aria-label="Worth a second look" className="max-h-44 overflow-auto pb-1">
        {found.map(({ parts, message }) => {
          const at = { kind: "branch", name: parts[0] } as const;
          return (
            <li key={message}>
              <button
                type="button"
                onClick={() => select(at)}
                onPointerEnter={() => hover(at)}
                onPointerLeave={() => hover(null)}
                className="flex w-full items-start gap-2 px-3 py-1.5 text-left hover:bg-band"
              >
                <TriangleAlert size={18} className="mt-0.5 shrink-0 text-doubt" aria-hidden />
                <span>{message.charAt(0).toUpperCase() + message.slice(1)}.</span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
