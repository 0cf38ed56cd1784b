import { designatorOf, rowOf } from "@hound/core/circuit";
import { type Act, freedEnd, type Hunt, looksOf, type Touch } from "@hound/core/practice";
import { useDesk, useSelection } from "../desk/DeskContext.tsx";
import { clockWords, touchWords } from "../words/practice.ts";

export type Lead = "red" | "black";

const BUTTON =
  "min-h-10 rounded-lg border border-rule bg-sheet px-3 py-1 text-left hover:bg-band disabled:opacity-50 disabled:hover:bg-sheet";

interface LeadsProps {
  readonly hunt: Hunt;
  /** The lead that goes to what is picked next. */
  readonly lead: Lead;
  readonly onLead: (lead: Lead) => void;
  readonly act: (act: Act) => void;
}

/** Both leads: where they are, which goes to what is picked next, and the places that are on no board. */
export function LeadsInHand({ hunt, lead, onLead, act }: LeadsProps) {
  const { now } = hunt;
  const { drawn } = useDesk();
  const nodes = drawn?.network.nodes.filter((n) => !n.includes(".")) ?? [];
  const places: readonly Touch[] = [...nodes, ...now.freed.map((f) => freedEnd(f.part))];
  return (
    <div className="grid shrink-0 gap-2 min-[480px]:grid-cols-2">
      {(["red", "black"] as const).map((which) => {
        const name = which === "red" ? "Red" : "Black";
        return (
          <div
            key={which}
            className={`flex items-center gap-2 rounded-xl border-2 px-2 py-1 ${which === lead ? "border-copper bg-copper-wash" : "border-rule"}`}
          >
            <button
              type="button"
              aria-pressed={which === lead}
              aria-label={`${name} goes to what is picked next`}
              className="flex min-h-9 shrink-0 items-center gap-2 text-bench"
              onClick={() => onLead(which)}
            >
              <span aria-hidden className={`lead-${which} size-6 rounded-full border-2`} />
              {name}
            </button>
            <select
              aria-label={`${name} lead to`}
              value={now[which] ?? ""}
              className="min-w-0 grow rounded-lg border border-rule bg-sheet px-2 py-1.5 text-bench font-bold"
              onChange={(e) => act({ act: "touch", lead: which, at: e.target.value === "" ? null : e.target.value })}
            >
              <option value="">in the air</option>
              {places.map((at) => (
                <option key={at} value={at}>
                  {touchWords(at)}
                </option>
              ))}
            </select>
          </div>
        );
      })}
    </div>
  );
}

/** What can be done with the part that is picked on the board, with what it costs. */
export function PartAtHand({ hunt, lead, act }: Pick<LeadsProps, "hunt" | "lead" | "act">) {
  const { drawn } = useDesk();
  const { selection } = useSelection();
  const name = selection?.kind === "branch" ? selection.name : null;
  const part = drawn?.circuit.parts.find((p) => name && p.designator === designatorOf(name));
  if (!part || name === null)
    return (
      <p className="text-faint">
        Pick a part on the board to look at it, open it, swap it; a node to put a lead there.
      </p>
    );
  const { now, costs } = hunt;
  const { designator } = part;
  const row = rowOf(part.kind);
  const freed = now.freed.find((f) => designatorOf(f.part) === designator);
  const canSee = looksOf(part.kind).length > 0;
  return (
    <section aria-label={`With ${designator}`} className="flex shrink-0 flex-col gap-1.5">
      <h3 className="text-bench font-bold">
        {designator}
        <span className="font-normal text-faint">
          {now.swapped.includes(designator) && ", a known-good one"}
          {freed && `, its lead off ${freed.at}`}
        </span>
      </h3>
      <div className="flex flex-wrap gap-2">
        {canSee && (
          <button type="button" className={BUTTON} onClick={() => act({ act: "look", part: designator })}>
            Look, {clockWords(costs.look)}
          </button>
        )}
        {freed ? (
          <>
            <button
              type="button"
              className={BUTTON}
              onClick={() => act({ act: "touch", lead, at: freedEnd(freed.part) })}
            >
              {lead === "red" ? "Red" : "Black"} to its free end
            </button>
            <button type="button" className={BUTTON} onClick={() => act({ act: "join", part: freed.part })}>
              Put its lead back
            </button>
          </>
        ) : (
          <button type="button" className={BUTTON} onClick={() => act({ act: "free", part: name })}>
            Take a lead off, {clockWords(costs.free)}
          </button>
        )}
        {part.kind === "switch" && (
          <button
            type="button"
            className={BUTTON}
            onClick={() => {
              const stands = now.levers[designator] ?? part.position;
              act({ act: "lever", part: designator, position: stands === "open" ? "closed" : "open" });
            }}
          >
            {(now.levers[designator] ?? part.position) === "open" ? "Close it" : "Open it"}, {clockWords(costs.lever)}
          </button>
        )}
        {!row.isFixed && (
          <button type="button" className={BUTTON} onClick={() => act({ act: "swap", part: designator })}>
            Put a known-good one in, {clockWords(costs.swap)}
          </button>
        )}
        {row.role === "consumer" && canSee && (
          <button type="button" className={BUTTON} onClick={() => act({ act: "alone", part: designator })}>
            Try it alone, {clockWords(costs.alone)}
          </button>
        )}
      </div>
    </section>
  );
}
