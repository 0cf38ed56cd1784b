import { parseQuantity } from "@hound/core/units";
import type { Comparison } from "@hound/core/whatif";
import { TableHead } from "../app/TableHead.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { shown } from "../words/quantities.ts";

interface Guess {
  readonly typed: string;
  readonly isRevealed: boolean;
}

/** A guess within this share of what it is, or within one limit, is right. */
const NEAR = 0.1;

/** Predict first: what would each point read with the faults? Guessed before it is shown, and counted. */
export function GuessTab({ comparison }: { comparison: Comparison }) {
  const { state } = useDesk();
  const typed = useKept<Readonly<Record<string, Guess>>>(`guesses ${state.job.id}`, {});
  const guesses = typed.value;
  const nodes = comparison.nodes.filter(
    (n) => !n.name.includes(".") && !(n.volts.healthy === 0 && n.volts.whatif === 0),
  );
  const put = (name: string, guess: Guess) => typed.set({ ...guesses, [name]: guess });
  const told = nodes.filter((n) => guesses[n.name]?.isRevealed);
  const right = told.filter((n) => judge(n, guesses[n.name].typed).isRight).length;
  return (
    <div className="flex flex-col gap-2">
      <p className="text-lg">
        {told.length === 0 ? (
          "What would each point read? Type your guess, Enter shows it. The board shows the healthy circuit meanwhile."
        ) : (
          <strong>
            {right} of {told.length} right
          </strong>
        )}
      </p>
      <div className="rounded-lg border border-rule bg-sheet">
        <table className="w-full" aria-label="Predict first">
          <TableHead columns={["node", "healthy", "your guess", "with it"]} />
          <tbody>
            {nodes.map((node) => {
              const { name, volts } = node;
              const guess = guesses[name] ?? { typed: "", isRevealed: false };
              const verdict = guess.isRevealed ? judge(node, guess.typed) : null;
              return (
                <tr key={name} className="border-t border-rule text-right">
                  <th scope="row" className="px-3 py-1.5 text-left">
                    {name}
                  </th>
                  <td className="px-2 py-1.5 whitespace-nowrap text-faint">{shown(volts.healthy, "V")}</td>
                  <td className="px-2 py-1.5">
                    <input
                      aria-label={`Guess for ${name}`}
                      value={guess.typed}
                      readOnly={guess.isRevealed}
                      onChange={(e) => put(name, { ...guess, typed: e.target.value })}
                      onKeyDown={(e) => {
                        if (e.key !== "Enter" || voltsIn(guess.typed) === null) return;
                        e.preventDefault();
                        put(name, { ...guess, isRevealed: true });
                      }}
                      className="w-24 rounded border border-rule bg-paper px-2 py-1 text-right"
                    />
                  </td>
                  <td className="px-2 py-1.5 whitespace-nowrap">
                    {verdict ? (
                      <>
                        <strong>{Number.isNaN(volts.whatif) ? "floats" : shown(volts.whatif, "V")}</strong>{" "}
                        <span className={verdict.isRight ? "text-suspect" : "text-wrong"}>{verdict.words}</span>
                      </>
                    ) : (
                      <button
                        type="button"
                        disabled={voltsIn(guess.typed) === null}
                        onClick={() => put(name, { ...guess, isRevealed: true })}
                        className="rounded border border-rule px-2 py-1 enabled:hover:bg-band disabled:opacity-40"
                      >
                        show
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {told.length > 0 && (
        <button
          type="button"
          className="self-start rounded-lg border border-rule px-3 py-1"
          onClick={() => typed.forget()}
        >
          Start again
        </button>
      )}
    </div>
  );
}

function voltsIn(text: string): number | null {
  const read = parseQuantity(text);
  return read.kind === "quantity" && (read.unit === null || read.unit === "V") ? read.value : null;
}

/** Right where it is near; half right where at least the direction is. */
function judge(
  { volts, limits }: Comparison["nodes"][number],
  typed: string,
): { readonly isRight: boolean; readonly words: string } {
  const guess = voltsIn(typed) ?? Number.NaN;
  const one = limits === 0 ? 0 : Math.abs((volts.whatif - volts.healthy) / limits);
  const off = Math.abs(guess - volts.whatif);
  if (off <= Math.max(NEAR * Math.abs(volts.whatif), one)) return { isRight: true, words: "right" };
  const isSame = Math.sign(guess - volts.healthy) === Math.sign(volts.whatif - volts.healthy);
  return { isRight: false, words: isSame ? "right direction, not as far" : "the other way" };
}
