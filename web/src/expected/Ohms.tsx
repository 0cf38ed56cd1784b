import type { Network, NodeName } from "@hound/core/circuit";
import { BODY_OHMS } from "@hound/core/coach";
import { asMeasured } from "@hound/core/measure";
import { cornersOf, expectReadings, OVERLOAD } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { parallelOf } from "@hound/core/reduce";
import { parseQuantity } from "@hound/core/units";
import { useMemo } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { shown, withLimits } from "../words/quantities.ts";

/** What an ohmmeter finds between two nodes: its window, what lies beside it changes, and what the measured parts make. */
export function Ohms({ network, from, to }: { network: Network; from: NodeName; to: NodeName }) {
  const { readings, meter, state } = useDesk();
  const { value: beside, set } = useKept(`beside ${state.job.id}`, "");
  const found = useMemo(() => {
    const point: NumericReading = { quantity: "resistance", from, to, value: 0 };
    const due = (one: Network) => expectReadings(one, [point], null)?.[0] ?? null;
    const measured = asMeasured(
      network,
      readings.map((r) => r.reading),
      meterData(meter),
    );
    return {
      due: due(network),
      corners: cornersOf(network, point),
      parts: measured.parts,
      fromMeasured: measured.parts.length > 0 ? due(measured.network) : null,
    };
  }, [network, from, to, readings, meter]);
  const { due, corners, parts, fromMeasured } = found;
  if (!due) return <p className="text-faint">This cannot be worked out.</p>;
  if (!(due.value < OVERLOAD))
    return (
      <p>
        An ohmmeter shows <b className="text-2xl">OL</b>: nothing leads from {from} to {to}.
      </p>
    );
  const path = beside.trim() === "" ? null : parseQuantity(beside);
  const isPath = path?.kind === "quantity" && path.value > 0 && (path.unit === null || path.unit === "ohm");
  return (
    <>
      <p>
        An ohmmeter shows <b className="text-2xl">{shown(due.value, "ohm")}</b>.
      </p>
      <p className="text-faint">
        Within {withLimits(due.value, due.plusMinus, "ohm")} (two standard deviations)
        {corners && `; with every part at its edge ${shown(corners[0], "ohm")} to ${shown(corners[1], "ohm")}`}.
      </p>
      {fromMeasured && (
        <p className="mt-1">
          From the parts as measured: <b>{withLimits(fromMeasured.value, fromMeasured.plusMinus, "ohm")}</b>{" "}
          <span className="text-faint">
            ({parts.map((p) => `${p.name} ${shown(p.ohms, "ohm")}`).join(", ")}
            {parts.length < network.branches.filter((b) => b.law.kind === "resistance").length &&
              "; the others as marked"}
            )
          </span>
        </p>
      )}
      <p className="mt-1 text-faint">
        With fingers on both tips (about {shown(BODY_OHMS, "ohm")} beside it):{" "}
        {shown(parallelOf([due.value, BODY_OHMS]), "ohm")}.
      </p>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-2">
          With another path of
          <input
            value={beside}
            onChange={(e) => set(e.target.value)}
            placeholder="1k"
            aria-label="Another path beside it"
            autoComplete="off"
            className="w-24 rounded-lg border border-field bg-paper px-2 py-1 font-mono"
          />
        </label>
        beside it:{" "}
        {isPath ? <b>{shown(parallelOf([due.value, path.value]), "ohm")}</b> : path ? "that is no resistance" : "…"}
      </p>
    </>
  );
}
