import { useState } from "react";
import { api, problemsOf, type Part, type Schemas } from "../../../api/client";
import { Choice, NumberField, OptionalNumber } from "../../../forms/fields";
import { Word } from "../../../words/Word";
import { plain, show } from "../../../forms/units";
import type { Subject } from "../../../part/useStudy";
import { ofWords, Table } from "../../../words/Table";

interface Props {
  subject: Subject;
  part: Part;
  take: (part: Part, mass?: number) => void;
}

/** The same design at another span: which stock keeps the bend ratio or the margin, and what it then weighs. */
export function ScaleForm({ subject, part, take }: Props) {
  const [span, setSpan] = useState(Math.round(1.25 * part.span_mm));
  const [mass, setMass] = useState<number | null>(null);
  const [keep, setKeep] = useState<"bend" | "margin">("bend");
  const [answer, setAnswer] = useState<Schemas["Scaling"] | null>(null);
  const [trouble, setTrouble] = useState("");
  const [asking, setAsking] = useState(false);
  const ask = async () => {
    setAsking(true);
    const { data, error } = await api.POST("/api/studies/scale", {
      body: { ...subject, span_mm: span, all_up_mass_g: mass, keep },
    });
    setAsking(false);
    setAnswer(data ?? null);
    setTrouble(data ? "" : problemsOf(error)[0]!.message);
  };
  const percent = (v: number) => `${plain(100 * v, 2)} %`;
  return (
    <div>
      <h2 className="text-lead font-semibold">Same design, other span</h2>
      <p className="max-w-prose text-body leading-snug text-soft">
        All sizes scale in proportion; spars are chosen again from stock. Loads follow the mass, speeds keep
        the same lift coefficient. If you enter no mass, it grows as span to the power 2.5.
      </p>
      <div className="mt-3 grid max-w-3xl grid-cols-2 items-end gap-x-4 gap-y-3 md:grid-cols-4">
        <NumberField label="New span" value={span} quantity="length" step={10} onChange={setSpan} />
        <OptionalNumber label="New all-up mass" value={mass} quantity="mass" onChange={setMass} />
        <Choice
          label="Keep"
          value={keep}
          options={[
            { value: "bend", label: "deflection, % of span" },
            { value: "margin", label: "margin" },
          ]}
          onChange={(v) => setKeep(v)}
        />
        <button type="button" className="key-button" disabled={asking} onClick={() => void ask()}>
          {asking ? "Trying stock sizes…" : "Scale"}
        </button>
      </div>
      <p role="alert" className="mt-1 text-fail">
        {trouble}
      </p>
      {answer && (
        <div className="mt-2 overflow-x-auto" aria-live="polite">
          <p className="text-body">
            Now: deflection {percent(answer.bend_ratio)} of span, <Word k="margin">margin</Word>{" "}
            {plain(answer.margin, 2)}. At {show(span, "length", 4)} and{" "}
            {show(answer.designs[0]!.all_up_mass_g, "mass", 4)} all up:
          </p>
          <Table
            caption="Designs at the other span"
            heads={[
              "Stock",
              ofWords("Kept"),
              "Part mass",
              "bends",
              "margin",
              ofWords("Fails first"),
              <span className="sr-only">use</span>,
            ]}
            className="mt-1 max-w-4xl"
          >
            {answer.designs.map((d) => (
              <tr key={d.says.join()} className="border-b border-rule">
                <th scope="row" className="py-1.5 text-left font-semibold">
                  {d.says.join("; ")}
                </th>
                <td className="pl-3">{d.keeps ? "✓ kept" : "✕ not kept"}</td>
                <td className="figure-type pl-3 text-right whitespace-nowrap">{show(d.mass_g, "mass")}</td>
                <td className="figure-type pl-3 text-right whitespace-nowrap">{percent(d.bend_ratio)}</td>
                <td className="figure-type pl-3 text-right">{plain(d.margin, 2)}</td>
                <td className="pl-3 leading-tight">{d.first}</td>
                <td className="py-1 text-right">
                  <button
                    type="button"
                    className="key-button"
                    aria-label={`Use: ${d.says.join("; ")}`}
                    onClick={() => take(d.part, d.all_up_mass_g)}
                  >
                    Use this
                  </button>
                </td>
              </tr>
            ))}
          </Table>
        </div>
      )}
    </div>
  );
}
