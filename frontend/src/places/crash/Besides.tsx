import type { Schemas } from "../../api/client";
import { bare, place, show, unitOf } from "../../forms/units";
import { FrontPlot } from "./FrontPlot";

/** What stands beside the repairs: in two stages, the front, missing pieces, what the other half shows. */
export function Besides({
  answer,
  pick,
}: {
  answer: Schemas["Mending"];
  pick: (recipe: Schemas["Recipe"]) => void;
}) {
  return (
    <div className="mt-6 grid gap-x-10 gap-y-4 lg:grid-cols-2">
      <section aria-label="Best trade-offs">
        <h2 className="border-b border-ink text-lead font-semibold">Best trade-offs</h2>
        <FrontPlot points={answer.front} pick={pick} />
      </section>
      <div className="grid content-start gap-4">
        {answer.staged.length > 0 && (
          <section aria-label="Two-stage repair">
            <h2 className="border-b border-ink text-lead font-semibold">
              Quick fix now, sound repair later?
            </h2>
            {answer.staged.map((s) => (
              <p key={s.says} className="py-1.5 text-body leading-snug">
                Now: {s.first}. Later: {s.then}. <strong>{s.says}</strong>
              </p>
            ))}
          </section>
        )}
        {answer.pieces.length > 0 && (
          <section aria-label="Foam needed">
            <h2 className="border-b border-ink text-lead font-semibold">Foam needed</h2>
            <ul className="text-body">
              {answer.pieces.map((p) => (
                <li key={p.mark_id} className="border-b border-rule py-1 leading-snug">
                  {p.size_mm.map((v) => bare(v, "length")).join(" × ")} {unitOf("length")} of {p.foam},{" "}
                  {show(p.grams.typ, "mass", 2)}
                  {p.donors.length > 0 && (
                    <span className="text-soft"> · offcuts from: {p.donors.join("; ")}</span>
                  )}
                </li>
              ))}
            </ul>
          </section>
        )}
        {answer.gauges.length > 0 && (
          <section aria-label="Other half, measured">
            <h2 className="border-b border-ink text-lead font-semibold">
              Check against the other half (mirrored)
            </h2>
            <ul className="text-body">
              {answer.gauges.map((g) => (
                <li key={g.at_mm} className="border-b border-rule py-1">
                  {place(g.at_mm)}: chord {show(g.chord_mm, "length", 4)}, thickness{" "}
                  {show(g.thickness_mm, "length")}, nose {show(g.setback_mm, "length")} back
                </li>
              ))}
            </ul>
          </section>
        )}
        <details>
          <summary className="label-type min-h-10 cursor-pointer py-2">Assumptions</summary>
          <ul className="list-disc pl-5 text-body leading-snug">
            {answer.assumptions.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </details>
      </div>
    </div>
  );
}
