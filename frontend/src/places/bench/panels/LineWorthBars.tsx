import { memo } from "react";
import type { Estimate } from "../../../api/client";
import { show } from "../../../forms/units";

/** A share as a bar and a figure; of what stands before it. */
function Share({ of, value }: { of: string; value: number }) {
  const percent = 100 * value;
  return (
    <span className="mt-0.5 grid grid-cols-[2.9rem_1fr_2.6rem] items-center gap-x-1">
      <span className="label-type text-note text-soft">{of}</span>
      <span className="h-2 border-l border-ink bg-rule/45">
        <span className="block h-full bg-ink" style={{ width: `${Math.max(0, Math.min(100, percent))}%` }} />
      </span>
      <span className="text-right text-note">
        {percent < 0.95 ? percent.toFixed(1) : Math.round(percent)} %
      </span>
    </span>
  );
}

/** What a line weighs, and its shares of the stiffness in bending and twist and of the strength. */
export const LineWorthBars = memo(function LineWorthBars({
  result,
}: {
  result: Estimate["lines"][number] | undefined;
}) {
  if (!result) return <span className="text-right">–</span>;
  return (
    <span>
      <span className="figure-type block text-right leading-tight">{show(result.grams.typ, "mass")}</span>
      <Share of="bend" value={result.bending_share} />
      <Share of="twist" value={result.torsion_share} />
      <Share of="strength" value={result.strength_share} />
    </span>
  );
});
