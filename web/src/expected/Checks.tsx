import type { Check } from "@hound/core/reduce";
import { CircleCheck, CircleX } from "lucide-react";
import { print } from "../words/print.ts";
import type { Expected } from "./useExpected.ts";

const GROUPS: Readonly<Record<Check["kind"], string>> = {
  loop: "Round every loop the voltages cancel",
  junction: "At every junction what flows in flows out",
  power: "What is delivered is taken in",
  series: "Series is above its largest",
  parallel: "Parallel is below its smallest",
};

/** Sums that have to come out, each with what is left over and what rounding explains of it. */
export function Checks({ expected }: { expected: Expected }) {
  const { checks, onPaper } = expected;
  const wrong = checks.filter((c) => !c.holds);
  const largest = checks.reduce<Check | null>(
    (worst, c) => (isBound(c) || (worst && share(worst) >= share(c)) ? worst : c),
    null,
  );
  return (
    <div className="flex flex-col gap-4">
      <p
        className={`rounded-lg border px-4 py-3 text-lg ${wrong.length > 0 ? "border-wrong bg-wrong-wash" : "border-rule bg-sheet"}`}
      >
        {wrong.length === 0
          ? `All ${checks.length} checks hold.`
          : `${wrong.length} of ${checks.length} checks do not come out.`}
        {onPaper && largest && largest.residual !== 0 && (
          <>
            {" "}
            Carrying three figures leaves most over here: <b>{largest.title}</b>,{" "}
            {print(largest.residual, largest.unit, { digits: 2 })}
            {largest.holds
              ? ", no more than rounding explains."
              : ": more than rounding of its terms alone explains, as errors were carried on."}
          </>
        )}
      </p>
      {(Object.keys(GROUPS) as Check["kind"][]).map((kind) => {
        const own = checks.filter((c) => c.kind === kind);
        if (own.length === 0) return null;
        return (
          <section key={kind} aria-label={GROUPS[kind]}>
            <h2 className="font-bold">{GROUPS[kind]}</h2>
            <ul className="mt-1 flex flex-col gap-1.5">
              {own.map((check) => (
                <Line key={check.title} check={check} />
              ))}
            </ul>
          </section>
        );
      })}
    </div>
  );
}

const isBound = (check: Check) => check.kind === "series" || check.kind === "parallel";

function share(check: Check): number {
  const size = check.terms.reduce((s, t) => s + Math.abs(t.value), 0);
  return size > 0 ? Math.abs(check.residual) / size : 0;
}

function Line({ check }: { check: Check }) {
  const { title, terms, unit, residual, limit, holds } = check;
  const bound = isBound(check);
  return (
    <li className="flex gap-2.5 rounded-lg border border-rule bg-sheet px-3 py-2">
      {holds ? (
        <CircleCheck size={20} className="mt-0.5 shrink-0 text-low" aria-label="holds" />
      ) : (
        <CircleX size={20} className="mt-0.5 shrink-0 text-wrong" aria-label="does not come out" />
      )}
      <div className="min-w-0">
        <p>{title}</p>
        {!bound && (
          <p className="text-sm text-faint">
            {terms
              .map((t) => `${t.name} ${print(Math.abs(t.value) < 1e-12 ? 0 : t.value, unit, { digits: 4 })}`)
              .join(", ")}
          </p>
        )}
        <p className="text-sm">
          {bound
            ? `by ${print(Math.abs(residual), unit, { digits: 3 })}`
            : `left over ${negligible(check) ? `nothing (below ${print(limit, unit, { digits: 1 })})` : `${print(residual, unit, { digits: 2 })}, rounding explains ${print(limit, unit, { digits: 2 })}`}`}
        </p>
      </div>
    </li>
  );
}

function negligible({ residual, terms }: Check): boolean {
  const size = terms.reduce((s, t) => s + Math.abs(t.value), 0);
  return Math.abs(residual) <= 1e-9 * size;
}
