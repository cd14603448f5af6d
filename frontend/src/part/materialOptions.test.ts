import { describe, expect, it } from "vitest";
import type { Catalogue, Part } from "../api/client";
import { madeOf, optionsOf } from "./materialOptions";

const row = (key: string, family: string, yours = false) => ({ key, name: key.toUpperCase(), family, yours });
const catalogue = {
  bars: [row("wood", "spruce"), row("rod", "carbon_pultruded"), row("rod4", "carbon_pultruded")],
  skins: [row("tape", "tape"), row("film", "hot_iron_film")],
  sheets: [row("ply", "plywood")],
  cloths: [row("glass", "glass_cloth")],
} as unknown as Catalogue;
const made = (...layers: object[]) => madeOf({ layers } as unknown as Part, catalogue);

describe("materials to choose from", () => {
  it("stand in the order of the table, what the part is made of first", () => {
    const values = (families?: Set<string>) => optionsOf(catalogue.bars, families).map((o) => o.value);
    expect(values()).toEqual(["wood", "rod", "rod4"]);
    expect(values(new Set(["carbon_pultruded"]))).toEqual(["rod", "rod4", "wood"]);
  });

  it("are grouped by family, one's own apart", () => {
    expect(optionsOf([row("a", "carbon_pultruded"), row("b", "tape", true)]).map((o) => o.group)).toEqual([
      "Carbon, pultruded",
      "Yours",
    ]);
  });

  it("know what a part is made of: bars, skins, cloths in resin, walls", () => {
    const laminate = { plies: [{ cloth: "glass" }] };
    const all = made(
      { type: "bar", stock: "rod" },
      { type: "strip", skin: "tape" },
      { type: "film", skin: laminate },
      { type: "wall", sheet: "ply" },
      { type: "cut" },
    );
    expect([...all].sort()).toEqual(["carbon_pultruded", "glass_cloth", "plywood", "tape"]);
    expect(made().size).toBe(0);
  });
});
