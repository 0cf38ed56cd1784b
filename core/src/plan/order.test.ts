import { describe, expect, it } from "vitest";
import { SCHOOLS, type Suggestion, worthOfAnswers } from "./index.ts";

describe("the order near the end", () => {
  const suggestion = (name: string, minutes: number, informationBits: number, settles: number): Suggestion => ({
    measurement: { kind: "swap", part: name, minutes },
    informationBits,
    settles,
    predictions: [],
  });
  const order = (...list: readonly Suggestion[]) =>
    SCHOOLS.information
      .order(list, { nodes: [], branches: [], reference: 0 })
      .map((s) => ("part" in s.measurement ? s.measurement.part : ""));

  it("goes by bits a minute while nothing settles it", () => {
    expect(order(suggestion("dear", 4, 1.2, 0.1), suggestion("cheap", 0.5, 0.4, 0))).toEqual(["cheap", "dear"]);
  });

  it("puts what settles it before a cheap reading that cannot", () => {
    // Cheap first costs 0.5 and then 2/0.9 minutes; the dear one 2 and, one time in ten, as much again.
    expect(order(suggestion("cheap", 0.5, 0.4, 0), suggestion("dear", 2, 0.8, 0.9))).toEqual(["dear", "cheap"]);
    // One that may settle it for little is tried first: 0.5 + 0.6·2/0.9 against 2 + 0.1·0.5/0.4.
    expect(order(suggestion("dear", 2, 0.8, 0.9), suggestion("cheap", 0.5, 0.5, 0.4))).toEqual(["cheap", "dear"]);
  });

  it("never asks for what tells nothing before what tells something", () => {
    expect(order(suggestion("idle", 0.1, 0, 0), suggestion("dear", 6, 0.5, 0.5))).toEqual(["dear", "idle"]);
  });
});

describe("a question with few answers", () => {
  it("is worth the entropy of its answer where each way answers for sure", () => {
    const classes = [0, 1, 2, 3];
    const weights = [0.4, 0.3, 0.2, 0.1];
    const yes = [1, 0, 0, 0];
    const { bits, settles } = worthOfAnswers(classes, weights, [yes, yes.map((p) => 1 - p)]);
    expect(bits).toBeCloseTo(-0.4 * Math.log2(0.4) - 0.6 * Math.log2(0.6), 12);
    // Only the yes leaves one class alone.
    expect(settles).toBeCloseTo(0.4, 12);
    expect(
      worthOfAnswers(classes, weights, [
        [0.5, 0.5, 0.5, 0.5],
        [0.5, 0.5, 0.5, 0.5],
      ]).bits,
    ).toBeCloseTo(0, 12);
    // 94 % is not enough, 95 % is.
    expect(worthOfAnswers([0, 1], [0.94, 0.06], [[1, 1]]).settles).toBe(0);
    expect(worthOfAnswers([0, 1], [0.96, 0.04], [[1, 1]]).settles).toBeCloseTo(1, 12);
  });
});
