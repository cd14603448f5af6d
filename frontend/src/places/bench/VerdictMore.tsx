import type { Estimate } from "../../api/client";
import { bare, place, plain, show, unitOf } from "../../forms/units";
import { graded } from "../../words/grades";
import { Word } from "../../words/Word";
import { TARGET_FIGURES, targetWords } from "./targets";
import { range } from "./VerdictCell";

interface Props {
  estimate: Estimate;
  open: (figure: string) => () => void;
  close: () => void;
}

const LINK = "min-h-8 text-left underline decoration-dotted underline-offset-3 hover:bg-pick-wash";

/** What folds: why, what comes before it breaks, the snap, toughness, centre of gravity, cost and time. */
export function VerdictMore({ estimate, open, close }: Props) {
  const { verdict, effort } = estimate;
  const worst = estimate.verdicts.find((v) => v.case_id === estimate.governs);
  const balance = estimate.targets.find((t) => t.figure === "balance");
  return (
    <section
      aria-label="Details of the verdict"
      className="absolute bottom-full left-0 max-h-[60dvh] w-full overflow-y-auto border-t border-ink bg-sheet px-5 py-3 text-body leading-snug"
      onKeyDown={(e) => e.key === "Escape" && close()}
    >
      <div className="grid gap-x-10 gap-y-2 md:grid-cols-2">
        <div className="grid content-start gap-2">
          <p>
            <strong>{graded(verdict.enough)}</strong>
            {verdict.limited && (
              <>
                . {verdict.first_mode ? "Breaks at last" : "Breaks first"}: {verdict.break_mode.sentence},{" "}
                {place(verdict.break_mode.at_mm)}. {verdict.break_mode.because}
              </>
            )}
          </p>
          <Before verdict={verdict} />
          {worst && worst.case_id !== estimate.case_id && (
            <p>
              Worst load case: <strong>{worst.name}</strong>, margin {plain(worst.margin.typ, 2)}{" "}
              {graded(worst.enough)}
            </p>
          )}
          {estimate.beyond.map((caution) => (
            <p key={caution} className="border-l-[3px] border-fail pl-2">
              {caution}
            </p>
          ))}
        </div>
        <div className="grid content-start gap-1">
          <Snaps estimate={estimate} open={open} />
          <Hand estimate={estimate} open={open} />
          <p>
            <button type="button" className={LINK} onClick={open("balance")}>
              <Word k="balance">Part CG</Word> {bare(estimate.balance_mm.typ, "length")} {unitOf("length")}{" "}
              aft of the root leading edge
            </button>
            {balance && (
              <span className={balance.met === "no" ? "font-semibold text-fail" : ""}>
                {" "}
                {targetWords(balance)}
              </span>
            )}
          </p>
          <p>
            <button type="button" className={LINK} onClick={open("cost")}>
              Cost {plain(effort.cost.typ, 2)}
            </button>
            ,{" "}
            <button type="button" className={LINK} onClick={open("hours")}>
              {plain(effort.hours.typ, 2)} h hands-on, ready after {plain(effort.ready_h.typ, 2)} h
            </button>
          </p>
        </div>
      </div>
      <button type="button" className="key-button mt-2" onClick={close}>
        Close details
      </button>
    </section>
  );
}

/** What breaks a member or changes first before the part breaks. */
function Before({ verdict }: { verdict: Estimate["verdict"] }) {
  const { first_mode, change_modes } = verdict;
  return (
    <>
      {first_mode && (
        <p>
          Before that: {first_mode.sentence} at {plain(verdict.first_break.typ, 2)} ×,{" "}
          {place(first_mode.at_mm)}; the rest carries up to {plain(verdict.breaks_at.typ, 2)} ×. Above that
          there is something to repair.
        </p>
      )}
      {change_modes.map((change) => (
        <p key={change.kind + change.line_id}>
          {change.sentence} from {plain(change.comes_at.typ, 2)} × this load, {place(change.at_mm)};{" "}
          {change.consequence}
          {change.costs && `. At this load ${change.costs}`}.
        </p>
      ))}
    </>
  );
}

/** How it breaks when it is bent by hand until it parts. */
function Snaps({ estimate, open }: Omit<Props, "close">) {
  const [up, down] = estimate.snaps;
  if (!up || !down) return null;
  return (
    <p>
      <button type="button" className={LINK} onClick={open("snap")}>
        Snap test:
      </button>{" "}
      {up.sentence === down.sentence ? (
        <strong>{up.sentence}</strong>
      ) : (
        <>
          up <strong>{up.sentence}</strong>, down <strong>{down.sentence}</strong>
        </>
      )}
      {estimate.snaps.some((s) => s.reserve) &&
        ". Cracked, it still carries this load: treat it as a reserve, not as strength"}
    </p>
  );
}

/** How tough it is, bent the weaker way, and how far it bows as its skins set. */
function Hand({ estimate, open }: Omit<Props, "close">) {
  const { toughness, targets } = estimate;
  const warp = estimate.warp && Math.abs(estimate.warp.bow_mm.typ) >= 0.005 ? estimate.warp : null;
  const weak = toughness.reduce<(typeof toughness)[number] | null>(
    (a, b) => (a && a.first_mJ.typ <= b.first_mJ.typ ? a : b),
    null,
  );
  if (!weak && !warp) return null;
  const met = targets.filter((t) => t.figure === "toughness" || t.figure === "bow");
  return (
    <p>
      {weak && (
        <>
          <button type="button" className={LINK} onClick={open("toughness")}>
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
          <button type="button" className={LINK} onClick={open("warp")}>
            built-in bow
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
