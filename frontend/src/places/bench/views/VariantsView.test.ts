import { describe, expect, it } from "vitest";
import type { Part } from "../../../api/client";
import { adopted } from "../usePins";
import { bestOf } from "./VariantsView";

describe("the best of a row", () => {
  it("is the least or the most, as it is meant", () => {
    expect([...bestOf([3, 1, 2], "less")]).toEqual([1]);
    expect([...bestOf([3, 1, 2], "more")]).toEqual([0]);
  });
  it("may be shared, and is none where all are alike, where nothing is better, or where only one is known", () => {
    expect([...bestOf([1, 1, 2], "less")]).toEqual([0, 1]);
    expect(bestOf([2, 2, 2.001], "less").size).toBe(0);
    expect(bestOf([3, 1, 2], null).size).toBe(0);
    expect(bestOf([null, 1, null], "less").size).toBe(0);
  });
});

describe("adopting a variant", () => {
  const base = { span_mm: 600, cases: [{ id: "now" }], targets: { margin: { low: 1 } }, hand: "left" };
  const part = { ...base, id: "wing", name: "Left", layers: [], place: { x_mm: 1 } } as unknown as Part;
  const variant = { ...base, id: "old", name: "Old", layers: [{ id: "spar" }], cases: [{ id: "then" }] };
  it("takes its lay-up and keeps name, place, targets and loads of the part", () => {
    const next = adopted(part, { ...variant, hand: "both", targets: {} } as unknown as Part);
    expect(next).toMatchObject({ id: "wing", name: "Left", hand: "left", cases: [{ id: "now" }] });
    expect(next.targets).toEqual(part.targets);
    expect(next.layers).toEqual([{ id: "spar" }]);
  });
  it("takes its loads too where it has another span", () => {
    expect(adopted(part, { ...variant, span_mm: 500 } as unknown as Part).cases).toEqual([{ id: "then" }]);
  });
});
