import type { Airframe, Catalogue, Schemas } from "../../../api/client";

export type OwnMaterial = Schemas["OwnMaterial"];
export type OwnTable = OwnMaterial["table"];
export type OwnValue = NonNullable<OwnMaterial["values"]>[number];
type Row = { key: string; name: string; family: string };

/** The tables that own materials can be like, with the words for one of them. */
export const OWN_TABLES: Record<
  OwnTable,
  { list: "foams" | "skins" | "bars" | "sheets" | "cloths"; label: string }
> = {
  foam: { list: "foams", label: "Foam" },
  skin: { list: "skins", label: "Tape, film, paper, cloth" },
  bar: { list: "bars", label: "Rod, tube, strip" },
  sheet: { list: "sheets", label: "Sheet" },
  cloth: { list: "cloths", label: "Dry cloth" },
};

/** The words for columns that builders measure; others go by the name of their column. */
const COLUMNS: Record<string, string> = {
  density_kg_m3: "Density, kg/m³",
  E_MPa: "Stiffness E, MPa",
  E_along_MPa: "Stiffness E along, MPa",
  E_across_MPa: "Stiffness E across, MPa",
  E_tension_MPa: "Stiffness E pulled, MPa",
  E_compression_MPa: "Stiffness E pressed, MPa",
  G_MPa: "Stiffness G in shear, MPa",
  tensile_strength_MPa: "Strength, pulled, MPa",
  compressive_strength_MPa: "Strength, pressed, MPa",
  crush_stress_MPa: "Crushes at, MPa",
  shear_strength_MPa: "Shear strength, MPa",
  areal_mass_g_m2: "Weighs, g/m²",
  thickness_mm: "Thickness that carries, mm",
  total_thickness_mm: "Thickness, mm",
  diameter_mm: "Diameter, mm",
  bore_mm: "Bore, mm",
  wide_mm: "Width, mm",
  thin_mm: "Thickness, mm",
  stock_length_mm: "Length as sold, mm",
  peel_N_per_25mm: "Peels at, N per 25 mm",
};

export function columnWords(column: string): string {
  return COLUMNS[column] ?? column.replaceAll("_", " ");
}

/** The numbers of a row that can be the builder's own: name and typical value. */
export function numbersOf(row: object): { of: string; typ: number }[] {
  const found: { of: string; typ: number }[] = [];
  for (const [of, value] of Object.entries(row)) {
    if (typeof value === "number") found.push({ of, typ: value });
    else if (value && typeof value === "object" && "typ" in value)
      found.push({ of, typ: value.typ as number });
  }
  return found
    .filter((n) => n.typ > 0)
    .sort((a, b) => Number(!(a.of in COLUMNS)) - Number(!(b.of in COLUMNS)));
}

/** The row of the tables that an own material is like. */
export function likeOf(catalogue: Catalogue, own: OwnMaterial): Row | undefined {
  return (catalogue[OWN_TABLES[own.table].list] as Row[]).find((r) => r.key === own.like);
}

/** The materials with the airframe's own ones, which stand first in every choice. */
export function withOwn(catalogue: Catalogue, document: Airframe): Catalogue {
  const mine = document.materials ?? [];
  if (mine.length === 0) return catalogue;
  const found = { ...catalogue };
  for (const own of mine) {
    const like = likeOf(catalogue, own);
    if (!like) continue;
    const { list } = OWN_TABLES[own.table];
    const values = Object.fromEntries(
      (own.values ?? []).map((v) => {
        const now = new Map<string, unknown>(Object.entries(like)).get(v.of);
        return [
          v.of,
          typeof now === "number" ? v.typ : { low: v.low ?? v.typ, typ: v.typ, high: v.high ?? v.typ },
        ];
      }),
    );
    const row = { ...like, ...values, key: own.id, name: own.name, grade: "A", yours: true };
    (found[list] as Row[]) = [row, ...(found[list] as Row[])];
  }
  return found;
}
