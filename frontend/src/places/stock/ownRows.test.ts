import { expect, it } from "vitest";
import type { Airframe } from "../../api/client";
import { ownRows, rangeOf } from "./ownRows";

const wing = {
  name: "Reed Warden",
  materials: [
    {
      id: "my-rod",
      table: "bar",
      like: "carbon_rod_3",
      name: "My rod",
      values: [{ of: "E_MPa", typ: 118000, cv_percent: 5 }],
    },
    {
      id: "my-foam",
      table: "foam",
      like: "epp_30",
      name: "My foam",
      values: [{ of: "density_kg_m3", typ: 28, low: 27, high: 29 }],
    },
  ],
} as unknown as Airframe;

it("lists own materials beside the row that they are like", () => {
  const bars = ownRows([wing, { name: "x" } as Airframe], "bars");
  expect([...bars.keys()]).toEqual(["carbon_rod_3"]);
  expect(bars.get("carbon_rod_3")![0]).toMatchObject({
    airframe: "Reed Warden",
    material: { name: "My rod" },
  });
  expect(ownRows([wing], "foams").get("epp_30")![0]!.values.density_kg_m3).toEqual({
    low: 27,
    typ: 28,
    high: 29,
  });
  expect(ownRows([wing], "skins").size).toBe(0);
});

it("spreads a coefficient of variation as the estimate does", () => {
  const { low, high } = rangeOf({ of: "E_MPa", typ: 100, cv_percent: 10 });
  expect(low).toBeCloseTo(84.86, 1);
  expect(high).toBeCloseTo(117.84, 1);
  expect(rangeOf({ of: "E_MPa", typ: 100 })).toEqual({ low: 100, typ: 100, high: 100 });
});
