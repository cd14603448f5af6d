import { memo, useState } from "react";
import type { Estimate, Problem, Schemas } from "../../api/client";
import { bare, place, plain, unitOf } from "../../forms/units";
import { FailureSketch } from "../../part/FailureSketch";
import { SIGN } from "../../words/grades";
import { Word } from "../../words/Word";
import { NextStep } from "./NextStep";
import { TARGET_FIGURES, targetWords } from "./targets";
import { because, Cell, range, Still } from "./VerdictCell";
import { VerdictMore } from "./VerdictMore";

interface VerdictProps {
  estimate: Estimate | null;
  problems: Problem[];
  openWorking: (figure: string) => void;
  busy: boolean;
  /** The variant whose differences are shown, if one is chosen. */
  against: { name: string; figures: Schemas["Figures"] } | null;
  /** What the next step is made of, and how it is taken. */
  subject: Schemas["Study"];
  take: (part: Schemas["Part"]) => void;
}

/** The verdict at the foot, of a fixed height: the answer first and large, what to do next, four figures; the rest
 * folds. Always in sight. */
export const Verdict = memo(function Verdict(props: VerdictProps) {
  const { estimate, problems, openWorking, busy, against } = props;
  const [more, setMore] = useState(false);
  if (!estimate)
    return (
      <footer className="col-span-full min-h-33 overflow-y-auto border-t border-ink p-4" aria-label="Verdict">
        {problems.map((p) => (
          <p key={p.path + p.message} className="text-fail">
            {p.path} {p.message}
          </p>
        ))}
      </footer>
    );
  const open = (figure: string) => () => openWorking(figure);
  return (
    <footer
      aria-label="Verdict"
      aria-busy={busy}
      className="sticky bottom-0 z-10 col-span-full border-t border-ink bg-ground max-[1099px]:order-2"
    >
      {more && <VerdictMore {...{ estimate, open }} close={() => setMore(false)} />}
      <div className="grid max-[1099px]:grid-cols-4 max-sm:grid-cols-2 min-[1100px]:h-33 min-[1100px]:grid-cols-[minmax(0,1fr)_8.6rem_8.6rem_8.6rem_9.4rem]">
        <Answer {...props} estimate={estimate} more={more} setMore={setMore} against={against?.name} />
        <Figures estimate={estimate} other={against?.figures} open={open} />
      </div>
    </footer>
  );
});

/** Targets of figures that fold: one that is missed is told in the foot. */
const FOLDED = new Set(["toughness", "bow", "balance"]);

interface AnswerProps extends Omit<VerdictProps, "against" | "estimate"> {
  estimate: Estimate;
  against: string | undefined;
  more: boolean;
  setMore: (on: boolean) => void;
}

/** The face on which it breaks, so that the picture stands the right way up. */
const whereOf = (estimate: Estimate) => estimate.failures.find((f) => f.figure === "breaks_at")?.where;

/** The sign, the sentence, what breaks first, and what to do next. */
function Answer({ estimate, problems, against, more, setMore, subject, take }: AnswerProps) {
  const { verdict } = estimate;
  const fails = verdict.enough === "no";
  const missed = estimate.targets.find((t) => t.met === "no" && FOLDED.has(t.figure));
  return (
    <div className="flex min-w-0 gap-4 overflow-hidden px-4 py-2 max-[1099px]:col-span-full max-[1099px]:border-b max-[1099px]:border-rule">
      <span
        aria-hidden="true"
        className={`w-7 shrink-0 origin-top-left scale-150 pt-0.5 font-label text-figure leading-none font-bold max-sm:hidden ${fails ? "text-fail" : ""}`}
      >
        {SIGN[verdict.enough]}
      </span>
      {verdict.limited && (
        <span className="pt-1 max-sm:hidden">
          <FailureSketch kind={verdict.break_mode.kind} where={whereOf(estimate)} />
        </span>
      )}
      <div className="flex min-w-0 flex-1 flex-col">
        <p
          className={`line-clamp-2 font-label text-lead leading-tight font-bold ${fails ? "text-fail" : ""}`}
          aria-live="polite"
        >
          <span className="sr-only">{verdict.enough}: </span>
          {verdict.headline}
        </p>
        <p className="line-clamp-2 text-body leading-snug">
          {problems.length > 0 ? (
            <span className="text-fail" role="alert">
              Showing the last valid design. {problems[0]!.path.split(".").at(-1)?.replaceAll("_", " ")}{" "}
              {problems[0]!.message}
            </span>
          ) : (
            <>
              {against && <strong>▲▼ compared with “{against}”. </strong>}
              {missed && (
                <strong className="text-fail">
                  {TARGET_FIGURES[missed.figure]!.label}: {targetWords(missed)}.{" "}
                </strong>
              )}
              {verdict.limited && (
                <>
                  <Word k="first">{verdict.first_mode ? "Breaks at last" : "Breaks first"}</Word>:{" "}
                  {verdict.break_mode.sentence}, {place(verdict.break_mode.at_mm)}.{" "}
                </>
              )}
              {estimate.beyond.length > 0 && <span className="text-fail">✕ {estimate.beyond[0]} </span>}
            </>
          )}
        </p>
        <div className="mt-auto flex min-h-10 flex-wrap items-center gap-x-4">
          <NextStep {...{ estimate, subject, take }} />
          <button
            type="button"
            aria-expanded={more}
            className="min-h-10 text-body text-pick underline underline-offset-3"
            onClick={() => setMore(!more)}
          >
            {more ? "Less" : "Details"}
          </button>
        </div>
      </div>
    </div>
  );
}

interface FiguresProps {
  estimate: Estimate;
  other: Schemas["Figures"] | undefined;
  open: (figure: string) => () => void;
}

/** Mass, deflection, twist and margin with their ranges. */
function Figures({ estimate, other, open }: FiguresProps) {
  const { margin, verdict, safety_factor } = estimate;
  const target = (figure: string) => estimate.targets.find((t) => t.figure === figure);
  const foamed = estimate.lines[0]?.id === "foam";
  const end = estimate.supports_mm ? "Middle" : "Tip";
  return (
    <>
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
              : `${end} deflection${estimate.reads === "swing" ? ", fore and aft" : ""}`
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
          fails={verdict.enough === "no"}
        />
      ) : (
        <Still label="Margin" text="not limited by anything computed here" />
      )}
    </>
  );
}
