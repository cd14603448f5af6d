import { useState } from "react";
import type { Airframe, Band, Estimate, Part } from "../../../api/client";
import { NotStored } from "../../../words/NotStored";
import { Word } from "../../../words/Word";
import { bare, plain, shownValue, unitOf, type Quantity } from "../../../forms/units";
import { FromElsewhere } from "./FromElsewhere";
import { TradePlot } from "./TradePlot";
import { figuresOf, type Figures, type Pin, type Pins } from "../usePins";

interface Props {
  document: Airframe;
  part: Part;
  estimate: Estimate;
  pins: Pins;
  pinNow: (name: string) => Promise<string | null>;
  adopt: (pin: Pin) => void;
  openHistory: () => void;
}

interface RowKind {
  word: string;
  label: string;
  quantity: Quantity;
  of: (f: Figures) => Band | null;
  /** Which end is better; null where it depends. */
  better: "less" | "more" | null;
}

const ROWS: RowKind[] = [
  { word: "added", label: "Added mass", quantity: "mass", of: (f) => f.added_g, better: "less" },
  { word: "mass", label: "Part mass", quantity: "mass", of: (f) => f.mass_g, better: "less" },
  { word: "bend", label: "Deflection", quantity: "length", of: (f) => f.bend_mm, better: "less" },
  { word: "twist", label: "Twist", quantity: "angle", of: (f) => f.twist_deg, better: "less" },
  {
    word: "breaks_at",
    label: "Breaks at × this load",
    quantity: "plain",
    of: (f) => f.breaks_at,
    better: "more",
  },
  { word: "margin", label: "Lowest margin", quantity: "plain", of: (f) => f.margin, better: "more" },
  {
    word: "divergence",
    label: "Divergence speed",
    quantity: "speed",
    of: (f) => f.divergence_m_s,
    better: "more",
  },
  {
    word: "toughness",
    label: "Energy to first break",
    quantity: "work",
    of: (f) => f.tough_mJ,
    better: "more",
  },
  { word: "warp", label: "Built-in bow", quantity: "length", of: (f) => f.bow_mm, better: "less" },
  { word: "balance", label: "CG position aft", quantity: "length", of: (f) => f.balance_mm, better: null },
  { word: "credits", label: "Cost", quantity: "plain", of: (f) => f.cost, better: "less" },
  { word: "case", label: "Hands-on time", quantity: "plain", of: (f) => f.hours, better: "less" },
];

const sized = (b: Band | null) => (b ? Math.abs(b.typ) : null);

/** Which columns are best in a row; none where all are alike. */
export function bestOf(values: (number | null)[], better: RowKind["better"]): Set<number> {
  const known = values.filter((v): v is number => v !== null);
  if (!better || known.length < 2) return new Set();
  const best = better === "less" ? Math.min(...known) : Math.max(...known);
  const near = values.map((v, i) => [v, i] as const).filter(([v]) => v !== null && close(v, best));
  return near.length === values.length ? new Set() : new Set(near.map(([, i]) => i));
}

const close = (a: number, b: number) => Math.abs(a - b) <= 0.002 * Math.max(Math.abs(a), Math.abs(b), 1e-9);

/** The present state and everything pinned up, side by side. */
export function VariantsView({ document, part, estimate, pins, pinNow, adopt, openHistory }: Props) {
  const [name, setName] = useState("");
  const [elsewhere, setElsewhere] = useState(false);
  const [trouble, setTrouble] = useState("");
  const now = figuresOf(estimate);
  const columns = [
    { id: "now", name: "On the Bench now", figures: now as Figures | undefined, pin: null as Pin | null },
    ...pins.pins.map((p) => ({ id: String(p.id), name: p.name, figures: pins.figures.get(p.id), pin: p })),
  ];
  const pin = async () => {
    const refused = await pinNow(name.trim() || `Variant ${pins.pins.length + 1}`);
    setTrouble(refused ?? "");
    if (refused === null) setName("");
  };
  return (
    <section className="px-5 py-3" aria-label="Variants">
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void pin();
        }}
      >
        <label className="grid gap-1">
          <span className="label-type text-small">Variant name</span>
          <input
            className="field-box w-64"
            value={name}
            maxLength={60}
            placeholder={`Variant ${pins.pins.length + 1}`}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <button type="submit" className="key-button" disabled={pins.pins.length >= 6}>
          Keep as variant
        </button>
        <button type="button" className="key-button" onClick={openHistory}>
          From history…
        </button>
        <button
          type="button"
          className="key-button"
          disabled={pins.pins.length >= 6}
          onClick={() => setElsewhere(true)}
        >
          From elsewhere…
        </button>
        <p role="alert" className="text-fail">
          {trouble}
        </p>
      </form>
      {elsewhere && (
        <FromElsewhere {...{ document, part }} keep={pins.pin} onClose={() => setElsewhere(false)} />
      )}
      <NotStored change={pins.rename} what="The name" />
      <NotStored change={pins.unpin} what="The variant" />
      {pins.pins.length === 0 ? (
        <p className="mt-6 max-w-prose leading-relaxed">
          No variants yet. Keep the current design as a variant, then change the part; or take another part,
          construction or file. Each <Word k="variant">variant</Word> appears here beside it under the same
          loads, and the verdict shows the difference from the one you choose. Up to six.
        </p>
      ) : (
        <>
          <div className="mt-4 overflow-x-auto">
            <table className="w-full text-body">
              <caption className="sr-only">
                Current design and variants, with differences from the current one; the best in each row has a
                star
              </caption>
              <thead>
                <tr className="border-b border-ink align-bottom">
                  <th scope="col" className="py-1 pr-3 text-left font-normal text-soft">
                    Under the same loads
                  </th>
                  {columns.map((c) => (
                    <th key={c.id} scope="col" className="min-w-28 px-2 py-1 text-right">
                      {c.pin ? <PinName pin={c.pin} rename={pins.rename} /> : c.name}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {ROWS.map((row) => {
                  const values = columns.map((c) => (c.figures ? sized(row.of(c.figures)) : null));
                  if (values.every((v) => v === null)) return null;
                  const best = bestOf(values, row.better);
                  return (
                    <tr key={row.label} className="border-b border-rule">
                      <th scope="row" className="py-1.5 pr-3 text-left font-normal whitespace-nowrap">
                        <Word k={row.word}>{row.label}</Word>{" "}
                        <span className="text-soft">{unitOf(row.quantity)}</span>
                      </th>
                      {columns.map((c, i) => (
                        <td
                          key={c.id}
                          className={`figure-type px-2 py-1.5 text-right whitespace-nowrap ${best.has(i) ? "bg-pick-wash" : ""}`}
                        >
                          {best.has(i) && (
                            <span role="img" aria-label="best">
                              ★{" "}
                            </span>
                          )}
                          {values[i] == null ? "–" : bare(values[i], row.quantity)}
                          {i > 0 && values[i] != null && values[0] != null && (
                            <Difference from={values[0]} to={values[i]} quantity={row.quantity} />
                          )}
                        </td>
                      ))}
                    </tr>
                  );
                })}
                <Sentences label="Fails first" columns={columns} of={(f) => f.first} />
                <Sentences label="Worst load case" columns={columns} of={(f) => f.governs} />
                <Sentences label="Snap test" columns={columns} of={(f) => f.behaviour ?? "–"} />
                <tr>
                  <td />
                  {columns.map((c) => (
                    <td key={c.id} className="px-1 py-2 text-right">
                      {c.pin && (
                        <span className="inline-flex flex-wrap justify-end gap-1.5">
                          <button type="button" className="key-button" onClick={() => adopt(c.pin!)}>
                            Use this<span className="sr-only"> {c.name}</span>
                          </button>
                          <button
                            type="button"
                            className="key-button"
                            onClick={() => pins.unpin.mutate(c.pin!.id)}
                            aria-label={`Delete variant ${c.name}`}
                          >
                            ✕
                          </button>
                        </span>
                      )}
                    </td>
                  ))}
                </tr>
              </tbody>
            </table>
          </div>
          <TradePlot
            points={columns.flatMap((c) =>
              c.figures ? [{ name: c.pin ? c.name : "Current", figures: c.figures }] : [],
            )}
          />
        </>
      )}
    </section>
  );
}

function Difference({ from, to, quantity }: { from: number; to: number; quantity: Quantity }) {
  const by = shownValue(to, quantity) - shownValue(from, quantity);
  if (close(from, to)) return <span className="block text-note font-normal text-soft">no change</span>;
  return (
    <span className="block text-note font-normal text-soft">
      {by > 0 ? "+" : "−"}
      {plain(Math.abs(by), 2)}
    </span>
  );
}

interface SentenceProps {
  label: string;
  columns: { id: string; figures: Figures | undefined }[];
  of: (f: Figures) => string;
}

function Sentences({ label, columns, of }: SentenceProps) {
  return (
    <tr className="border-b border-rule align-top">
      <th scope="row" className="py-1.5 pr-3 text-left font-normal">
        {label}
      </th>
      {columns.map((c) => (
        <td key={c.id} className="px-2 py-1.5 text-right text-note leading-tight">
          {c.figures ? of(c.figures) : "…"}
          {c.figures?.own_cases && <span className="block text-fail">own load cases</span>}
        </td>
      ))}
    </tr>
  );
}

function PinName({ pin, rename }: { pin: Pin; rename: Pins["rename"] }) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed?.trim() && typed.trim() !== pin.name) rename.mutate({ id: pin.id, name: typed.trim() });
    setTyped(null);
  };
  return (
    <input
      aria-label={`Name of variant ${pin.name}`}
      className="field-box min-w-24 border-transparent text-right font-semibold hover:border-hair"
      value={typed ?? pin.name}
      maxLength={60}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => e.key === "Enter" && keep()}
    />
  );
}
