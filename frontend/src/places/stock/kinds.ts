import type { Catalogue, Schemas } from "../../api/client";

export type Item = Schemas["StockItem"];
export type Kind = Item["kind"];

export const KINDS: { kind: Kind; one: string; many: string }[] = [
  { kind: "bar", one: "Bar", many: "Bars and dowels" },
  { kind: "sheet", one: "Sheet", many: "Sheets" },
  { kind: "block", one: "Foam block", many: "Foam blocks" },
  { kind: "roll", one: "Film or tape", many: "Film and tape" },
  { kind: "cloth", one: "Cloth", many: "Cloth" },
  { kind: "glue", one: "Glue", many: "Glue and resin" },
  { kind: "thing", one: "Fitting", many: "Fittings, cords and fasteners" },
];

/** Which sizes a kind of thing has. */
export const SIZES: Record<Kind, readonly ("length_mm" | "width_mm" | "thick_mm" | "grams")[]> = {
  bar: ["length_mm"],
  sheet: ["length_mm", "width_mm"],
  block: ["length_mm", "width_mm", "thick_mm"],
  roll: ["length_mm", "width_mm"],
  cloth: ["length_mm", "width_mm"],
  glue: ["grams"],
  thing: [],
};

export const SIZE_NAMES = {
  length_mm: "Length",
  width_mm: "Width",
  thick_mm: "Thickness",
  grams: "Grams left",
} as const;

/** Materials that a kind of thing may be made of. */
export function tableOf(catalogue: Catalogue, kind: Kind): { key: string; name: string; family: string }[] {
  switch (kind) {
    case "bar":
      return catalogue.bars;
    case "sheet":
      return [...catalogue.sheets, ...catalogue.foams];
    case "block":
      return catalogue.foams;
    case "roll":
      return catalogue.skins;
    case "cloth":
      return catalogue.cloths;
    case "glue":
      return catalogue.adhesives;
    case "thing":
      return [...catalogue.fittings, ...catalogue.fasteners, ...catalogue.cords];
  }
}

/** A thing of a kind as it is first typed. */
export function fresh(kind: Kind, catalogue: Catalogue): Item {
  const sizes: Partial<Item> = { length_mm: 1000, width_mm: 500, thick_mm: 20, grams: null };
  return {
    kind,
    key: tableOf(catalogue, kind)[0]!.key,
    count: 1,
    place: "",
    batch: "",
    note: "",
    origin: "bought",
    ...Object.fromEntries(SIZES[kind].map((s) => [s, sizes[s]])),
  };
}
