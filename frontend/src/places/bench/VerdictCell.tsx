import type { Band, Schemas } from "../../api/client";
import { bare, plain, shownValue, unitOf, type Quantity } from "../../forms/units";
import { Word } from "../../words/Word";
import { targetWords } from "./targets";

/** The band of a size; of something negative, of its size. */
export function range(band: Band, quantity: Quantity): string {
  if (band.typ < 0) return range({ ...band, typ: -band.typ, low: -band.high, high: -band.low }, quantity);
  return `${bare(band.low, quantity)} – ${bare(band.high, quantity)}`;
}

/** What spreads a figure most, in words. */
export function because(band: Band): string | undefined {
  return band.causes.length ? `mainly ${band.causes.join(", ")}` : undefined;
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
  fails?: boolean;
  open: () => void;
}

/** One figure of the verdict: what it is, its size with its unit, its range, and one line more: the difference from the
 * variant, the target, or the cause of its spread. */
export function Cell(props: CellProps) {
  const { word, label, band, quantity, unit, beside, cause, target, other, fails = false, open } = props;
  const figure = bare(Math.abs(band.typ), quantity);
  const shown = unit ?? unitOf(quantity);
  const by = other ? shownValue(Math.abs(band.typ) - Math.abs(other.typ), quantity) : null;
  const red = fails || target?.met === "no" ? "text-fail" : "";
  return (
    <div className="min-w-0 overflow-hidden border-l border-rule px-3 py-1.5">
      <p className="label-type truncate text-note leading-6 text-soft">
        <Word k={word}>{label}</Word>
      </p>
      <button
        type="button"
        onClick={open}
        aria-label={`${label} ${figure} ${shown}, show working`}
        className="block min-h-11 w-full text-left hover:bg-pick-wash"
      >
        <span className={`block whitespace-nowrap ${red}`}>
          {red && <span aria-hidden="true">✕ </span>}
          <span className="figure-type text-figure leading-none">{figure}</span>{" "}
          <span className="label-type">{shown}</span>
        </span>
        <span className="block text-note leading-tight whitespace-nowrap text-soft">
          {beside ?? range(band, quantity)}
        </span>
      </button>
      {by !== null ? (
        <p className="figure-type text-note leading-tight">
          {by === 0 ? "= no change" : `${by > 0 ? "▲ +" : "▼ −"}${plain(Math.abs(by), 2)}`}
        </p>
      ) : target ? (
        <p className={`line-clamp-2 text-note leading-tight ${red && "font-semibold text-fail"}`}>
          {targetWords(target)}
        </p>
      ) : (
        cause && <p className="line-clamp-2 text-note leading-tight text-soft max-sm:hidden">{cause}</p>
      )}
    </div>
  );
}

/** Where a cell has nothing to tell in this case. */
export function Still({ label, text }: { label: string; text: string }) {
  return (
    <div className="border-l border-rule px-3 py-1.5">
      <p className="label-type text-note leading-6 text-soft">{label}</p>
      <p className="text-small leading-tight text-soft">{text}</p>
    </div>
  );
}
