import type { Band, Estimate, Problem } from "../api/client";
import { place, plain } from "../shared/units";

/** The band of a size; of something negative, of its size. */
function range(band: Band, digits = 3): string {
  if (band.typ < 0) return range({ ...band, typ: -band.typ, low: -band.high, high: -band.low }, digits);
  return `${plain(band.low, digits)} – ${plain(band.high, digits)}`;
}

interface CellProps {
  label: string;
  figure: string;
  unit: string;
  band: string;
  cause?: string | undefined;
  open: (() => void) | undefined;
}

function Cell({ label, figure, unit, band, cause, open }: CellProps) {
  return (
    <button
      type="button"
      onClick={open}
      aria-label={`${label} ${figure} ${unit}, show the working`}
      className="flex min-w-0 flex-col items-stretch justify-start border-r border-rule px-4 py-2 text-left hover:bg-pick-wash"
    >
      <span className="label-type block text-[0.8rem] text-soft underline decoration-dotted underline-offset-3">
        {label}
      </span>
      <span className="block whitespace-nowrap">
        <span className="figure-type text-[1.6rem] leading-none">{figure}</span>{" "}
        <span className="label-type">{unit}</span>
      </span>
      <span className="block text-[0.85rem] whitespace-nowrap text-soft">{band}</span>
      {cause && <span className="line-clamp-2 text-[0.78rem] leading-tight text-soft">{cause}</span>}
    </button>
  );
}

/** Where a cell has nothing to tell in this case. */
function Still({ label, text }: { label: string; text: string }) {
  return (
    <div className="border-r border-rule px-4 py-2">
      <p className="label-type text-[0.8rem] text-soft">{label}</p>
      <p className="text-[0.85rem] text-soft">{text}</p>
    </div>
  );
}

function because(band: Band): string | undefined {
  return band.causes.length ? `mostly ${band.causes.join(", ")}` : undefined;
}

/** The verdict, ruled like the title block of a shop drawing. Always in sight. */
export function Verdict({
  estimate,
  problems,
  openWorking,
}: {
  estimate: Estimate | null;
  problems: Problem[];
  openWorking: (figure: string) => void;
}) {
  if (!estimate)
    return (
      <footer className="col-span-full min-h-28 border-t border-ink p-4" aria-label="Verdict">
        {problems.map((p) => (
          <p key={p.path + p.message} className="text-fail">
            {p.path} {p.message}
          </p>
        ))}
      </footer>
    );
  const { first, holds, safety_factor } = estimate;
  const enough = holds.typ >= safety_factor;
  const sure = holds.low >= safety_factor;
  const open = (figure: string) => () => openWorking(figure);
  const parting = estimate.failures.find((f) => f.breaks);
  const [up, down] = estimate.snaps;
  const governing = estimate.verdicts.find((v) => v.case_id === estimate.governs);
  return (
    <footer
      aria-label="Verdict"
      className="sticky bottom-0 z-10 col-span-full grid border-t border-ink bg-ground max-[1099px]:order-2 max-[1099px]:grid-cols-4 min-[1100px]:grid-cols-[9.5rem_11rem_10.5rem_14.5rem_minmax(0,1fr)]"
    >
      {estimate.lines[0]?.id === "foam" ? (
        <Cell
          open={open("added")}
          label="Added to foam"
          figure={plain(estimate.added_g.typ)}
          unit="g"
          band={estimate.added_g.typ > 0 ? range(estimate.added_g) : "bare foam"}
          cause={`whole part ${plain(estimate.mass_g.typ)} g`}
        />
      ) : (
        <Cell
          open={open("mass")}
          label="Weighs"
          figure={plain(estimate.mass_g.typ)}
          unit="g"
          band={range(estimate.mass_g)}
          cause={because(estimate.mass_g)}
        />
      )}
      {estimate.deflection_mm.high > 0 ? (
        <Cell
          open={open("bend")}
          label={
            estimate.control
              ? "Bends between hinges"
              : `${estimate.supports_mm ? "Middle" : "Tip"} ${estimate.reads === "swing" ? "swings" : "bends"}`
          }
          figure={plain(estimate.deflection_mm.typ)}
          unit="mm"
          band={range(estimate.deflection_mm)}
          cause={because(estimate.deflection_mm)}
        />
      ) : (
        <Still label="Bend" text="nothing bends here" />
      )}
      {estimate.twist_deg ? (
        <Cell
          open={open("twist")}
          label={
            estimate.control
              ? "Farthest point gives"
              : `${estimate.supports_mm ? "End" : "Tip"} twists, nose ${estimate.twist_deg.typ >= 0 ? "up" : "down"}`
          }
          figure={plain(Math.abs(estimate.twist_deg.typ))}
          unit="°"
          band={range(estimate.twist_deg)}
          cause={because(estimate.twist_deg)}
        />
      ) : (
        <Still label="Twist" text="nothing twists here" />
      )}
      <Cell
        open={open("holds")}
        label="Holds"
        figure={plain(holds.typ)}
        unit="× the load"
        band={`${range(holds)}, asked ${plain(safety_factor)}`}
        cause={because(holds)}
      />
      <div className="min-w-0 px-4 py-2.5 max-[1099px]:col-span-full max-[1099px]:row-start-1">
        <p className="label-type text-[0.8rem] text-soft">First to give</p>
        <p
          className={`font-label text-[1.1rem] leading-tight font-semibold ${enough ? "" : "text-fail"}`}
          aria-live="polite"
        >
          {first.sentence}, {place(first.at_mm)}
        </p>
        <p className="mt-0.5 text-[0.85rem] leading-snug text-soft">
          {first.breaks
            ? "This parts it."
            : parting
              ? `It gives there; it parts at ${plain(parting.holds.typ)} × the load.`
              : "It gives there, does not part yet."}{" "}
          {sure
            ? "Enough, even at the low end of the estimate."
            : enough
              ? "Enough if typical, not at the low end of the estimate."
              : `Not enough: it asks for ${plain(safety_factor)} × the load.`}
        </p>
        {up && down && (
          <p className="mt-0.5 text-[0.85rem] leading-snug">
            <button
              type="button"
              className="text-soft underline decoration-dotted underline-offset-3"
              onClick={open("snap")}
            >
              Bent by hand till it parts:
            </button>{" "}
            {up.sentence === down.sentence ? (
              <strong>{up.sentence}</strong>
            ) : (
              <>
                up <strong>{up.sentence}</strong>, down <strong>{down.sentence}</strong>
              </>
            )}
          </p>
        )}
        {estimate.snaps.some((s) => s.reserve) && (
          <p className="mt-0.5 text-[0.85rem] leading-snug text-soft">
            Once cracked it would still carry this load: a reserve for coming home, not a strength to count
            on.
          </p>
        )}
        {governing && governing.case_id !== estimate.case_id && (
          <p className="mt-0.5 text-[0.85rem] leading-snug">
            <span className="text-soft">Of all cases kept</span> <strong>{governing.name}</strong>{" "}
            <span className="text-soft">
              leaves least: holds {plain(governing.holds.typ)} of {plain(governing.asked)} asked
            </span>
          </p>
        )}
        {problems.length > 0 && (
          <p className="mt-0.5 text-[0.85rem] text-fail" role="alert">
            Shown is the last possible state. {problems[0]!.path.split(".").at(-1)?.replaceAll("_", " ")}{" "}
            {problems[0]!.message}
          </p>
        )}
      </div>
    </footer>
  );
}
