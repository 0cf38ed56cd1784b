import type { DeskState } from "./savedJob.ts";

type Saving = Pick<DeskState, "saving" | "why" | "kept">;

/** What has become of what was typed, as it is at this moment. */
export function savedWords({ saving, why, kept }: Saving): string {
  switch (saving) {
    case "saved":
      return "Saved";
    case "saving":
      return "Saving …";
    case "waiting":
      return `Not saved: ${why}.${KEPT[kept]}`;
    case "away":
      return `All is saved, but ${why}: shown as last seen here.`;
    case "refused":
      return "Not all is saved: see below.";
    case "choice":
      return "Not saved: two versions, see below.";
    default:
      return saving satisfies never;
  }
}

const KEPT = {
  yes: " Kept here, trying again.",
  no: " This device keeps nothing: leave the page open.",
  busy: "",
} as const;
