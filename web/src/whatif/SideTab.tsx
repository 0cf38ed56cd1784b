import type { Network } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { type Supposed, writeSupposed } from "@hound/core/whatif";
import { X } from "lucide-react";
import type { FormEvent } from "react";
import { CopyTable } from "../app/CopyTable.tsx";
import { Scroll } from "../app/Scroll.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { stampOf } from "../desk/stamp.ts";
import { useKept } from "../desk/useKept.ts";
import { GlowMark } from "../expected/GlowMark.tsx";
import { inWords } from "../words/print.ts";
import { shown } from "../words/quantities.ts";
import { useVariants } from "./useVariants.ts";
import { partsOf, type Variant, type VariantPart, variantTable } from "./variants.ts";

/** Columns beside the circuit as it is, at most: more are not seen at once. */
const MOST = 4;

interface SideTabProps {
  readonly network: Network;
  readonly standing: Configuration;
  readonly supposed: readonly Supposed[];
}

/** Several variants of a circuit beside each other: a part more or less, another value, series against parallel, a lamp out. */
export function SideTab({ network, standing, supposed }: SideTabProps) {
  const { state } = useDesk();
  const { columns, setColumns, titles, variants, variant } = useVariants(network, standing);
  const { value: text, set: setText, forget } = useKept(`column ${state.job.id}`, "");
  const typed = text.trim() === "" ? null : variant(text);
  const now = supposed.map((f) => writeSupposed(f, network)).join("; ");
  const isFull = columns.length >= MOST;
  const add = (words: string) => !columns.includes(words) && setColumns([...columns, words]);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (typed?.kind !== "variant" || isFull) return;
    add(text.trim());
    forget();
  };
  return (
    <div className="flex flex-col gap-3">
      <form onSubmit={submit} className="flex flex-wrap items-center gap-2">
        <input
          value={text}
          onChange={(e) => setText(e.target.value)}
          aria-label="Another column"
          placeholder="R2 now 2k; LA1 out, or a trail"
          autoComplete="off"
          spellCheck={false}
          disabled={isFull}
          className="min-w-0 grow basis-60 rounded-lg border border-field bg-paper px-3 py-2 font-mono"
        />
        <button type="submit" disabled={isFull || typed?.kind !== "variant"} className={BUTTON}>
          Add a column
        </button>
        {now !== "" && !columns.includes(now) && (
          <button type="button" disabled={isFull} className={BUTTON} onClick={() => add(now)}>
            Keep what is supposed
          </button>
        )}
      </form>
      {typed?.kind === "mistake" && <p className="text-wrong">{inWords(typed.why)}</p>}
      <CopyTable tables={() => [variantTable(titles, variants)]} stamp={() => stampOf(state, new Date())} />
      <Scroll label="Variants side by side">
        <table className="w-full border-collapse" aria-label="Variants side by side">
          <thead>
            <tr className="bg-band">
              <th scope="col" className="px-3 py-2 text-left">
                Part
              </th>
              {titles.map((title, n) => (
                <th key={title} scope="col" className="px-2 py-2 text-left align-top">
                  <span className="flex items-start gap-1">
                    <span className="min-w-20 break-words">{inWords(title)}</span>
                    {n > 0 && (
                      <button
                        type="button"
                        aria-label={`Take out the column ${title}`}
                        className="rounded p-0.5 text-faint hover:text-wrong"
                        onClick={() => setColumns(columns.filter((c) => c !== title))}
                      >
                        <X size={16} aria-hidden />
                      </button>
                    )}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr className="border-t border-rule">
              <th scope="row" className="px-3 py-1.5 text-left">
                All supplies
              </th>
              {variants.map((v, n) => (
                <td key={titles[n]} className="px-2 py-1.5 font-bold">
                  {v.kind === "variant" ? (
                    <span className="whitespace-nowrap">
                      {shown(v.total.amps, "A", 3)}
                      <br />
                      {shown(v.total.watts, "W", 3)}
                    </span>
                  ) : (
                    <span className="text-wrong">{inWords(v.why)}</span>
                  )}
                </td>
              ))}
            </tr>
            {partsOf(variants).map((name) => (
              <tr key={name} className="border-t border-rule">
                <th scope="row" className="px-3 py-1.5 text-left">
                  {name}
                </th>
                {variants.map((v, n) => (
                  <td key={titles[n]} className="px-2 py-1.5">
                    <Cell variant={v.kind === "variant" ? v : null} name={name} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </div>
  );
}

const BUTTON = "rounded-lg border border-rule px-3 py-2 hover:bg-band disabled:opacity-40";

function Cell({ variant, name }: { variant: Variant | null; name: string }) {
  const part: VariantPart | undefined = variant?.parts.get(name);
  if (!part) return <span className="text-faint">–</span>;
  return (
    <span className="tabular-nums whitespace-nowrap">
      <span className="block">{shown(part.volts, "V", 3)}</span>
      <span className="block">{shown(part.amps, "A", 3)}</span>
      <span className="block">{shown(part.watts, "W", 3)}</span>
      {part.glow && <GlowMark glow={part.glow} />}
    </span>
  );
}
