import {
  type Meter,
  type MeterLinkSettings,
  MeterLinkState,
  MeterList,
  type ProbesAt,
  WorkshopMeter,
} from "@hound/core/record";
import { call } from "./client.ts";

/** The endpoints of meters, and of the one that streams. */
export const metersApi = {
  list: () => call("GET", "/meters", MeterList),
  put: (id: string, revision: number, meter: Meter) => call("PUT", `/meters/${id}`, WorkshopMeter, { revision, meter }),
  remove: (id: string) => call("DELETE", `/meters/${id}`, null),
  link: () => call("GET", "/meter-link", MeterLinkState),
  useLink: (settings: MeterLinkSettings) => call("PUT", "/meter-link", MeterLinkState, settings),
  putProbes: (probes: ProbesAt | null) => call("PUT", "/meter-link/probes", MeterLinkState, { probes }),
  taken: (id: string) => call("DELETE", `/meter-link/held/${id}`, null),
};
