import type { Catalogue, Part } from "../api/client";

const GROUPS: Record<string, string> = {
  carbon_pultruded: "Carbon, pultruded",
  carbon_rollwrapped: "Carbon, wrapped tube",
  glass_pultruded: "Glass, pultruded",
  HDPE: "Polyethylene",
};

/** A family of materials as it is written over its group. */
export function worded(family: string): string {
  const text = (GROUPS[family] ?? family).replaceAll("_", " ");
  return text[0]!.toUpperCase() + text.slice(1);
}

interface Named {
  key: string;
  name: string;
  family: string;
  /** Measured by the builder. */
  yours?: boolean;
}

/** Materials of a table as choices, grouped by family; what is `made` of some families offers those first. */
export function optionsOf(table: Named[], made: ReadonlySet<string> = new Set()) {
  const first = [...table.filter((m) => made.has(m.family)), ...table.filter((m) => !made.has(m.family))];
  return first.map((m) => ({ value: m.key, label: m.name, group: m.yours ? "Yours" : worded(m.family) }));
}

/** The families of material that a part is made of. */
export function madeOf(part: Part, catalogue: Catalogue): ReadonlySet<string> {
  const keys = part.layers.flatMap((l) => {
    if (l.type === "bar") return [l.stock];
    if (l.type === "wall") return [l.sheet];
    if (l.type !== "strip" && l.type !== "film") return [];
    return typeof l.skin === "string" ? [l.skin] : l.skin.plies.map((p) => p.cloth);
  });
  const tables = [...catalogue.bars, ...catalogue.skins, ...catalogue.sheets, ...catalogue.cloths];
  return new Set(tables.filter((m) => keys.includes(m.key)).map((m) => m.family));
}

/** Bars as choices, all or those that pass. */
export function barOptions(
  catalogue: Catalogue,
  passes: (bar: Catalogue["bars"][number]) => boolean = () => true,
  made?: ReadonlySet<string>,
) {
  return optionsOf(catalogue.bars.filter(passes), made);
}
