import { describe, expect, it } from "vitest";
import type { Airframe, Part } from "../api/client";
import { corners, extentOf, placeIn, sidesOf } from "./AirframeDrawing";

const wing = {
  id: "wing",
  kind: "wing",
  hand: "both",
  span_mm: 500,
  root_chord_mm: 200,
  tip_chord_mm: 100,
  tip_setback_mm: 50,
  place: { x_mm: 100, y_mm: 20, z_mm: 0, dihedral_deg: 0 },
} as unknown as Part;
const body = {
  ...wing,
  id: "body",
  kind: "fuselage",
  hand: "single",
  root_chord_mm: 60,
  tip_chord_mm: 40,
  place: { x_mm: 0, y_mm: 0, z_mm: 0, dihedral_deg: 0 },
} as unknown as Part;
const plank = { ...wing, id: "plank", kind: "plank", span_mm: 4000, hand: "single" } as unknown as Part;
const airframe = (...parts: Part[]) => ({ name: "A", parts }) as unknown as Airframe;

describe("places of a part in its airframe", () => {
  it("go outwards with the span and aft with setback and chord", () => {
    expect(placeIn(wing, 1, 0, 0)).toEqual([100, 20]);
    expect(placeIn(wing, 1, 500, 100)).toEqual([100 + 50 + 100, 520]);
    expect(placeIn(wing, 1, 250, 50)).toEqual([100 + 25 + 75, 270]);
  });

  it("are mirrored on the left", () => {
    expect(placeIn(wing, -1, 250, 50)).toEqual([200, -270]);
    expect(sidesOf(wing)).toEqual([-1, 1]);
    expect(sidesOf({ ...wing, hand: "left" })).toEqual([-1]);
    expect(sidesOf(body)).toEqual([1]);
  });

  it("come closer with dihedral; an upright fin is a line", () => {
    const fin = { ...wing, place: { ...wing.place, dihedral_deg: 90 } };
    for (const [, y] of corners(fin, 1)) expect(y).toBeCloseTo(20);
    const risen = { ...wing, place: { ...wing.place, dihedral_deg: 60 } };
    expect(placeIn(risen, 1, 500, 0)[1]).toBeCloseTo(270);
  });

  it("of a fuselage run aft, its width to both sides of the middle", () => {
    expect(corners(body, 1)).toEqual([
      [0, -30],
      [500, -20],
      [500, 20],
      [0, 30],
    ]);
  });
});

describe("the extent of an airframe", () => {
  it("is of what flies; of a test piece where there is nothing else", () => {
    expect(extentOf(airframe(wing, body, plank))).toEqual({ x0: 0, x1: 500, y0: -520, y1: 520 });
    expect(extentOf(airframe(plank)).y1).toBe(4020);
    expect(extentOf(airframe())).toEqual({ x0: 0, x1: 0, y0: 0, y1: 0 });
  });
});
