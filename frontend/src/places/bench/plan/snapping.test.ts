import { describe, expect, it } from "vitest";
import type { Layer, Part } from "../../../api/client";
import { acrossTargets, alongTargets, putAt, slid, snapped } from "./snapping";

const part = {
  span_mm: 600,
  layers: [
    { id: "spar", type: "bar", start_mm: 0, end_mm: 470, root_percent: 30, tip_percent: 30 },
    { id: "tape", type: "strip", start_mm: 20, end_mm: null, root_percent: 41, tip_percent: 41 },
  ],
  cases: [{ type: "three_point", first_support_mm: 60, second_support_mm: 540 }],
} as unknown as Part;

describe("snapping", () => {
  it("takes ends to what matters along the part, but not to the line itself", () => {
    const targets = alongTargets(part, "spar");
    expect(targets).toEqual(expect.arrayContaining([0, 20, 60, 540, 600]));
    expect(targets).not.toContain(470);
    expect(snapped(537.2, targets, 5, 1)).toBe(540);
    expect(snapped(523.4, targets, 5, 1)).toBe(523);
  });
  it("takes the nearest of two targets in reach", () => {
    expect(snapped(24.4, [20, 25], 5, 1)).toBe(25);
  });
  it("takes a line to the place of another line", () => {
    expect(snapped(40.5, acrossTargets(part, "spar"), 0.8, 0.5)).toBe(41);
    expect(snapped(37.3, acrossTargets(part, "spar"), 0.8, 0.5)).toBe(37.5);
  });
});

describe("moving and putting", () => {
  const bar = {
    id: "b",
    type: "bar",
    start_mm: 100,
    end_mm: 200,
    root_percent: 40,
    tip_percent: 40,
  } as Layer;
  const whole = { ...part, cases: [] } as unknown as Part;
  it("slides a line as it is, and stops at root and tip", () => {
    expect(slid(bar, whole, 50, [], 0)).toMatchObject({ start_mm: 150, end_mm: 250 });
    expect(slid(bar, whole, -500, [], 0)).toMatchObject({ start_mm: 0, end_mm: 100 });
    expect(slid(bar, whole, 900, [], 0)).toMatchObject({ start_mm: 500, end_mm: null });
  });
  it("snaps whichever end is nearer to something", () => {
    expect(slid(bar, whole, 47, [250], 5)).toMatchObject({ start_mm: 150, end_mm: 250 });
    expect(slid(bar, whole, 47, [149], 5)).toMatchObject({ start_mm: 149, end_mm: 249 });
  });
  it("puts cuts about a place, and bars from the root to it", () => {
    const cut = { ...bar, type: "cut" } as unknown as Layer;
    expect(putAt(cut, whole, 300, 62.3)).toMatchObject({ start_mm: 270, end_mm: 330, root_percent: 62.5 });
    expect(putAt({ ...bar, start_mm: 0 }, whole, 300, 20)).toMatchObject({
      start_mm: 0,
      end_mm: 300,
      tip_percent: 20,
    });
    expect(putAt(bar, whole, 595, 20)).toMatchObject({ end_mm: null });
  });
  it("slides a thing from stock without giving it an end, and puts it where it is wanted", () => {
    const servo = { ...bar, type: "fitting", start_mm: 380, end_mm: null } as unknown as Layer;
    expect(slid(servo, whole, 47, [], 0)).toMatchObject({ start_mm: 427, end_mm: null });
    expect(slid(servo, whole, -380, [], 0)).toMatchObject({ start_mm: 0, end_mm: null });
    expect(putAt(servo, whole, 211.4, 55)).toMatchObject({ start_mm: 211, end_mm: null, root_percent: 55 });
  });
});
