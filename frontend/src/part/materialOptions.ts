import type { Catalogue } from "../api/client";

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

/** Materials of a table as choices, grouped by family. */
export function optionsOf(table: Named[]) {
  return table.map((m) => ({ value: m.key, label: m.name, group: m.yours ? "Yours" : worded(m.family) }));
}

/** Bars as choices, all or those that pass. */
export function barOptions(
  catalogue: Catalogue,
  passes: (bar: Catalogue["bars"][number]) => boolean = () => true,
) {
  return optionsOf(catalogue.bars.filter(passes));
}
