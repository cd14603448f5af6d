import type { Problem, Schemas } from "../../api/client";
import { plain, unitOf } from "../../forms/units";
import { GlueRow } from "./GlueRow";
import { WhyNot } from "./WhyNot";

interface Props {
  answer: Schemas["Gluing"];
  problems: Problem[];
  /** Keys of what could be used before the last change, in order. */
  before: string[];
  /** Minutes after which it must hold. */
  within: number;
}

/** Every adhesive, ranked, with the reason for its place; below, what is ruled out and why. */
export function GlueAnswer({ answer: shown, problems, before, within }: Props) {
  const fits = shown.choices.filter((c) => c.vetoes.length === 0);
  const out = shown.choices.filter((c) => c.vetoes.length > 0);
  return (
    <>
      <p className="text-lead font-semibold" role="status">
        {shown.says}
      </p>
      {problems.length > 0 && (
        <p className="text-fail" role="alert">
          Showing the last valid entry. {problems[0]!.message}
        </p>
      )}
      {shown.coupons_say.length > 0 && (
        <ul aria-label="What your tests changed" className="mt-1 text-body leading-snug">
          {shown.coupons_say.map((text) => (
            <li key={text} className="border-l-[3px] border-pick pl-2">
              From your glue tests: {text}
            </li>
          ))}
        </ul>
      )}
      {shown.schools_say.length > 0 && (
        <ul aria-label="What your choices changed" className="mt-1 text-body leading-snug">
          {shown.schools_say.map((text) => (
            <li key={text} className="border-l-[3px] border-rule pl-2">
              {text}
            </li>
          ))}
        </ul>
      )}
      <div
        aria-hidden="true"
        className="label-type mt-3 grid grid-cols-[2.6rem_minmax(0,1fr)_8.5rem_8.5rem_5rem] gap-x-3 text-note text-soft max-md:hidden"
      >
        <span />
        <span />
        <span className="text-right">after {plain(within)} min</span>
        <span className="text-right">cured</span>
        <span className="text-right">added mass, {unitOf("mass")}</span>
      </div>
      <ol aria-label="Suitable adhesives" className="border-t border-ink">
        {fits.map((c, i) => (
          <GlueRow
            key={c.key}
            choice={c}
            rank={i + 1}
            before={before.indexOf(c.key) + 1}
            asked={shown.asked_N}
            within={within}
          />
        ))}
      </ol>
      <WhyNot choices={shown.choices} />
      {out.length > 0 && (
        <>
          <h2 className="mt-6 border-b border-ink text-lead font-semibold">Ruled out, with reasons</h2>
          <ul className="text-body">
            {out.map((c) => (
              <li key={c.key} className="border-b border-rule py-1.5 leading-snug">
                <strong>{c.name}</strong>
                <ul>
                  {c.vetoes.map((text) => (
                    <li key={text} className="text-soft">
                      <span className="text-fail">✕</span> {text}
                    </li>
                  ))}
                </ul>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-4 border-l-[3px] border-fail pl-3 text-small leading-snug">
        All figures are estimates (data quality B or C). The product’s data sheet comes first. Glue two
        scraps, let them cure, break them and look at the broken face.
      </p>
    </>
  );
}
