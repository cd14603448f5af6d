import type { Airframe, Schemas } from "../../api/client";

type OwnMaterial = Schemas["OwnMaterial"];

/** An own material and the airframe that it was measured for. */
export interface OwnRow {
  material: OwnMaterial;
  airframe: string;
  /** Its values as a row of the table has them, by field. */
  values: Record<string, { low: number; typ: number; high: number }>;
}

const SPREAD = 1.6448536;

/** The range of a measured value: as given, or of its coefficient of variation as a lognormal spread. */
export function rangeOf(v: NonNullable<OwnMaterial["values"]>[number]) {
  if (v.low != null && v.high != null) return { low: v.low, typ: v.typ, high: v.high };
  const spread = Math.exp(SPREAD * Math.sqrt(Math.log(1 + ((v.cv_percent ?? 0) / 100) ** 2)));
  return { low: v.typ / spread, typ: v.typ, high: v.typ * spread };
}

const TABLE = { foam: "foams", bar: "bars", sheet: "sheets", skin: "skins", cloth: "cloths" } as const;

/** Own materials of all airframes, by the key of the row that each is like, for one table. */
export function ownRows(documents: Airframe[], table: string): Map<string, OwnRow[]> {
  const found = new Map<string, OwnRow[]>();
  for (const d of documents)
    for (const material of d.materials ?? []) {
      if (TABLE[material.table] !== table) continue;
      const values = Object.fromEntries((material.values ?? []).map((v) => [v.of, rangeOf(v)]));
      const row = { material, airframe: d.name, values };
      found.set(material.like, [...(found.get(material.like) ?? []), row]);
    }
  return found;
}
