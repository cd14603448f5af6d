import { describe, expect, it } from "vitest";
import type { Part } from "../../../api/client";
import { setUnits } from "../../../forms/units";
import { readCorners, withOutline } from "./PlateCorners";

describe("corners typed line by line", () => {
  it("reads two lengths a line, with any of the usual separators and units", () => {
    setUnits("metric");
    const { corners, wrong } = readCorners(
      "0; 0\n 12,5; 40\n\n30, 80\n2 cm  90 mm".replace("2 cm  90 mm", "2 cm; 90 mm"),
    );
    expect(wrong).toBeNull();
    expect(corners).toEqual([
      [0, 0],
      [12.5, 40],
      [30, 80],
      [20, 90],
    ]);
  });
  it("names the first line that is none", () => {
    expect(readCorners("0; 0\n\n5; x\n1; 2").wrong).toBe(3);
    expect(readCorners("0; 0; 0").wrong).toBe(1);
  });
  it("reads inches where they are shown", () => {
    setUnits("inch");
    expect(readCorners("1 1/2; 4").corners).toEqual([[38.1, 101.6]]);
    setUnits("metric");
  });
});

describe("a part with another outline", () => {
  const part = {
    span_mm: 200,
    root_chord_mm: 100,
    tip_chord_mm: 100,
    tip_setback_mm: 0,
    layers: [
      { id: "rod", type: "bar", start_mm: 0, end_mm: 100, splices: [] },
      { id: "old", type: "cut", face: "rear", outline: true, start_mm: 150, end_mm: null },
      { id: "hole", type: "cut", face: "upper", outline: false, start_mm: 50, end_mm: 60 },
    ],
    cases: [],
  } as unknown as Part;
  it("keeps its lines at their share of the length, and takes the new cuts for the old", () => {
    const cuts = [{ id: "outline-1", type: "cut", face: "front", outline: true }];
    const found = { span_mm: 400, root_chord_mm: 120, tip_chord_mm: 80, tip_setback_mm: 5, cuts };
    const next = withOutline(part, found as unknown as Parameters<typeof withOutline>[1]);
    expect([next.span_mm, next.root_chord_mm, next.tip_chord_mm, next.tip_setback_mm]).toEqual([
      400, 120, 80, 5,
    ]);
    expect(next.layers.map((l) => [l.id, l.start_mm])).toEqual([
      ["rod", 0],
      ["hole", 100],
      ["outline-1", undefined],
    ]);
    expect("cuts" in next).toBe(false);
  });
});
