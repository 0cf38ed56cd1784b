import { expect, it } from "vitest";
import { type HistoryEntry, type Job, jobAt, NEW_JOB_FIELDS, type Reading } from "./index.ts";

const uuid = (n: number) => `00000000-0000-4000-8000-00000000000${n}`;
const time = (minute: number) => `2026-03-01T09:0${minute}:00.000Z`;
const volts = (value: number): Reading => ({ quantity: "voltage", from: "B", value });

it("a job is as it was at any moment: its fields, its circuit, its readings", () => {
  const job: Job = {
    id: uuid(0),
    title: "Renamed",
    complaint: "",
    ...NEW_JOB_FIELDS,
    state: "open",
    revision: 3,
    circuit: { trail: "third", revision: 2 },
    readings: [
      { id: uuid(1), revision: 1, reading: volts(7.5), createdAt: time(1) },
      { id: uuid(3), revision: 0, reading: volts(9), createdAt: time(7) },
    ],
    damaged: [],
    createdAt: time(0),
    updatedAt: time(8),
    deletedAt: null,
  };
  const entries: HistoryEntry[] = [
    { what: "note", at: time(8), id: uuid(9), text: "warm" },
    { what: "reading", at: time(7), id: uuid(3), done: "taken", before: null, after: volts(9) },
    { what: "circuit", at: time(6), revision: 2 },
    { what: "reading", at: time(5), id: uuid(2), done: "deleted", before: volts(3), after: null },
    { what: "field", at: time(4), field: "title", before: "First", after: "Renamed" },
    { what: "reading", at: time(3), id: uuid(1), done: "corrected", before: volts(7.4), after: volts(7.5) },
    { what: "reading", at: time(2), id: uuid(2), done: "taken", before: null, after: volts(3) },
    { what: "circuit", at: time(2), revision: 1 },
    { what: "reading", at: time(1), id: uuid(1), done: "taken", before: null, after: volts(7.4) },
    { what: "job", at: time(0), done: "made" },
  ];
  const versions = [
    { revision: 2, trail: "third", createdAt: time(6) },
    { revision: 1, trail: "second", createdAt: time(2) },
    { revision: 0, trail: "first", createdAt: time(0) },
  ];
  const seen = [0, 1, 2, 3, 4, 5, 6, 7].map((minute) => {
    const { title, circuit, readings } = jobAt(job, entries, versions, time(minute));
    return [title, circuit.trail, readings.map((r) => (r.reading as { value: number }).value).join(" ")];
  });
  expect(seen).toEqual([
    ["First", "first", ""],
    ["First", "first", "7.4"],
    ["First", "second", "7.4 3"],
    ["First", "second", "7.5 3"],
    ["Renamed", "second", "7.5 3"],
    ["Renamed", "second", "7.5"],
    ["Renamed", "third", "7.5"],
    ["Renamed", "third", "7.5 9"],
  ]);
});
