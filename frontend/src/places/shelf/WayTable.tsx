import { useState } from "react";
import { bare, plain, show, unitOf } from "../../forms/units";
import { CutSketch } from "../../part/CutSketch";
import { Graded } from "../../words/Graded";
import { Word } from "../../words/Word";
import type { Way } from "./useWays";
import { Scrolling } from "../../words/Scrolling";

type Column = "mass" | "margin" | "bend" | "hours" | "cost" | "tough";

interface Kind {
  label: string;
  word: string;
  of: (w: Way) => number;
  says: (w: Way) => string;
  /** Whether more is better. */
  more?: boolean;
}

const COLUMNS: Record<Column, Kind> = {
  mass: { label: "Mass", word: "mass", of: (w) => w.mass_g.typ, says: (w) => show(w.mass_g.typ, "mass") },
  margin: {
    label: "Margin",
    word: "margin",
    of: (w) => w.margin.typ,
    says: (w) => plain(w.margin.typ, 2),
    more: true,
  },
  bend: {
    label: "Deflection",
    word: "bend",
    of: (w) => w.bend_mm.typ,
    says: (w) => show(w.bend_mm.typ, "length"),
  },
  tough: {
    label: "Toughness",
    word: "tough",
    of: (w) => w.tough_mJ?.typ ?? -1,
    says: (w) => (w.tough_mJ ? show(w.tough_mJ.typ, "work", 2) : "–"),
    more: true,
  },
  hours: {
    label: "Hands-on",
    word: "case",
    of: (w) => w.hours.typ,
    says: (w) => `${plain(w.hours.typ, 2)} h`,
  },
  cost: { label: "Cost", word: "case", of: (w) => w.cost.typ, says: (w) => plain(w.cost.typ, 2) },
};

/** What nothing rules out comes first, what is at hand before what has to be bought; then by a column. */
function sorted(ways: Way[], by: Column): Way[] {
  const { of, more } = COLUMNS[by];
  return [...ways].sort(
    (a, b) =>
      Number(a.ruled_out.length > 0) - Number(b.ruled_out.length > 0) ||
      Number(a.to_buy.length > 0) - Number(b.to_buy.length > 0) ||
      (more ? of(b) - of(a) : of(a) - of(b)),
  );
}

interface Props {
  ways: Way[];
  open: ((way: Way) => void) | null;
}

/** The constructions as a table, a drawn cross-section at each, sortable; a row opens to its reasons. */
export function WayTable({ ways, open }: Props) {
  const [by, setBy] = useState<Column>("mass");
  return (
    <Scrolling label="Constructions table">
      <table className="w-full min-w-[46rem] text-body">
        <caption className="sr-only">Constructions, each sized to the load; those that hold first</caption>
        <thead className="label-type text-small">
          <tr className="border-b border-ink">
            <th scope="col" className="py-1 text-left">
              Construction
            </th>
            {(Object.keys(COLUMNS) as Column[]).map((key) => (
              <th
                key={key}
                scope="col"
                aria-sort={by === key ? (COLUMNS[key].more ? "descending" : "ascending") : "none"}
                className="text-right"
              >
                <button
                  type="button"
                  className={`min-h-11 px-2 ${by === key ? "text-pick underline underline-offset-4" : ""}`}
                  onClick={() => setBy(key)}
                >
                  {COLUMNS[key].label}
                  {by === key && <span aria-hidden="true"> {COLUMNS[key].more ? "▾" : "▴"}</span>}
                </button>
              </th>
            ))}
            <th scope="col">
              <span className="sr-only">Use this</span>
            </th>
          </tr>
        </thead>
        {sorted(ways, by).map((way) => (
          <WayRow key={way.key} way={way} open={open} />
        ))}
      </table>
    </Scrolling>
  );
}

function WayRow({ way, open }: { way: Way; open: Props["open"] }) {
  const out = way.ruled_out.length > 0;
  return (
    <tbody className="border-b border-rule">
      <tr className="align-top">
        <th scope="row" className="w-[19rem] py-3 pr-3 text-left font-normal">
          <CutSketch cut={way.cut} />
          <span className="mt-1 block leading-tight font-semibold">{way.title}</span>
          <span className="mt-1 block">
            {way.settled ? <Graded grade={way.enough} /> : <span className="text-soft">Sizing…</span>}
          </span>
        </th>
        {Object.entries(COLUMNS).map(([key, column]) => (
          <td
            key={key}
            className={`figure-type px-2 py-3 text-right text-lead whitespace-nowrap ${out || !way.settled ? "text-soft" : ""}`}
          >
            {column.says(way)}
          </td>
        ))}
        <td className="py-2 text-right">
          <button
            type="button"
            className="key-button whitespace-nowrap"
            disabled={!open || !way.settled}
            onClick={() => open?.(way)}
          >
            Create part<span className="sr-only">: {way.title}</span>
          </button>
        </td>
      </tr>
      <tr>
        <td colSpan={8} className="pb-3 text-body leading-snug">
          {out && (
            <ul className="mb-1 border-l-[3px] border-fail pl-3 text-fail">
              {way.ruled_out.map((r) => (
                <li key={r}>✕ {r}</li>
              ))}
            </ul>
          )}
          <p className="text-soft">{way.why}</p>
          <p>
            {!way.settled && "Figures of its usual lay-up, until it is sized. "}
            {way.sized.length > 0 && `Sized with ${way.sized.join("; ")}. `}
            <Word k="first">Breaks first</Word>: {way.first}. Mass {bare(way.mass_g.low, "mass")} –{" "}
            {bare(way.mass_g.high, "mass")} {unitOf("mass")}, margin {plain(way.margin.low, 2)} –{" "}
            {plain(way.margin.high, 2)}. Ready after {plain(way.ready_h.typ, 2)} h including waits.
          </p>
          {way.to_buy.length > 0 && <p>To buy: {way.to_buy.join("; ")}.</p>}
          {way.too_short.length > 0 && <p>{way.too_short.join(". ")}.</p>}
        </td>
      </tr>
    </tbody>
  );
}
