import { type Job, NEW_JOB_FIELDS } from "@hound/core/record";
import { describe, expect, it } from "vitest";
import { readDraft, VERSION, writeDraft } from "./draft.ts";
import type { Draft } from "./ops.ts";

const base: Job = {
  id: "00000000-0000-4000-8000-000000000001",
  title: "Vent",
  complaint: "",
  ...NEW_JOB_FIELDS,
  revision: 3,
  circuit: { trail: "BT1 9V: R1 1k", revision: 2 },
  readings: [],
  damaged: [],
  createdAt: "2026-11-30T08:00:00Z",
  updatedAt: "2026-11-30T08:00:00Z",
  deletedAt: null,
};
const reading = { quantity: "current", through: "R1", value: 0.009, own: "kept" } as const;
const draft: Draft = {
  base,
  start: null,
  text: "BT1 9V: R1 1k5",
  pending: [
    { op: "add", id: "a", reading },
    { op: "change", id: "b", reading, before: { ...reading, value: 1 } },
    { op: "set", id: "c", fields: { title: "Other", tags: ["urgent"] } },
    { op: "store", id: "d", text: "BT1 9V" },
    { op: "drop", id: "e" },
  ],
  refused: [
    { what: "circuit", text: "?", why: "no" },
    { what: "op", op: { op: "remove", id: "f", reading }, why: "no" },
  ],
};
const kept = (what: unknown) => JSON.parse(JSON.stringify(what)) as Record<string, unknown>;

describe("a draft kept on a device", () => {
  it("is read as it was written, with what of a job another version knew besides", () => {
    expect(readDraft(kept(writeDraft(draft)))).toEqual(draft);
    const more = { ...draft, base: { ...base, smell: "burnt" } };
    expect(readDraft(kept(writeDraft(more as Draft)))).toEqual(more);
  });

  it("is brought up from a version without one, whose job lacks what came later", () => {
    const { tags: _, work: __, closing: ___, ...old } = base;
    expect(readDraft(kept({ ...draft, base: old }))).toEqual(draft);
  });

  it("is none where it is of a later version, or no draft at all", () => {
    const written = kept(writeDraft(draft));
    for (const wrong of [
      null,
      "text",
      { ...written, version: VERSION + 1 },
      { ...written, pending: [{ op: "melt", id: "a" }] },
      { ...written, base: { ...base, readings: "none" } },
    ])
      expect(readDraft(wrong)).toBeNull();
  });
});
