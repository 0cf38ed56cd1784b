import { z } from "zod";
import { Meter } from "./meter.ts";
import { Reading } from "./reading.ts";

/** What travels between server and pages about the workshop's meters, and about one that streams. */

const Revision = z.number().int().nonnegative();

/** A meter of the workshop. Those that come with the product are not changed, only copied. */
export const WorkshopMeter = z.strictObject({
  id: z.string(),
  revision: Revision,
  meter: Meter,
  isShipped: z.boolean(),
});
export type WorkshopMeter = z.infer<typeof WorkshopMeter>;

export const MeterList = z.strictObject({ meters: z.array(WorkshopMeter) });

/** `revision` is the one the change was made on; 0 for a new one. */
export const MeterChange = z.strictObject({
  revision: Revision,
  meter: Meter.refine((m) => (m.name ?? "").trim() !== "", "a meter needs a name"),
});
export type MeterChange = z.infer<typeof MeterChange>;

/** Host and port of a meter, such as `127.0.0.1:5025`. */
export const MeterAddress = z
  .string()
  .trim()
  .max(200)
  .regex(/^(?:\[[0-9a-fA-F:]+\]|[A-Za-z0-9.-]+):\d{1,5}$/, "an address is a host, a colon and a port: 127.0.0.1:5025");

export const MeterLinkSettings = z.strictObject({
  isOn: z.boolean(),
  address: MeterAddress,
  /** Asked by SCPI queries, or sending lines by itself. */
  protocol: z.enum(["scpi", "lines"]),
});
export type MeterLinkSettings = z.infer<typeof MeterLinkSettings>;

export const DEFAULT_METER_LINK: MeterLinkSettings = { isOn: false, address: "127.0.0.1:5025", protocol: "scpi" };

/** Where the probes are said to be. */
export const ProbesAt = z.strictObject({
  /** The job, whose circuit the simulated meter is put on. */
  job: z.uuid(),
  reading: Reading,
  /** The page's own mark of this point: what is held there carries it. */
  mark: z.string().max(100),
});
export type ProbesAt = z.infer<typeof ProbesAt>;

/** A reading that was steady, until a page says that it has it. Its id becomes the reading's. */
export const HeldReading = z.strictObject({
  id: z.uuid(),
  at: z.string(),
  probes: ProbesAt,
  reading: Reading,
});
export type HeldReading = z.infer<typeof HeldReading>;

/** How the connection stands, and what the meter shows just now. */
export const MeterLinkState = z.strictObject({
  settings: MeterLinkSettings,
  state: z.enum(["off", "connecting", "open", "waiting"]),
  /** Why there is no connection, in words. */
  why: z.string(),
  /** As it names itself. */
  name: z.string(),
  /** What the simulated meter says of what it stands on, where that is not the job's own case. */
  note: z.string(),
  probes: ProbesAt.nullable(),
  shows: z
    .strictObject({ value: z.number().nullable(), isOver: z.boolean(), quantity: z.string(), step: z.number() })
    .nullable(),
  /** Share of the time to the hold that is over. */
  steady: z.number(),
  held: z.array(HeldReading),
});
export type MeterLinkState = z.infer<typeof MeterLinkState>;
