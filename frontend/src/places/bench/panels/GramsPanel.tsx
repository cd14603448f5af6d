import { useState } from "react";
import type { Catalogue, Part, Schemas } from "../../../api/client";
import { NumberField } from "../../../forms/fields";
import { Word } from "../../../words/Word";
import { plain, show } from "../../../forms/units";
import { lineName, withLayer } from "../../../part/edits";

interface Props {
  worth: Schemas["LineWorth"][];
  part: Part;
  catalogue: Catalogue;
  change: (edit: (part: Part) => Part) => void;
  waiting: boolean;
}

const turn = (ratio: number) => {
  const percent = Math.round(100 * (ratio - 1));
  return percent === 0 ? "as now" : `${percent > 0 ? "+" : "−"}${Math.abs(percent)} %`;
};

/** "I am 40 g over": what can come off, what costs least per gram first. */
export function GramsPanel(props: Props) {
  const [open, setOpen] = useState(false);
  return (
    <details className="mt-5 border-t border-ink px-4 pt-1" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="label-type flex min-h-11 cursor-pointer items-center text-base">Save mass</summary>
      {open && <Ways {...props} />}
    </details>
  );
}

function Ways({ worth, part, catalogue, change, waiting }: Props) {
  const [over, setOver] = useState(5);
  const ways = worth
    .flatMap((w) => [...(w.without ? [w.without] : []), ...w.lighter].map((c) => ({ ...c, id: w.line_id })))
    .filter((c) => c.grams < 0)
    .sort((a, b) => a.loss_per_g - b.loss_per_g)
    .slice(0, 10);
  const alone = ways.find((w) => -w.grams >= over);
  return (
    <>
      <NumberField label="Mass to save" value={over} quantity="mass" onChange={setOver} />
      <p className="mt-2 text-small leading-snug text-soft">
        {alone
          ? `This single change is enough: ${describe(alone, part, catalogue)}.`
          : "No single change saves that much. Apply the first ones one at a time; the list updates each time."}{" "}
        By <Word k="typical">typical values</Word>; what costs least per gram first.
      </p>
      <ol className={`mt-2 ${waiting ? "stale" : ""}`} aria-label="Ways to save mass">
        {ways.map((w) => (
          <li
            key={w.id + w.says}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-2 border-t border-rule py-1.5 text-small leading-tight"
          >
            <span>
              <span className="font-semibold">{describe(w, part, catalogue)}</span>
              <span className="block text-soft">
                {show(w.grams, "mass", 2)}: strength {turn(w.margin_ratio)}, deflection {turn(w.bend_ratio)}
                {Math.abs(w.twist_ratio - 1) > 0.03 && `, twist ${turn(w.twist_ratio)}`}; margin then{" "}
                {plain(w.margin, 2)}
              </span>
            </span>
            <button
              type="button"
              className="key-button"
              aria-label={`Apply: ${describe(w, part, catalogue)}`}
              onClick={() =>
                change((p) => withLayer(p, w.id, (l) => (w.layer ? w.layer : { ...l, enabled: false })))
              }
            >
              Apply
            </button>
          </li>
        ))}
      </ol>
    </>
  );
}

function describe(
  way: { id: string; says: string; layer?: unknown },
  part: Part,
  catalogue: Catalogue,
): string {
  const line = part.layers.find((l) => l.id === way.id);
  const name = line ? lineName(line, catalogue) : "an item";
  return way.layer ? `${name}: ${way.says}` : `Remove ${name}`;
}
