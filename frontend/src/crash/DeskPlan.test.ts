import { describe, expect, it } from "vitest";
import type { Part } from "../api/client";
import { moved, spread } from "./DeskPlan";
import { minutesText } from "./times";

type Mark = NonNullable<Part["damage"]>[number];

describe("numbers of marks", () => {
  it("stand apart in the order of their places", () => {
    const places = spread([100, 100, null, 104, 300]);
    const shown = [places[0]!, places[1]!, places[3]!].sort((a, b) => a - b);
    expect(shown[1]! - shown[0]!).toBeGreaterThanOrEqual(22);
    expect(shown[2]! - shown[1]!).toBeGreaterThanOrEqual(22);
    expect(places[4]!).toBeGreaterThan(shown[2]!);
    expect(Math.abs(shown[1]! - 101)).toBeLessThan(30);
  });
  it("stay where they are when nothing is near", () => {
    expect(spread([50, 200])).toEqual([50, 200]);
  });
});

describe("a mark pulled along", () => {
  const crush = { id: "m", note: "", kind: "crush", start_mm: 100, end_mm: 160 } as unknown as Mark;
  it("keeps its length and stays on the part", () => {
    expect(moved(crush, 300.4, 600)).toMatchObject({ start_mm: 270, end_mm: 330 });
    expect(moved(crush, -50, 600)).toMatchObject({ start_mm: 0, end_mm: 60 });
    expect(moved(crush, 900, 600)).toMatchObject({ start_mm: 540, end_mm: 600 });
  });
  it("of one place goes to whole millimetres", () => {
    const crack = { id: "m", note: "", kind: "crack", at_mm: 10 } as unknown as Mark;
    expect(moved(crack, 42.6, 600)).toMatchObject({ at_mm: 43 });
    expect(moved(crack, 4000, 600)).toMatchObject({ at_mm: 599 });
  });
});

describe("minutes", () => {
  it("are said as a builder says them", () => {
    expect([5.4, 89, 120, 1440, 10080].map(minutesText)).toEqual([
      "5 min",
      "89 min",
      "2 h",
      "24 h",
      "7 days",
    ]);
  });
});
