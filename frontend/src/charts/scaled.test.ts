import { describe, expect, it } from "vitest";
import type { Estimate } from "../api/client";
import { scaled } from "./scaled";

const band = (typ: number) => ({ typ, low: typ / 2, high: typ * 2, causes: ["foam"] });
const estimate = {
  measure: { name: "hung", value: 1500, unit: "g" },
  deflection_mm: band(30),
  breaks_at: band(1.4),
  modes: [{ label: "Foam cracks", use: [0.7, 0.1] }],
  lines: [{ id: "foam", use: [0.1, 0.7] }],
  curves: {
    y_mm: [0, 100],
    moment_N_mm: [10, 0],
    shear_N: [2, 2],
    torque_N_mm: [0, 0],
    capacity_N_mm: [14, null],
    deflection_mm: [0, -30],
    deflection_low_mm: [0, -20],
    deflection_high_mm: [0, -50],
    twist_deg: [0, 1],
    use: [0.7, 0],
  },
} as unknown as Estimate;

describe("another multiple of the load", () => {
  const half = scaled(estimate, 0.5);
  it("scales what the load makes", () => {
    expect(half.measure.value).toBe(750);
    expect(half.deflection_mm).toMatchObject({ typ: 15, low: 7.5, high: 30 });
    expect(half.curves.deflection_mm).toEqual([0, -15]);
    expect(half.curves.moment_N_mm).toEqual([5, 0]);
    expect(half.curves.use).toEqual([0.35, 0]);
    expect(half.modes[0]!.use).toEqual([0.35, 0.05]);
    expect(half.curves.shear_N).toEqual([1, 1]);
    expect(half.lines[0]!.use).toEqual([0.05, 0.35]);
  });
  it("leaves what the part can carry, and the original", () => {
    expect(half.curves.capacity_N_mm).toEqual([14, null]);
    expect(half.breaks_at.typ).toBe(1.4);
    expect(estimate.curves.deflection_mm[1]).toBe(-30);
    expect(scaled(estimate, 1)).toBe(estimate);
  });
});
