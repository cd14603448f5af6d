import { memo } from "react";
import type { Band, Estimate, Problem, Schemas } from "../../api/client";
import { graded } from "../../words/grades";
import { Word } from "../../words/Word";
import { bare, place, plain, show, shownValue, unitOf, type Quantity } from "../../forms/units";
import { TARGET_FIGURES, targetWords } from "./targets";

/** The band of a size; of something negative, of its size. */
function range(band: Band, quantity: Quantity): string {
  if (band.typ < 0) return range({ ...band, typ: -band.typ, low: -band.high, high: -band.low }, quantity);
  return `${bare(band.low, quantity)} – ${bare(band.high, quantity)}`;
}

interface CellProps {
  word: string;
  label: string;
  band: Band;
  quantity: Quantity;
  unit?: string;
  beside?: string | undefined;
  cause?: string | undefined;
  target?: Schemas["TargetResult"] | undefined;
  /** The same figure of the variant that is compared with. */
  other?: Band | null | undefined;
  open: () => void;
}

function Cell({ word, label, band, quantity, unit, beside, cause, target, other, open }: CellProps) {
  const figure = bare(Math.abs(band.typ), quantity);
  const shown = unit ?? unitOf(quantity);
  const by = other ? shownValue(Math.abs(band.typ) - Math.abs(other.typ), quantity) : null;
  return (
    <div className="min-w-0 border-r border-rule px-3.5 py-1.5">
      <p className="label-type min-h-6 text-note leading-tight text-soft">
        <Word k={word}>{label}</Word>
      </p>
      <button
        type="button"
        onClick={open}
        aria-label={`${label} ${figure} ${shown}, show working`}
        className="block min-h-10 w-full text-left hover:bg-pick-wash"
      >
        <span className="block whitespace-nowrap">
          <span className="figure-type text-figure leading-none">{figure}</span>{" "}
          <span className="label-type">{shown}</span>
        </span>
        <span className="block text-note leading-tight whitespace-nowrap text-soft">
          {beside ?? range(band, quantity)}
        </span>
      </button>
      {target && (
        <p className={`text-note leading-tight ${target.met === "no" ? "font-semibold text-fail" : ""}`}>
          {targetWords(target)}
        </p>
      )}
      {by !== null && (
        <p className="figure-type text-note leading-tight">
          {by === 0 ? "= " : by > 0 ? "▲ +" : "▼ −"}
          {by === 0 ? "no change" : plain(Math.abs(by), 2)}
        </p>
      )}
      {cause && !target && by === null && (
        <p className="line-clamp-2 text-note leading-tight text-soft">{cause}</p>
      )}
    </div>
  );
}

/** Where a cell has nothing to tell in this case. */
function Still({ label, text }: { label: string; text: string }) {
  return (
    <div className="border-r border-rule px-3.5 py-1.5">
      <p className="label-type text-note text-soft">{label}</p>
      <p className="text-small text-soft">{text}</p>
    </div>
  );
}

function because(band: Band): string | undefined {
  return band.causes.length ? `mainly ${band.causes.join(", ")}` : undefined;
}

interface VerdictProps {
  estimate: Estimate | null;
  problems: Problem[];
  openWorking: (figure: string) => void;
  busy: boolean;
  /** The variant whose differences are shown, if one is chosen. */
  against: { name: string; figures: Schemas["Figures"] } | null;
}

/** The verdict, ruled like the title block of a shop drawing. Always in sight. */
export const Verdict = memo(function Verdict({
  estimate,
  problems,
  openWorking,
  busy,
  against,
}: VerdictProps) {
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
  const { margin, verdict, safety_factor, effort } = estimate;
  const open = (figure: string) => () => openWorking(figure);
  const target = (figure: string) => estimate.targets.find((t) => t.figure === figure);
  const other = against?.figures;
  const foamed = estimate.lines[0]?.id === "foam";
  return (
    <footer
      aria-label="Verdict"
      aria-busy={busy}
      className="sticky bottom-0 z-10 col-span-full grid border-t border-ink bg-ground max-[1099px]:order-2 max-[1099px]:grid-cols-[repeat(3,minmax(0,1fr))_minmax(0,1.3fr)_minmax(0,1.3fr)] min-[1100px]:grid-cols-[7.8rem_8.6rem_8.4rem_11rem_11.8rem_minmax(0,1fr)]"
    >
      {foamed ? (
        <Cell
          open={open("added")}
          word="added"
          label="Added mass"
          band={estimate.added_g}
          quantity="mass"
          beside={estimate.added_g.typ > 0 ? undefined : "bare core"}
          cause={`whole part ${bare(estimate.mass_g.typ, "mass")} ${unitOf("mass")}`}
          target={target("added")}
          other={other?.added_g}
        />
      ) : (
        <Cell
          open={open("mass")}
          word="mass"
          label="Part mass"
          band={estimate.mass_g}
          quantity="mass"
          cause={because(estimate.mass_g)}
          target={target("added")}
          other={other?.mass_g}
        />
      )}
      {estimate.deflection_mm.high > 0 ? (
        <Cell
          open={open("bend")}
          word="bend"
          label={
            estimate.control
              ? "Deflection between hinges"
              : `${estimate.supports_mm ? "Middle" : "Tip"} ${estimate.reads === "swing" ? "deflection, fore and aft" : "deflection"}`
          }
          band={estimate.deflection_mm}
          quantity="length"
          cause={because(estimate.deflection_mm)}
          target={target("bend")}
          other={other?.bend_mm}
        />
      ) : (
        <Still label="Deflection" text="none in this case" />
      )}
      {estimate.twist_deg ? (
        <Cell
          open={open("twist")}
          word="twist"
          label={
            estimate.control
              ? "Twist at far end"
              : `${estimate.supports_mm ? "End" : "Tip"} twist, nose ${estimate.twist_deg.typ >= 0 ? "up" : "down"}`
          }
          band={estimate.twist_deg}
          quantity="angle"
          cause={because(estimate.twist_deg)}
          target={target("twist")}
          other={other?.twist_deg}
        />
      ) : (
        <Still label="Twist" text="none in this case" />
      )}
      {verdict.limited ? (
        <Cell
          open={open("breaks_at")}
          word="margin"
          label={`Margin, needs ${plain(safety_factor)} ×`}
          band={verdict.margin}
          quantity="plain"
          unit=""
          beside={range(verdict.margin, "plain")}
          cause={`breaks at ${plain(verdict.breaks_at.typ)} × this load`}
          target={target("margin")}
          other={other && { ...margin, typ: other.margin.typ }}
        />
      ) : (
        <Still label="Margin" text="not limited by anything computed here" />
      )}
      <div className="min-w-0 border-r border-rule px-3.5 py-1.5 text-small leading-tight">
        <p className="label-type min-h-6 text-note text-soft">
          <Word k="balance">Part CG</Word>
        </p>
        <button
          type="button"
          onClick={open("balance")}
          aria-label={`Centre of gravity ${bare(estimate.balance_mm.typ, "length")} ${unitOf("length")} aft of the root leading edge, show working`}
          className="figure-type block min-h-10 w-full text-left text-lead hover:bg-pick-wash"
        >
          {bare(estimate.balance_mm.typ, "length")} {unitOf("length")} aft
        </button>
        {target("balance") && (
          <p className={target("balance")!.met === "no" ? "text-fail" : ""}>
            {targetWords(target("balance")!)}
          </p>
        )}
        <div className="flex gap-x-2 text-note max-[1099px]:flex-wrap text-soft">
          <button
            type="button"
            onClick={open("cost")}
            aria-label="Cost, show working"
            className="min-h-10 text-left whitespace-nowrap hover:bg-pick-wash"
          >
            cost {plain(effort.cost.typ, 2)}
          </button>
          <button
            type="button"
            onClick={open("hours")}
            aria-label="Hands-on time, show working"
            className="min-h-10 text-left leading-tight whitespace-nowrap hover:bg-pick-wash"
          >
            {plain(effort.hours.typ, 2)} h hands-on
            <br />
            ready after {plain(effort.ready_h.typ, 2)} h
          </button>
        </div>
      </div>
      <FirstToGive estimate={estimate} problems={problems} open={open} against={against?.name} />
    </footer>
  );
});

interface FirstProps {
  estimate: Estimate;
  problems: Problem[];
  open: (figure: string) => () => void;
  against: string | undefined;
}

/** The verdict in a sentence with its grade, why, and what comes before it breaks. */
function FirstToGive({ estimate, problems, open, against }: FirstProps) {
  const { verdict } = estimate;
  const [up, down] = estimate.snaps;
  const worst = estimate.verdicts.find((v) => v.case_id === estimate.governs);
  return (
    <div className="min-w-0 px-3.5 py-1.5 max-[1099px]:col-span-full max-[1099px]:row-start-1">
      <p className="label-type text-note text-soft">
        <Word k="sure">{graded(verdict.enough)}</Word>
        {against && <span className="ml-3 text-ink">▲▼ compared with “{against}”</span>}
      </p>
      <p
        className={`font-label text-lead leading-tight font-semibold ${verdict.enough === "no" ? "text-fail" : ""}`}
        aria-live="polite"
      >
        {verdict.headline}
      </p>
      {verdict.limited && (
        <p className="mt-0.5 text-body leading-snug">
          <Word k="first">{verdict.first_mode ? "Breaks at last" : "Breaks first"}</Word>:{" "}
          {verdict.break_mode.sentence}, {place(verdict.break_mode.at_mm)}. {verdict.break_mode.because}
        </p>
      )}
      <Before verdict={verdict} />
      {up && down && (
        <p className="text-small leading-6">
          <button
            type="button"
            className="min-h-6 text-soft underline decoration-dotted underline-offset-3"
            onClick={open("snap")}
          >
            Snap test:
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
      <Hand estimate={estimate} open={open} />
      {estimate.snaps.some((s) => s.reserve) && (
        <p className="mt-0.5 text-small leading-snug text-soft">
          Cracked, it still carries this load. Treat it as a reserve, not as strength.
        </p>
      )}
      {worst && worst.case_id !== estimate.case_id && (
        <p className="mt-0.5 text-small leading-snug">
          <span className="text-soft">Worst load case:</span> <strong>{worst.name}</strong>,{" "}
          <span className="text-soft">
            margin {plain(worst.margin.typ, 2)} {graded(worst.enough)}
          </span>
        </p>
      )}
      {estimate.beyond.map((caution) => (
        <p key={caution} className="mt-0.5 border-l-[3px] border-fail pl-2 text-small leading-snug">
          {caution}
        </p>
      ))}
      {problems.length > 0 && (
        <p className="mt-0.5 text-small text-fail" role="alert">
          Showing the last valid design. {problems[0]!.path.split(".").at(-1)?.replaceAll("_", " ")}{" "}
          {problems[0]!.message}
        </p>
      )}
    </div>
  );
}

/** What breaks a member or changes first before the part breaks; the rest is listed beside the drawing. */
function Before({ verdict }: { verdict: Estimate["verdict"] }) {
  const { first_mode, change_modes } = verdict;
  const [change, ...more] = change_modes;
  return (
    <>
      {first_mode && (
        <p className="mt-0.5 text-small leading-snug">
          Before that: {first_mode.sentence} at {plain(verdict.first_break.typ, 2)} ×,{" "}
          {place(first_mode.at_mm)}; the rest carries up to {plain(verdict.breaks_at.typ, 2)} ×. Above that
          there is something to repair.
        </p>
      )}
      {change && (
        <p className="mt-0.5 text-small leading-snug">
          {change.sentence} from {plain(change.comes_at.typ, 2)} × this load, {place(change.at_mm)};{" "}
          {change.consequence}
          {change.costs && `. At this load ${change.costs}`}.
          {more.length > 0 &&
            ` ${more.length} more ${more.length > 1 ? "changes" : "change"} before it breaks.`}
        </p>
      )}
    </>
  );
}

/** How tough it is, bent the weaker way, and how far it bows as its skins set. */
function Hand({ estimate, open }: Pick<FirstProps, "estimate" | "open">) {
  const { toughness, targets } = estimate;
  const warp = estimate.warp && Math.abs(estimate.warp.bow_mm.typ) >= 0.005 ? estimate.warp : null;
  const weak = toughness.reduce<(typeof toughness)[number] | null>(
    (a, b) => (a && a.first_mJ.typ <= b.first_mJ.typ ? a : b),
    null,
  );
  if (!weak && !warp) return null;
  const met = targets.filter((t) => t.figure === "toughness" || t.figure === "bow");
  return (
    <p className="text-small leading-6">
      {weak && (
        <>
          <button
            type="button"
            className="min-h-6 text-soft underline decoration-dotted underline-offset-3"
            onClick={open("toughness")}
          >
            Toughness:
          </button>{" "}
          <strong>{show(weak.first_mJ.typ, "work")}</strong>{" "}
          <span className="text-soft">
            ({range(weak.first_mJ, "work")}) to its first {weak.folds ? "fold" : "break"}
            {weak.parts_mJ && `, ${show(weak.parts_mJ.typ, "work", 2)} until it comes apart`}
          </span>
          {warp && "; "}
        </>
      )}
      {warp && (
        <>
          <button
            type="button"
            className="min-h-6 text-soft underline decoration-dotted underline-offset-3"
            onClick={open("warp")}
          >
            bows
          </button>{" "}
          <strong>{show(Math.abs(warp.bow_mm.typ), "length", 2)}</strong>
        </>
      )}
      {met.map((t) => (
        <span key={t.figure} className={`block ${t.met === "no" ? "font-semibold text-fail" : ""}`}>
          {TARGET_FIGURES[t.figure]!.label}: {targetWords(t)}
        </span>
      ))}
    </p>
  );
}
