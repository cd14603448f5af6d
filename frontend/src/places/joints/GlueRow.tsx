import { useState } from "react";
import type { Schemas } from "../../api/client";
import { CautionLines } from "../../words/Cautions";
import { bare, show, shownValue, unitOf } from "../../forms/units";
import { OverTime } from "./OverTime";

type Glue = Schemas["GlueChoice"];

const MEETS = {
  sure: "✓ sure",
  typical: "≈ likely",
  later: "only once cured",
  no: "✕ no",
} as const;

/** A band in the unit of force that is shown. */
const inForce = (b: Schemas["Band"]): Schemas["Band"] => ({
  ...b,
  typ: shownValue(b.typ, "force"),
  low: shownValue(b.low, "force"),
  high: shownValue(b.high, "force"),
});

interface Props {
  choice: Glue;
  rank: number;
  /** Its place before the last change; 0: it had none. */
  before: number;
  asked: number;
  within: number;
}

/** One adhesive: its place and why, what it holds and when; opened, how it is used. */
export function GlueRow({ choice: c, rank, before, asked, within }: Props) {
  const moved = before > 0 ? before - rank : 0;
  const [open, setOpen] = useState(false);
  return (
    <li className="border-b border-rule">
      <details onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary className="grid min-h-14 cursor-pointer grid-cols-[2.6rem_minmax(0,1fr)_8.5rem_8.5rem_5rem] items-center gap-x-3 py-1.5 hover:bg-pick-wash max-md:grid-cols-[2.6rem_minmax(0,1fr)_7rem]">
          <span className="figure-type text-lead">
            {rank}
            {moved !== 0 && (
              <span className="block text-note font-normal text-soft">
                {moved > 0 ? "▲" : "▼"} {Math.abs(moved)}
              </span>
            )}
          </span>
          <span className="leading-tight">
            <strong>{c.name}</strong>
            <span className="block text-small text-soft">{c.why}</span>
            {c.test_first && <span className="block text-small text-fail">⚠ {c.test_first}</span>}
            {c.own && <span className="block text-small text-pick">{c.own.says}</span>}
          </span>
          <span className="text-right">
            <span className={`figure-type ${c.meets === "no" ? "text-fail" : ""}`}>
              {show(c.then_N.typ, "force", 2)}
            </span>
            <span className="block text-note text-soft">
              {bare(c.then_N.low, "force", 2)} – {bare(c.then_N.high, "force", 2)}
            </span>
            <span className="block text-note">{MEETS[c.meets]}</span>
          </span>
          <span className="text-right max-md:hidden">
            <span className="figure-type">{show(c.finally_N.typ, "force", 2)}</span>
            <span className="sr-only"> cured</span>
            <span className="block text-note text-soft">{c.fails}</span>
          </span>
          <span className="text-right max-md:hidden">
            <span className="figure-type">{show(c.grams.typ, "mass", 2)}</span>
            <span className="block text-note text-soft">
              {bare(c.grams.low, "mass", 2)} – {bare(c.grams.high, "mass", 2)}
            </span>
          </span>
        </summary>
        {open && <Use {...{ choice: c, asked, within }} />}
      </details>
    </li>
  );
}

/** How an adhesive is used on this joint, and what it holds over time. */
function Use({ choice: c, asked, within }: Pick<Props, "choice" | "asked" | "within">) {
  return (
    <div className="grid grid-cols-2 gap-x-8 pt-1 pb-4 pl-[3.3rem] text-body max-md:grid-cols-1 max-md:pl-0">
      <OverTime
        name={c.name}
        points={c.curve.map((p) => ({ minutes: p.minutes, value: inForce(p.load_N) }))}
        asked={shownValue(asked, "force")}
        within={within}
        unit={unitOf("force")}
        says="Strength after closing (5–95 % range); dashed: load needed; dotted: time needed."
      />
      <div className="leading-snug">
        <p>
          <strong>Application:</strong> {c.technique_says}.
        </p>
        <ol className="my-1 list-decimal pl-5">
          {c.plan.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
        <p>
          <strong>Prepare:</strong> {c.prepare}.
        </p>
        <p>
          <strong>Under steady load</strong> it holds {show(c.steady_N.typ, "force", 2)} (
          {bare(c.steady_N.low, "force", 2)} – {bare(c.steady_N.high, "force", 2)}): under a load that stays
          on, glue creeps.
        </p>
        <p>
          <strong>Clean up:</strong> {c.clean_up}. <strong>In the sun:</strong> {c.in_sun}.
        </p>
        <CautionLines cautions={c.cautions} />
        <p className="mt-1.5 text-small text-soft">Estimate, data quality {c.grade}.</p>
      </div>
    </div>
  );
}
