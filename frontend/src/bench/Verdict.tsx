import type { Band, Estimate, Problem } from "../api/client";
import { place, plain } from "../shared/units";

function range(band: Band, digits = 3): string {
  return `${plain(band.low, digits)} – ${plain(band.high, digits)}`;
}

function Cell(props: {
  label: string;
  figure: string;
  unit: string;
  band: string;
  cause?: string | undefined;
}) {
  return (
    <div className="min-w-0 border-r border-rule px-4 py-2">
      <p className="label-type text-[0.8rem] text-soft">{props.label}</p>
      <p className="whitespace-nowrap">
        <span className="figure-type text-[1.6rem] leading-none">{props.figure}</span>{" "}
        <span className="label-type">{props.unit}</span>
      </p>
      <p className="text-[0.85rem] whitespace-nowrap text-soft">{props.band}</p>
      {props.cause && <p className="line-clamp-1 text-[0.78rem] leading-tight text-soft">{props.cause}</p>}
    </div>
  );
}

function because(band: Band): string | undefined {
  return band.causes?.length ? `mostly ${band.causes[0]}` : undefined;
}

/** The verdict, ruled like the title block of a shop drawing. Always in sight. */
export function Verdict({ estimate, problems }: { estimate: Estimate | null; problems: Problem[] }) {
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
  return (
    <footer
      aria-label="Verdict"
      className="sticky bottom-0 z-10 col-span-full grid border-t border-ink bg-ground max-[1099px]:order-2 max-[1099px]:grid-cols-3 min-[1100px]:grid-cols-[11rem_12.5rem_17rem_minmax(0,1fr)]"
    >
      <Cell
        label="Added to the foam"
        figure={plain(estimate.added_g.typ)}
        unit="g"
        band={estimate.added_g.typ > 0 ? range(estimate.added_g) : "bare foam"}
        cause={`whole part ${plain(estimate.mass_g.typ)} g`}
      />
      <Cell
        label={Math.abs(estimate.deflection_at_mm - estimate.span_mm) < 1 ? "Tip bends" : "Middle bends"}
        figure={plain(estimate.deflection_mm.typ)}
        unit="mm"
        band={range(estimate.deflection_mm)}
        cause={because(estimate.deflection_mm)}
      />
      <Cell
        label="Holds"
        figure={plain(holds.typ)}
        unit="× the load"
        band={`${range(holds)}, asked for ${plain(safety_factor)}`}
        cause={because(holds)}
      />
      <div className="min-w-0 px-4 py-2.5 max-[1099px]:col-span-full max-[1099px]:row-start-1">
        <p className="label-type text-[0.8rem] text-soft">First to give</p>
        <p
          className={`font-label text-[1.2rem] leading-tight font-semibold ${enough ? "" : "text-fail"}`}
          aria-live="polite"
        >
          {first.sentence}, {place(first.at_mm)}
        </p>
        <p className="mt-0.5 text-[0.85rem] leading-snug text-soft">
          {first.breaks ? "This parts it." : "It gives there but does not part yet."}{" "}
          {sure
            ? "Enough, even at the low end of the estimate."
            : enough
              ? "Enough if the materials are typical; not at the low end of the estimate."
              : `Not enough: it asks for ${plain(safety_factor)} × the load.`}
        </p>
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
