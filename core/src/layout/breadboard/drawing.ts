import { type Place, placeOf, SPAN } from "./holes.ts";
import type { BreadboardPlan } from "./plan.ts";
import type { Lead } from "./seats.ts";

/** A part on the drawing: its name in the middle of the gap, a line to each lead. Distances between holes. */
export interface PartDrawn {
  readonly part: string;
  readonly at: Place;
  readonly leads: readonly (Place & { readonly lead: Lead["lead"] })[];
}

/** Room for a part's name, between the lines that cross the gap: across and down. */
export const LABEL = { width: 2.3, height: 0.84 } as const;

export function drawParts(plan: BreadboardPlan): PartDrawn[] {
  return [...new Set(plan.leads.map((l) => l.part))].map((part) => {
    const own = plan.leads.filter((l) => l.part === part);
    const rows = own.map((l) => l.hole.row);
    return {
      part,
      at: { x: SPAN / 2, y: (Math.min(...rows) + Math.max(...rows)) / 2 },
      leads: own.map(({ lead, hole }) => ({ lead, ...placeOf(hole) })),
    };
  });
}
