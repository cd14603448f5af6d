import { describe, expect, it } from "vitest";
import type { Airframe, Catalogue } from "../../../api/client";
import { columnWords, numbersOf, withOwn } from "./ownMaterials";

const rod = {
  key: "rod_3",
  name: "Rod 3 mm",
  family: "carbon_pultruded",
  grade: "B",
  diameter_mm: 3,
  bore_mm: null,
  E_MPa: { low: 100, typ: 120, high: 140 },
  note: "a note",
  facing_gain: 0,
};
const catalogue = { bars: [rod], foams: [], skins: [], sheets: [], cloths: [] } as unknown as Catalogue;
const own = {
  id: "mine",
  table: "bar",
  like: "rod_3",
  name: "My rod",
  values: [{ of: "E_MPa", typ: 90 }],
  note: "",
};
const holding = (materials: unknown[]) => ({ materials }) as unknown as Airframe;

describe("own materials", () => {
  it("stand first in their table, like their row but for what was measured", () => {
    const [first, second] = withOwn(catalogue, holding([own])).bars as unknown as (typeof rod & {
      yours?: boolean;
    })[];
    expect(first).toMatchObject({ key: "mine", name: "My rod", diameter_mm: 3, yours: true, grade: "A" });
    expect(first!.E_MPa).toEqual({ low: 90, typ: 90, high: 90 });
    expect(second).toBe(rod);
    expect(catalogue.bars).toHaveLength(1);
  });

  it("keep a plain number plain and a range a range", () => {
    const values = [
      { of: "diameter_mm", typ: 3.2 },
      { of: "E_MPa", typ: 90, low: 80, high: 95 },
    ];
    const [first] = withOwn(catalogue, holding([{ ...own, values }])).bars as unknown as (typeof rod)[];
    expect(first!.diameter_mm).toBe(3.2);
    expect(first!.E_MPa).toEqual({ low: 80, typ: 90, high: 95 });
  });

  it("are left out where the row that they are like is unknown, and cost nothing where there are none", () => {
    expect(withOwn(catalogue, holding([{ ...own, like: "nothing" }])).bars).toHaveLength(1);
    expect(withOwn(catalogue, holding([]))).toBe(catalogue);
  });

  it("offer the numbers of a row, those that builders measure first", () => {
    expect(numbersOf(rod)).toEqual([
      { of: "diameter_mm", typ: 3 },
      { of: "E_MPa", typ: 120 },
    ]);
    expect(columnWords("E_MPa")).toBe("Stiffness E, MPa");
    expect(columnWords("shear_strain_pct")).toBe("shear strain pct");
  });
});
