import { describe, expect, it } from "vitest";
import { Pointing, type Selection } from "./pointing.ts";

const part = (name: string) => ({ kind: "branch", name }) as const;
const node = (name: string) => ({ kind: "node", name }) as const;

describe("pointing", () => {
  it("selects one thing, or a stretch of parts, the last one first", () => {
    const pointing = new Pointing();
    const after = (selection: Selection, extend = false) => {
      pointing.select(selection, extend);
      return pointing.selected();
    };
    expect(after(part("R1"))).toEqual({ selection: part("R1"), stretch: ["R1"] });
    expect(after(part("R2"), true)).toEqual({ selection: part("R2"), stretch: ["R2", "R1"] });
    expect(after(part("R1"), true)).toEqual({ selection: part("R1"), stretch: ["R1", "R2"] });
    // One of a stretch alone is that one.
    expect(after(part("R1"))).toEqual({ selection: part("R1"), stretch: ["R1"] });
    expect(after(node("A"), true)).toEqual({ selection: node("A"), stretch: [] });
    expect(after(null)).toEqual({ selection: null, stretch: [] });
  });

  it("tells of what changed, and of nothing else, until nobody listens", () => {
    const pointing = new Pointing();
    let told = 0;
    const stop = pointing.subscribe(() => {
      told += 1;
    });
    pointing.hover(part("R1"));
    pointing.hover(part("R1"));
    expect([told, pointing.hovered()]).toEqual([1, part("R1")]);
    pointing.select(part("R1"));
    const before = pointing.selected();
    pointing.select(part("R1"));
    expect([told, pointing.selected()]).toEqual([2, before]);
    pointing.hover(null);
    stop();
    pointing.hover(node("R1"));
    expect(told).toBe(3);
  });
});
