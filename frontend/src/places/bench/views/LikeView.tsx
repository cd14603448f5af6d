import { useState } from "react";
import { api, problemsOf, type Catalogue, type Estimate, type Part, type Schemas } from "../../../api/client";
import { Choice, NumberField } from "../../../forms/fields";
import { Word } from "../../../words/Word";
import { plain, show, type Quantity } from "../../../forms/units";
import { lineName } from "../../../part/edits";
import { ScaleForm } from "./ScaleForm";
import type { Subject } from "../../../part/useStudy";
import { figuresOf, type Figures, type Pins } from "../usePins";

interface Props {
  subject: Subject;
  part: Part;
  catalogue: Catalogue;
  estimate: Estimate;
  pins: Pins;
  /** Take a changed part as the present one. */
  take: (part: Part, mass?: number) => void;
}

type Figure = Schemas["MatchStudy"]["figure"];

const FIGURES: { value: Figure; label: string; quantity: Quantity }[] = [
  { value: "mass", label: "same mass", quantity: "mass" },
  { value: "bend", label: "same bending stiffness", quantity: "length" },
  { value: "twist", label: "same twist stiffness", quantity: "angle" },
  { value: "margin", label: "at least this margin", quantity: "plain" },
];

const read = (f: Figures, figure: Figure) =>
  ({
    mass: f.mass_g.typ,
    bend: f.bend_mm.typ,
    twist: Math.abs(f.twist_deg?.typ ?? 0),
    margin: f.margin.typ,
  })[figure];

/** Like with like: one line scaled until it matches; and the same design at another span. */
export function LikeView(props: Props) {
  const { subject, part, catalogue, estimate, pins, take } = props;
  const lines = part.layers.filter((l) => l.enabled !== false && l.type !== "cut" && l.type !== "cord");
  const [line, setLine] = useState("");
  const [figure, setFigure] = useState<Figure>("mass");
  const [like, setLike] = useState("own");
  const [own, setOwn] = useState<number | null>(null);
  const [answer, setAnswer] = useState<Schemas["Match"] | null>(null);
  const [trouble, setTrouble] = useState("");
  const [asking, setAsking] = useState(false);
  const kind = FIGURES.find((f) => f.value === figure)!;
  const pinned = pins.pins.find((p) => String(p.id) === like);
  const other = pinned && pins.figures.get(pinned.id);
  const wanted = other
    ? read(other, figure)
    : (own ?? Math.round(100 * read(figuresOf(estimate), figure)) / 100);
  const chosen = lines.find((l) => l.id === line) ?? lines[0];
  const ask = async () => {
    if (!chosen) return;
    setAsking(true);
    const { data, error } = await api.POST("/api/studies/match", {
      body: { ...subject, line_id: chosen.id, figure, wanted },
    });
    setAsking(false);
    setAnswer(data ?? null);
    setTrouble(data ? "" : problemsOf(error)[0]!.message);
  };
  return (
    <section className="grid gap-8 px-5 py-3" aria-label="Match & scale">
      <div>
        <h2 className="text-lead font-semibold">Match one figure</h2>
        <p className="max-w-prose text-body leading-snug text-soft">
          A comparison is fair when one figure is equal. Choose an item: Fletcher resizes it (a strip in
          width, anything else in stock sizes) until the figure matches, or until the lowest margin is enough,
          and shows what that costs.
        </p>
        {!chosen ? (
          <p className="mt-3">No item to resize yet.</p>
        ) : (
          <div className="mt-3 grid max-w-3xl grid-cols-2 items-end gap-x-4 gap-y-3 md:grid-cols-4">
            <Choice
              label="Resize this item"
              value={chosen.id}
              options={lines.map((l) => ({ value: l.id, label: lineName(l, catalogue) }))}
              onChange={setLine}
            />
            <Choice
              label="Until it has"
              value={figure}
              options={FIGURES}
              onChange={(v) => {
                setFigure(v);
                setOwn(v === "margin" ? 1 : null);
              }}
            />
            <Choice
              label="Same as"
              value={pinned ? like : "own"}
              options={[
                { value: "own", label: "my own value" },
                ...pins.pins.map((p) => ({ value: String(p.id), label: p.name })),
              ]}
              onChange={setLike}
            />
            {pinned ? (
              <p className="pb-2">that is {show(wanted, kind.quantity)}</p>
            ) : (
              <NumberField label="Value" value={wanted} quantity={kind.quantity} onChange={setOwn} />
            )}
            <button type="button" className="key-button" disabled={asking} onClick={() => void ask()}>
              {asking ? "Trying…" : "Match"}
            </button>
          </div>
        )}
        <p role="alert" className="mt-1 text-fail">
          {trouble}
        </p>
        {answer && (
          <div className="mt-2 max-w-3xl border-t border-ink pt-2" aria-live="polite">
            <p className="font-semibold">
              {!answer.close
                ? "Closest possible"
                : answer.figure === "margin"
                  ? "Lightest that does"
                  : "Matched"}
              : {answer.says}
            </p>
            <p className="leading-snug">
              {show(answer.reached, FIGURES.find((f) => f.value === answer.figure)!.quantity)} against{" "}
              {show(answer.wanted, FIGURES.find((f) => f.value === answer.figure)!.quantity)} needed.{" "}
              {answer.grams >= 0 ? "+" : ""}
              {show(answer.grams, "mass", 2)}; then deflection {show(answer.bend_mm, "length")}, the{" "}
              <Word k="margin">margin</Word> is {plain(answer.margin, 2)}, and what fails first:{" "}
              {answer.first}. <span className="text-soft">Typical values.</span>
            </p>
            <button type="button" className="key-button mt-2" onClick={() => take(answer.part)}>
              Use this
            </button>
          </div>
        )}
      </div>
      <ScaleForm subject={subject} part={part} take={take} />
    </section>
  );
}
