import { memo } from "react";
import type { Estimate } from "../../../api/client";
import { nearest, readAt } from "../../../charts/interpolate";
import { place, plain, show } from "../../../forms/units";
import { FailureSketch } from "../../../part/FailureSketch";

const LISTED = 5;

/** The first of what happens, and always what decides the break load. */
function listed(estimate: Estimate) {
  const told = estimate.failures.slice(0, LISTED);
  const last = estimate.failures.find((f) => f.figure === "breaks_at");
  return last && !told.includes(last) ? [...told.slice(0, LISTED - 1), last] : told;
}

/** What happens as the load grows, in order, and what the part is worth at the cursor. */
export const Findings = memo(function Findings({
  estimate,
  load,
  cursor,
  openWorking,
}: {
  estimate: Estimate;
  load: number;
  cursor: number;
  openWorking: (figure: string) => void;
}) {
  const { curves } = estimate;
  const at = (values: (number | null)[]) => readAt(curves.y_mm, values, cursor) ?? 0;
  const facts: [string, string][] = [
    ["Strength used", `${Math.round(100 * (curves.use[nearest(curves.y_mm, cursor)] ?? 0))} %`],
    ["Deflection here", show(Math.abs(at(curves.deflection_mm)), "length")],
    ["Bending stiffness EI", show(at(curves.EI_N_mm2) / 1e6, "stiffness")],
    ["Torsional stiffness GJ", show(at(curves.GJ_N_mm2) / 1e6, "stiffness")],
    ["Shear centre, aft of leading edge", show(at(curves.shear_centre_mm), "length")],
  ];
  return (
    <div className="px-5 pt-2 pb-1 text-small">
      <h2 className="border-b border-ink pb-1 font-semibold">As the load grows</h2>
      <ol>
        {listed(estimate).map((f) => (
          <li key={f.figure} className="border-b border-rule">
            <button
              type="button"
              aria-label={`${f.sentence}, show working`}
              onClick={() => openWorking(f.figure)}
              className="grid min-h-10 w-full grid-cols-[minmax(0,1fr)_auto] gap-x-3 py-1 text-left leading-tight hover:bg-pick-wash"
            >
              <span>
                <span className={f.figure === "breaks_at" ? "font-semibold" : ""}>
                  {f.comes_at.typ <= load && <span className="text-fail">{f.breaks ? "✕ " : "• "}</span>}
                  {f.sentence}
                </span>
                <span className="block text-soft">
                  {f.breaks ? "breaks" : f.stays ? "changes, stays" : "changes, goes back"} · {place(f.at_mm)}
                </span>
              </span>
              <span className="grid justify-items-end gap-0.5">
                <span className="figure-type">{plain(f.comes_at.typ)} ×</span>
                <span className="block text-note text-soft">
                  {plain(f.comes_at.low, 2)} – {plain(f.comes_at.high, 2)}
                </span>
                <FailureSketch kind={f.kind} where={f.where} />
              </span>
            </button>
          </li>
        ))}
      </ol>
      <h2 className="mt-2.5 flex items-baseline justify-between border-b border-ink pb-0.5 font-semibold">
        At {show(cursor, "length", 4)}
        <button
          type="button"
          className="min-h-10 font-normal text-soft underline decoration-dotted underline-offset-3"
          onClick={() => openWorking("section")}
        >
          show working
        </button>
      </h2>
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
});
