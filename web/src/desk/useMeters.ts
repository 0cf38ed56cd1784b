import type { Meter, WorkshopMeter } from "@hound/core/record";
import { useMemo } from "react";
import { metersApi } from "../api/meters.ts";
import type { ErrandBodies } from "../outbox/errandKinds.ts";
import { useErrands, useRun } from "./OutboxContext.tsx";
import { useSeen } from "./useSeen.ts";

const KEY = ["meters"];

/** All meters, with what is changed here and still on its way; null until the server has said. */
export function useMeters(): readonly WorkshopMeter[] | null {
  const { data } = useSeen(KEY, metersApi.list, { staleTime: 30_000 });
  const { list } = useErrands();
  return useMemo(() => {
    if (!data) return null;
    const meters = new Map(data.meters.map((m) => [m.id, m]));
    for (const errand of list) {
      if (errand.refused !== undefined) continue;
      if (errand.kind === "keepMeter") {
        const { id, revision, meter } = errand.body as ErrandBodies["keepMeter"];
        meters.set(id, { id, revision, meter, isShipped: false });
      } else if (errand.kind === "removeMeter") meters.delete((errand.body as ErrandBodies["removeMeter"]).id);
    }
    return [...meters.values()];
  }, [data, list]);
}

/** Changes of the workshop's meters: seen at once, kept by the server. */
export function useMeterChanges() {
  const run = useRun();
  return {
    keep: (id: string, revision: number, meter: Meter) =>
      run("keepMeter", { id, revision, meter }, `Meter ${meter.name ?? ""}`).catch(() => {}),
    remove: (id: string, name: string) => run("removeMeter", { id }, `Remove meter ${name}`).catch(() => {}),
  };
}
