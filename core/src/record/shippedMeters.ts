import type { Meter } from "./meter.ts";

/** A meter of the workshop. */
export interface ShippedMeter {
  readonly id: string;
  readonly meter: Meter & { readonly name: string };
}

/** The meters that come with the product: a plain handheld and a better one for the bench. */
export const SHIPPED_METERS: readonly ShippedMeter[] = [
  {
    id: "handheld",
    meter: {
      name: "handheld",
      dial: "ranges",
      category: { class: "III", volts: 600 },
      leads: { ohms: 0.2, volts: 600 },
      current: {
        ranges: [
          { span: 2e-3, burdenResistance: 1, fuse: 0.25 },
          { span: 2e-2, burdenResistance: 1, fuse: 0.25 },
          { span: 0.2, burdenResistance: 1, fuse: 0.25 },
          { span: 10, burdenResistance: 0.02, fuse: 10 },
        ],
      },
    },
  },
  {
    id: "bench",
    meter: {
      name: "bench",
      dial: "functions",
      category: { class: "II", volts: 300 },
      leads: { ohms: 0.05, volts: 1000 },
      voltage: {
        offset: 2e-5,
        accuracy: { percent: 0.03, counts: 4 },
        ranges: [
          { span: 0.2, resolution: 1e-6 },
          { span: 2, resolution: 1e-5 },
          { span: 20, resolution: 1e-4 },
          { span: 200, resolution: 1e-3 },
          { span: 600, resolution: 1e-2 },
        ],
      },
      current: {
        offset: 1e-6,
        accuracy: { percent: 0.1, counts: 10 },
        ranges: [
          { span: 2e-3, resolution: 1e-8, burdenResistance: 10, fuse: 3 },
          { span: 2e-2, resolution: 1e-7, burdenResistance: 10, fuse: 3 },
          { span: 0.2, resolution: 1e-6, burdenResistance: 0.5, fuse: 3 },
          { span: 2, resolution: 1e-5, burdenResistance: 0.1, fuse: 3, socket: "mA" },
        ],
      },
      resistance: {
        top: 1e8,
        offset: 0.005,
        beepsBelow: 10,
        accuracy: { percent: 0.05, counts: 5 },
        ranges: [
          { span: 200, resolution: 1e-3 },
          { span: 2e3, resolution: 1e-2 },
          { span: 2e4, resolution: 0.1 },
          { span: 2e5, resolution: 1 },
          { span: 2e6, resolution: 10 },
          { span: 2e7, resolution: 100 },
          { span: 1e8, resolution: 10_000 },
        ],
      },
    },
  },
];
