import { describe, expect, it } from "vitest";
import { spread } from "./DeskPlan";
import { gripsOf, moved, stretched, type Mark } from "./reaches";
import { minutesText } from "../../forms/times";

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

describe("the ends of a mark", () => {
  const crush = {
    id: "m", note: "", kind: "crush", start_mm: 100, end_mm: 160, face: "upper",
    from_percent: 5, to_percent: 30, depth_mm: 6,
  } as unknown as Mark; // prettier-ignore
  const nose = { ...crush, face: "front", depth_mm: 20 } as Mark;
  const chord = () => 200;
  const named = (m: Mark) => gripsOf(m, 600, chord).map((g) => [g.end, g.along, g.percent]);
  it("lie where it reaches", () => {
    expect(named(crush)).toEqual([
      ["start_mm", 100, 17.5],
      ["end_mm", 160, 17.5],
      ["from_percent", 130, 5],
      ["to_percent", 130, 30],
    ]);
  });
  it("of one that comes in from an edge are its length and its depth", () => {
    expect(named(nose).map(([end]) => end)).toEqual(["start_mm", "end_mm", "depth_mm"]);
    expect(named(nose)[2]![2]).toBe(10);
    expect(named({ ...nose, face: "rear" } as Mark)[2]![2]).toBe(90);
  });
  it("of a broken bar and of a bow are none", () => {
    expect(named({ id: "b", note: "", kind: "bar", of: "x", at_mm: 50 } as unknown as Mark)).toEqual([]);
    expect(named({ id: "b", note: "", kind: "bent" } as unknown as Mark)).toEqual([]);
  });
  it("go to whole values and never past each other or off the part", () => {
    const put = (end: Parameters<typeof stretched>[1], value: number) =>
      stretched(crush, end, value, 600, 200) as unknown as Record<string, number>;
    expect(put("start_mm", 120.4).start_mm).toBe(120);
    expect(put("start_mm", 400).start_mm).toBe(158);
    expect(put("end_mm", 900).end_mm).toBe(600);
    expect(put("end_mm", 0).end_mm).toBe(102);
    expect(put("from_percent", -3).from_percent).toBe(0);
    expect(put("from_percent", 80).from_percent).toBe(29);
    expect(put("to_percent", 140).to_percent).toBe(100);
    expect(put("depth_mm", 0).depth_mm).toBe(1);
    expect(put("depth_mm", 999).depth_mm).toBe(200);
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
