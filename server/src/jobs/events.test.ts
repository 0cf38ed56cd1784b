import type { Request, Response } from "express";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { JobEvents } from "./events.ts";

const CHANGED = "2026-05-01T00:00:00.000Z";

/** A page that listens, without a network. */
class Page {
  readonly heard: string[] = [];
  private readonly ends: (() => void)[] = [];
  status = () => this;
  set = () => this;
  write = (text: string) => this.heard.push(text);
  on = (_event: string, then: () => void) => this.ends.push(then);
  leave = () => {
    for (const end of this.ends) end();
  };
  /** Names of who is here, as often as they were told. */
  told = () => this.heard.flatMap((text) => (text.startsWith("event: here") ? [text] : []));
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

function opened(events: JobEvents, id: string, who: string): Page {
  const page = new Page();
  const request = { params: { id }, query: { who } } as unknown as Request;
  events.stream(request, page as unknown as Response, () => {});
  return page;
}

it("tells who is here once for all that come within a moment, and again when one leaves", () => {
  const events = new JobEvents(async () => CHANGED);
  const pages = Array.from({ length: 50 }, (_, i) => opened(events, "a", `P${i}`));
  vi.advanceTimersByTime(1000);
  for (const page of pages) expect(page.told()).toHaveLength(1);
  expect(pages[0].told()[0]).toContain('"P49"');
  for (const page of pages.slice(0, 20)) page.leave();
  vi.advanceTimersByTime(1000);
  expect(pages[49].told()).toHaveLength(2);
  expect(pages[49].told()[1]).not.toContain('"P0"');
  expect(pages[0].told()).toHaveLength(1);
});

it("says when a job was changed last, so that whoever has it so need not ask again; where that cannot be read, to ask", async () => {
  const page = opened(new JobEvents(async () => CHANGED), "a", "");
  const other = opened(new JobEvents(async () => Promise.reject(new Error("disk"))), "a", "");
  await vi.advanceTimersByTimeAsync(0);
  expect(page.heard).toContain(`event: at\ndata: ${CHANGED}\n\n`);
  expect(other.heard).toContain("event: changed\ndata: \n\n");
});

it("has room for so many pages of a job and no more, until some leave", () => {
  const events = new JobEvents(async () => CHANGED);
  const pages = Array.from({ length: 100 }, () => opened(events, "a", "\ud83d"));
  expect(() => opened(events, "a", "")).toThrow(/Too many pages/);
  opened(events, "b", "");
  pages[0].leave();
  opened(events, "a", "");
  vi.advanceTimersByTime(1000);
  expect(pages[1].told()[0]).toContain("\ufffd");
});
