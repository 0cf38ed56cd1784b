import type { QueryClient } from "@tanstack/react-query";
import { jobsApi } from "../api/jobs.ts";
import { deviceStore } from "../app/stores.ts";
import { Device } from "../outbox/device.ts";
import { ERRAND_KINDS, type ErrandBodies, jobOf } from "../outbox/errandKinds.ts";
import { type Errand, Errands } from "../outbox/errands.ts";
import { closedOf, lead, nameThisTab } from "../outbox/tabs.ts";
import { Desks } from "./desks.ts";

/** What of a tab outlives its pages. */
export interface Outbox {
  readonly device: Device;
  readonly desks: Desks;
  readonly errands: Errands;
}

/** Goes on with what this tab had not sent when it was closed, and looks after what closed tabs left behind. */
export async function startOutbox(queries: QueryClient): Promise<Outbox> {
  const device = await Device.open(await nameThisTab());
  const desks = new Desks(jobsApi, device, () => new Date());
  const touched = ({ kind }: Errand) => {
    for (const key of ERRAND_KINDS[kind as keyof ErrandBodies].touches) askAnew(queries, key);
  };
  const errands = new Errands(ERRAND_KINDS, device, touched, ({ body }) => desks.isNew(jobOf(body)));
  // What was begun or changed at a bench shows in the list of jobs as soon as it is saved.
  desks.subscribe(() => {
    askAnew(queries, "jobs");
    errands.nudge();
  });
  const takeOver = (key: string) => {
    if (key.startsWith("desk:")) desks.takeOver(key);
    else if (key.startsWith("errand:")) errands.takeOver(key);
    // Texts of forms wait until their form is opened.
  };
  await takeFromBefore(device);
  desks.resume();
  errands.resume();
  await lead(async () => {
    for (const tab of await closedOf(await device.others())) for (const key of await device.take(tab)) takeOver(key);
  });
  return { device, desks, errands };
}

/** Asks anew what changed at the server; an answer that is still on its way was given before the change. */
async function askAnew(queries: QueryClient, key: string) {
  await queries.cancelQueries({ queryKey: [key] });
  await queries.invalidateQueries({ queryKey: [key] });
}

/** What an earlier version kept elsewhere on this device is shown, to be copied. */
async function takeFromBefore(device: Device) {
  for (const key of deviceStore.names()) {
    if (!/^hound:(?:desk|form):/.test(key)) continue;
    if (await device.put(`form:~${key}`, deviceStore.get(key))) deviceStore.remove(key);
  }
}
