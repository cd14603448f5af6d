import { useState } from "react";
import type { Catalogue } from "../../api/client";
import { useCatalogue, useShelf, useUses } from "../../api/queries";
import { Choice } from "../../forms/fields";
import { found } from "../../forms/finding";
import { plain } from "../../forms/units";
import { worded } from "../../part/materialOptions";
import { ownRows } from "./ownRows";

type Range = { low: number; typ: number; high: number };
type Kind = "foams" | "bars" | "sheets" | "skins" | "cloths" | "resins" | "cords" | "fasteners";

interface Row {
  key: string;
  name: string;
  family: string;
  grade: string;
  basis?: string;
  note?: string;
}

const KINDS: { value: Kind; label: string }[] = [
  { value: "foams", label: "Foams" },
  { value: "bars", label: "Bars, tubes and dowels" },
  { value: "sheets", label: "Sheets" },
  { value: "skins", label: "Film, tape, paper, coats" },
  { value: "cloths", label: "Cloth" },
  { value: "resins", label: "Resin" },
  { value: "cords", label: "Cords" },
  { value: "fasteners", label: "Fasteners" },
];

/** Figures of a kind that tell the most, with their units. */
const FIGURES: Record<Kind, [field: string, says: string][]> = {
  foams: [
    ["density_kg_m3", "kg/m³"],
    ["E_compression_MPa", "E push, MPa"],
    ["crush_stress_MPa", "crush, MPa"],
  ],
  bars: [
    ["density_kg_m3", "kg/m³"],
    ["E_MPa", "E, MPa"],
    ["tensile_strength_MPa", "pull, MPa"],
  ],
  sheets: [
    ["areal_mass_g_m2", "g/m²"],
    ["thickness_mm", "mm"],
    ["E_along_MPa", "E along, MPa"],
  ],
  skins: [
    ["areal_mass_g_m2", "g/m²"],
    ["E_along_MPa", "E along, MPa"],
    ["tensile_strength_MPa", "pull, MPa"],
  ],
  cloths: [
    ["areal_mass_g_m2", "g/m²"],
    ["tensile_strain_pct", "breaks at, %"],
  ],
  resins: [["E_MPa", "E, MPa"]],
  cords: [
    ["g_per_m", "g/m"],
    ["strength_N", "N"],
  ],
  fasteners: [["strength_N", "N"]],
};

const isRange = (v: unknown): v is Range =>
  typeof v === "object" && v !== null && "typ" in v && typeof v.typ === "number";

/** A range as it is read: typical, and from to. */
function Figure({ of, field }: { of: object; field: string }) {
  const value = (of as Record<string, unknown>)[field];
  if (!isRange(value)) return <>–</>;
  return (
    <>
      {plain(value.typ, 3)}
      <span className="block text-note text-soft">
        {plain(value.low, 3)} – {plain(value.high, 3)}
      </span>
    </>
  );
}

/** The tables that every estimate reads: figures with their range, how sure they are and why, and where each is used. */
export function Materials() {
  const catalogue = useCatalogue().data;
  const uses = useUses().data ?? {};
  const airframes = useShelf().data;
  const [kind, setKind] = useState<Kind>("foams");
  const [typed, setTyped] = useState("");
  if (!catalogue) return <p role="status">Reading the tables…</p>;
  const own = ownRows(
    (airframes ?? []).map((a) => a.document),
    kind,
  );
  const table = catalogue[kind as keyof Catalogue] as unknown as Row[];
  const keys = new Set(
    found(
      table.map((m) => ({ value: m.key, label: m.name, group: worded(m.family) })),
      typed,
    ).map((o) => o.value),
  );
  const rows = table.filter((m) => keys.has(m.key));
  const figures = FIGURES[kind].filter(([field]) => table.some((m) => isRange((m as never)[field])));
  return (
    <section aria-label="Materials">
      <div className="grid max-w-2xl grid-cols-2 gap-4 py-3">
        <Choice label="Table" value={kind} options={KINDS} onChange={setKind} />
        <label className="grid gap-1">
          <span className="label-type text-small">Name</span>
          <input className="field-box" value={typed} onChange={(e) => setTyped(e.target.value)} />
        </label>
      </div>
      <div className="overflow-x-auto" role="group" aria-label="Table of materials" tabIndex={0}>
        <table className="w-full min-w-[44rem] text-body">
          <thead className="label-type text-note text-soft">
            <tr className="border-b border-ink text-right align-bottom">
              <th scope="col" className="text-left">
                Material
              </th>
              {figures.map(([field, says]) => (
                <th key={field} scope="col" className="pl-3">
                  {says}
                </th>
              ))}
              <th scope="col" className="pl-3">
                Grade
              </th>
              <th scope="col" className="pl-6 text-left">
                Used in
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.flatMap((m) => [
              <tr key={m.key} className="border-b border-rule align-top">
                <th scope="row" className="py-1.5 text-left font-semibold">
                  {m.name}
                  {m.basis && (
                    <details className="text-small font-normal">
                      <summary className="cursor-pointer text-soft">basis</summary>
                      <p className="max-w-prose leading-snug">{m.basis}</p>
                      {m.note && <p className="max-w-prose leading-snug">{m.note}</p>}
                    </details>
                  )}
                </th>
                {figures.map(([field]) => (
                  <td key={field} className="figure-type py-1.5 pl-3 text-right whitespace-nowrap">
                    <Figure of={m} field={field} />
                  </td>
                ))}
                <td className="figure-type py-1.5 pl-3 text-right">{m.grade}</td>
                <td className="py-1.5 pl-6 leading-snug">{(uses[m.key] ?? []).join(", ") || "–"}</td>
              </tr>,
              ...(own.get(m.key) ?? []).map((o) => (
                <tr
                  key={`${m.key} ${o.airframe} ${o.material.id}`}
                  className="border-b border-rule align-top"
                >
                  <th scope="row" className="py-1.5 pl-4 text-left font-normal">
                    <span className="font-semibold">{o.material.name}</span>
                    <span className="block text-small text-soft">measured by you, like the one above</span>
                  </th>
                  {figures.map(([field]) => (
                    <td key={field} className="figure-type py-1.5 pl-3 text-right whitespace-nowrap">
                      <Figure of={o.values} field={field} />
                    </td>
                  ))}
                  <td className="py-1.5 pl-3 text-right text-soft">own</td>
                  <td className="py-1.5 pl-6 leading-snug">{o.airframe}</td>
                </tr>
              )),
            ])}
          </tbody>
        </table>
      </div>
      {rows.length === 0 && <p className="py-3 text-soft">No material of that name.</p>}
    </section>
  );
}
