import { COSTS, type Costs, FAULT_KINDS, type FaultCount, type FaultKind, type Help } from "@hound/core/practice";
import { type Meter, SHIPPED_METERS } from "@hound/core/record";
import { type FormEvent, useState } from "react";
import { huntsApi } from "../api/hunts.ts";
import { metersApi } from "../api/meters.ts";
import { useKept } from "../desk/useKept.ts";
import { useSeen } from "../desk/useSeen.ts";
import { CircuitChoice } from "../paper/CircuitChoice.tsx";
import { circuitOf, DRAWN } from "../paper/circuitOf.ts";
import { HelpChoice } from "./HelpChoice.tsx";
import { useStart } from "./useStart.ts";

interface SetUp {
  /** `drawn`, `library ID`, `job ID`. */
  readonly circuit: string;
  readonly parts: string;
  readonly bridges: boolean;
  readonly depth: string;
  readonly isPlain: boolean;
  readonly kinds: readonly FaultKind[];
  readonly count: FaultCount;
  readonly help: Help;
  readonly meter: string;
  readonly limit: string;
  readonly costs: Readonly<Partial<Record<keyof Costs, string>>>;
}

const FIRST: SetUp = {
  circuit: DRAWN,
  parts: "6",
  bridges: false,
  depth: "",
  isPlain: false,
  kinds: [],
  count: "one",
  help: "hints",
  meter: "handheld",
  limit: "",
  costs: {},
};
const COUNTS: Readonly<Record<FaultCount, string>> = {
  one: "one fault",
  two: "two faults",
  any: "one, two or none",
  none: "none: a healthy circuit",
};
const COST_NAMES: Readonly<Record<keyof Costs, string>> = {
  take: "a reading",
  look: "a look",
  power: "power off",
  free: "a lead off",
  swap: "a part swapped",
  alone: "a part tried alone",
  lever: "a switch moved",
  null: "leads nulled",
  fuse: "the meter’s fuse",
  hint: "a hint",
};
const FIELD = "rounded-lg border border-rule bg-paper px-3 py-2";

/** A hunt of one's own making. @param wanted the kind of fault that is worth practising next */
export function NewHuntForm({ wanted }: { wanted: FaultKind | null }) {
  const typed = useKept<SetUp>("new hunt", FIRST);
  const own = typed.value;
  const [isOpen, setOpen] = useState(false);
  const [why, setWhy] = useState("");
  const start = useStart(huntsApi.start);
  const meters = useSeen(["meters"], metersApi.list, { enabled: isOpen });
  const set = (change: Partial<SetUp>) => typed.set({ ...own, ...change });
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setWhy("");
    try {
      const { title, trail } = await circuitOf(own.circuit, own);
      const costs = { ...COSTS };
      for (const [name, text] of Object.entries(own.costs)) {
        const value = Number(text.replace(",", "."));
        if (text.trim() !== "" && value >= 0 && value <= 600) costs[name as keyof Costs] = value;
      }
      const limit = Number(own.limit.replace(",", "."));
      start.mutate({
        title,
        trail,
        kinds: [...own.kinds],
        count: own.count,
        help: own.help,
        costs,
        meter: meterIn(meters.data?.meters, own.meter),
        limit: limit > 0 && limit <= 600 ? limit : null,
      });
    } catch (error) {
      setWhy(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <details
      className="rounded-xl border border-rule bg-sheet px-4 py-3"
      onToggle={(e) => setOpen((e.target as HTMLDetailsElement).open)}
    >
      <summary className="text-lg font-bold">A hunt of your own: any circuit, any fault</summary>
      <form onSubmit={submit} className="mt-3 flex flex-col gap-3">
        <CircuitChoice label="Circuit" value={own.circuit} isOpen={isOpen} onPick={(circuit) => set({ circuit })} />
        {own.circuit === DRAWN && (
          <div className="flex flex-wrap items-end gap-4">
            <label className="flex flex-col gap-1">
              Parts besides the supply
              <input
                inputMode="numeric"
                value={own.parts}
                className={`${FIELD} w-24`}
                onChange={(e) => set({ parts: e.target.value })}
              />
            </label>
            <label className="flex flex-col gap-1">
              Forks within forks
              <select value={own.depth} className={FIELD} onChange={(e) => set({ depth: e.target.value })}>
                <option value="">as they come</option>
                <option value="0">none: all in a row</option>
                <option value="1">one deep</option>
                <option value="2">two deep</option>
                <option value="3">three deep</option>
              </select>
            </label>
            <label className="flex flex-col gap-1">
              Parts
              <select
                value={own.isPlain ? "plain" : "mixed"}
                className={FIELD}
                onChange={(e) => set({ isPlain: e.target.value === "plain" })}
              >
                <option value="mixed">as in a workshop</option>
                <option value="plain">resistors alone</option>
              </select>
            </label>
            <label className="flex items-center gap-2 py-2">
              <input
                type="checkbox"
                className="size-5 accent-copper"
                checked={own.bridges}
                onChange={(e) => set({ bridges: e.target.checked })}
              />
              with bridges across
            </label>
          </div>
        )}
        <fieldset>
          <legend>What may be wrong: nothing ticked is anything</legend>
          <div className="flex flex-wrap gap-x-4">
            {(Object.keys(FAULT_KINDS) as FaultKind[]).map((kind) => (
              <label key={kind} className="flex items-center gap-2 py-1">
                <input
                  type="checkbox"
                  className="size-5 accent-copper"
                  checked={own.kinds.includes(kind)}
                  onChange={(e) =>
                    set({ kinds: e.target.checked ? [...own.kinds, kind] : own.kinds.filter((k) => k !== kind) })
                  }
                />
                {FAULT_KINDS[kind].name}
                {kind === wanted && <span className="text-copper">practise this</span>}
              </label>
            ))}
          </div>
        </fieldset>
        <div className="grid gap-3 sm:grid-cols-2">
          <label className="flex flex-col gap-1">
            How much
            <select value={own.count} className={FIELD} onChange={(e) => set({ count: e.target.value as FaultCount })}>
              {Object.entries(COUNTS).map(([count, words]) => (
                <option key={count} value={count}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <HelpChoice value={own.help} onPick={(help) => set({ help })} />
          <label className="flex flex-col gap-1">
            Meter
            <select value={own.meter} className={FIELD} onChange={(e) => set({ meter: e.target.value })}>
              {(meters.data?.meters ?? []).map(({ id, meter }) => (
                <option key={id} value={id}>
                  {meter.name}
                </option>
              ))}
              {!meters.data && <option value="handheld">handheld</option>}
            </select>
          </label>
          <label className="flex flex-col gap-1">
            Minutes to find it in; empty: no limit
            <input
              inputMode="decimal"
              value={own.limit}
              className={FIELD}
              onChange={(e) => set({ limit: e.target.value })}
            />
          </label>
        </div>
        <details>
          <summary>What each act costs, in minutes</summary>
          <div className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-5">
            {(Object.keys(COSTS) as (keyof Costs)[]).map((name) => (
              <label key={name} className="flex flex-col text-sm">
                {COST_NAMES[name]}
                <input
                  inputMode="decimal"
                  value={own.costs[name] ?? ""}
                  placeholder={String(COSTS[name])}
                  className="rounded-lg border border-rule bg-paper px-2 py-1 placeholder:text-faint"
                  onChange={(e) => set({ costs: { ...own.costs, [name]: e.target.value } })}
                />
              </label>
            ))}
          </div>
        </details>
        {(why !== "" || start.error) && (
          <p role="alert" className="text-wrong">
            Not begun: {why || start.error?.message}. What you chose is still here.
          </p>
        )}
        <button
          type="submit"
          disabled={start.isPending}
          className="self-start rounded-lg bg-copper px-5 py-2.5 font-bold text-sheet disabled:opacity-50"
        >
          {start.isPending ? "Hiding a fault …" : "Hide a fault"}
        </button>
      </form>
    </details>
  );
}

function meterIn(meters: readonly { readonly id: string; readonly meter: Meter }[] | undefined, id: string): Meter {
  return meters?.find((m) => m.id === id)?.meter ?? SHIPPED_METERS[0].meter;
}
