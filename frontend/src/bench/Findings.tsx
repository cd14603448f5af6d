import type { Estimate } from "../api/client";
import { nearest, readAt } from "../drawing/interpolate";
import { place, plain } from "../shared/units";

/** What gives, in order, and what the part is worth at the cursor. */
export function Findings({ estimate, load, cursor }: { estimate: Estimate; load: number; cursor: number }) {
  const { curves } = estimate;
  const at = (values: (number | null)[]) => readAt(curves.y_mm, values, cursor) ?? 0;
  const facts: [string, string][] = [
    [
      "Strength used, with the factor",
      `${Math.round(100 * (curves.use[nearest(curves.y_mm, cursor)] ?? 0))} %`,
    ],
    ["Bent by", `${plain(Math.abs(at(curves.deflection_mm)))} mm`],
    ["Bending stiffness EI", `${plain(at(curves.EI_N_mm2) / 1e6)} N·m²`],
    ["Torsional stiffness GJ", `${plain(at(curves.GJ_N_mm2) / 1e6)} N·m²`],
  ];
  return (
    <div className="px-5 pt-2 pb-1 text-[0.87rem]">
      <h2 className="border-b border-ink pb-1 font-semibold">What gives, in order</h2>
      <ol>
        {estimate.failures.slice(0, 4).map((f, i) => (
          <li
            key={f.kind + f.line_id + f.where}
            className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 border-b border-rule py-1 leading-tight"
          >
            <span>
              <span className={i === 0 ? "font-semibold" : ""}>
                {f.holds.typ <= load && <span className="text-fail">✕ </span>}
                {f.sentence}
              </span>
              <span className="block text-soft">
                {f.breaks ? "parts" : "gives"} {place(f.at_mm)}
              </span>
            </span>
            <span className="text-right">
              <span className="figure-type">{plain(f.holds.typ)} ×</span>
              <span className="block text-[0.8rem] text-soft">
                {plain(f.holds.low, 2)} – {plain(f.holds.high, 2)}
              </span>
            </span>
          </li>
        ))}
      </ol>
      <h2 className="mt-2.5 border-b border-ink pb-0.5 font-semibold">At {plain(cursor, 4)} mm</h2>
      <dl>
        {facts.map(([name, value]) => (
          <div key={name} className="flex justify-between gap-3 border-b border-rule py-0.5">
            <dt className="text-soft">{name}</dt>
            <dd className="figure-type">{value}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
