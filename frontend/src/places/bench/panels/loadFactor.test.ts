import { describe, expect, it } from "vitest";
import type { Part } from "../../../api/client";
import { forFactor } from "./loadFactor";

const of = (fields: object) => fields as Part["cases"][number];

describe("a wanted load factor", () => {
  it("takes a pull-up that is faster by the root of it", () => {
    expect(forFactor(of({ type: "pull_up", speed_m_s: 10 }), 2, 8)).toEqual({ speed_m_s: 20 });
    expect(forFactor(of({ type: "pull_up", speed_m_s: 10 }), 2, 0)).toBeNull();
  });

  it("takes a turn with the bank at which n is one over its cosine", () => {
    expect(forFactor(of({ type: "turn", bank_deg: 30 }), 1.15, 2)).toEqual({ bank_deg: 60 });
    expect(forFactor(of({ type: "turn", bank_deg: 30 }), 1.15, 1)).toEqual({ bank_deg: 0 });
    expect(forFactor(of({ type: "turn", bank_deg: 30 }), 1.15, 0.9)).toBeNull();
  });

  it("takes a gust that is harder by what goes beyond level flight, up or down", () => {
    expect(forFactor(of({ type: "gust", gust_m_s: 4, way: "up" }), 3, 5)).toEqual({ gust_m_s: 8 });
    expect(forFactor(of({ type: "gust", gust_m_s: 4, way: "down" }), -1, -3)).toEqual({ gust_m_s: 8 });
    expect(forFactor(of({ type: "gust", gust_m_s: 4, way: "up" }), 3, 0.5)).toBeNull();
    expect(forFactor(of({ type: "gust", gust_m_s: 4, way: "up" }), 1, 2)).toBeNull();
  });

  it("is none of a bench load's", () => {
    expect(forFactor(of({ type: "tip_weight", weight_g: 100 }), 1, 2)).toBeNull();
  });
});
