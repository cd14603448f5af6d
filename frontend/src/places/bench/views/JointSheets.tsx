import type { ReactNode } from "react";
import { api, type Catalogue, type Layer, type Part, type Schemas } from "../../../api/client";
import { graded } from "../../../words/grades";
import { CautionLines } from "../../../words/Cautions";
import { OverTime } from "../../joints/OverTime";
import { Word } from "../../../words/Word";
import { bare, place, plain, show, unitOf } from "../../../forms/units";
import { withLayer } from "../../../part/edits";
import { JointSketch } from "../../../part/sketches/JointSketch";
import { useStudy, type Subject } from "../../../part/useStudy";
import { Table } from "../../../words/Table";

type Sheet = Schemas["JointSheet"];

const GIVES = { glue: "glue", foam: "foam", piece: "brace, plate or screw", bearing: "bearing" } as const;

/** So many ways are told, the first to give first. */
const TOLD = 6;

interface Props {
  subject: Subject;
  part: Part;
  catalogue: Catalogue;
  change: (edit: (part: Part) => Part) => void;
  setSelected: (id: string | null) => void;
  stretches: Schemas["Stretch"][];
}

/** Every joint and hinge of the part against its worst case. */
export function JointSheets({ subject, part, catalogue, change, setSelected, stretches }: Props) {
  const has = part.layers.some((l) => l.enabled !== false && (l.type === "joint" || l.type === "hinge"));
  const study = useStudy(
    "joints",
    subject,
    (body, signal) => api.POST("/api/studies/joints", { body, signal }),
    has,
  );
  const sketched = (layer: Layer | undefined) =>
    layer &&
    (layer.type === "joint" || layer.type === "hinge") && (
      <JointSketch {...{ layer, part, catalogue, stretches }} />
    );
  return (
    <>
      <h2 className="border-b border-ink text-lead font-semibold">
        <Word k="joint">Will the joints hold?</Word>
      </h2>
      {!has && (
        <p className="py-2 text-body text-soft">
          No joints or hinges yet. Add one to the lay-up: a butt or scarf joint, a lap, the glue under a spar,
          a plate, bolts, rubber bands or a hinge.
        </p>
      )}
      {has && study.isError && (
        <p className="py-2 text-fail">The joints could not be computed. Correct the marked fields.</p>
      )}
      {has && !study.data && !study.isError && <p className="py-2 text-soft">Checking each joint…</p>}
      {has && study.data && (
        <div className={study.isFetching ? "stale" : ""}>
          {(study.data as Sheet[]).map((s) => (
            <One
              key={s.line_id}
              sheet={s}
              sketch={sketched(part.layers.find((l) => l.id === s.line_id))}
              number={part.layers.findIndex((l) => l.id === s.line_id) + 1}
              take={(layer) => change((p) => withLayer(p, s.line_id, () => layer))}
              pick={() => setSelected(s.line_id)}
            />
          ))}
        </div>
      )}
    </>
  );
}

const said = (value: number, unit: string) => {
  if (unit === "N·mm") return show(value / 1e3, "moment", 3);
  if (unit === "N") return show(value, "force", 3);
  return `${plain(value, 3)} ${unit}`;
};

interface OneProps {
  sheet: Sheet;
  sketch: ReactNode;
  number: number;
  take: (layer: Layer) => void;
  pick: () => void;
}

function One({ sheet: s, sketch, number, take, pick }: OneProps) {
  return (
    <section
      aria-label={s.title}
      className="grid grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-x-6 border-b border-rule py-3 max-lg:grid-cols-1"
    >
      <div>
        <h3 className="text-lead leading-snug font-semibold">
          <button
            type="button"
            className="text-left underline decoration-rule underline-offset-4"
            onClick={pick}
          >
            {number} {s.title}
          </button>{" "}
          <span className="text-body font-normal text-soft">
            {place(s.at_mm)}, {show(s.grams.typ, "mass", 2)} ({bare(s.grams.low, "mass", 2)} –{" "}
            {bare(s.grams.high, "mass", 2)})
          </span>
        </h3>
        <p className={`leading-snug ${s.enough === "no" ? "text-fail" : ""}`}>
          {s.holds && (
            <strong>
              Breaks at {plain(s.holds.typ, 3)} × “{s.case_name}” ({plain(s.holds.low, 2)} –{" "}
              {plain(s.holds.high, 2)}), needs {plain(s.asked)}:{" "}
            </strong>
          )}
          {s.enough === "unasked" ? "no load in any load case" : graded(s.enough)}
          {s.effective_mm != null && (
            <span className="text-soft"> · load transfer length {show(s.effective_mm, "length", 3)}</span>
          )}
        </p>
        <Ways sheet={s} />
        {s.ways.length > TOLD && (
          <p className="pt-1 text-small text-soft">
            {s.ways.length - TOLD} other failures need {plain(s.ways[TOLD]!.holds.typ, 2)} × and more.
          </p>
        )}
        {s.notes.length > 0 && (
          <ul className="mt-1.5 text-body leading-snug">
            {s.notes.map((text) => (
              <li key={text} className="mt-0.5 border-l-[3px] border-rule pl-2">
                {text}
              </li>
            ))}
          </ul>
        )}
        <CautionLines cautions={s.cautions} />
        <Working sheet={s} />
      </div>
      <div className="content-start">
        {sketch}
        <Helps sheet={s} take={take} />
        {s.over_time.length > 0 && (
          <OverTime
            name={s.title}
            points={s.over_time.map((t) => ({ minutes: t.minutes, value: t.holds }))}
            asked={s.asked}
            unit="×"
            says={
              s.enough_after_min == null
                ? "Strength after closing, × this load (5–95 % range); dashed: needed. It never gets there."
                : "Strength after closing, × this load (5–95 % range); dashed: needed."
            }
          />
        )}
      </div>
    </section>
  );
}

/** How it gives, the first to give first. */
function Ways({ sheet: s }: { sheet: Sheet }) {
  if (s.ways.length === 0) return null;
  return (
    <Table
      caption={<>How {s.title} can fail, weakest first</>}
      heads={["What fails", "load", "strength", "breaks at"]}
      className="mt-1.5 border-t border-ink"
    >
      {s.ways.slice(0, TOLD).map((w) => (
        <tr key={w.says} className="border-b border-rule align-top">
          <th scope="row" className="py-1 text-left leading-snug font-normal">
            {w.says} <span className="text-note text-soft">{GIVES[w.gives]}</span>
          </th>
          <td className="pl-3 py-1 text-right whitespace-nowrap">{said(w.asked.typ, w.unit)}</td>
          <td className="pl-3 py-1 text-right whitespace-nowrap">{said(w.bears.typ, w.unit)}</td>
          <td className="figure-type py-1 pl-3 text-right whitespace-nowrap">
            {w.holds.typ > 99 ? "> 99" : plain(w.holds.typ, 3)}
            <span className="block font-sans text-note text-soft">
              {w.holds.low > 99 ? "" : `${plain(w.holds.low, 2)} – ${plain(Math.min(w.holds.high, 99), 2)}`}
            </span>
          </td>
        </tr>
      ))}
    </Table>
  );
}

function Working({ sheet: s }: { sheet: Sheet }) {
  return (
    <details>
      <summary className="label-type min-h-10 cursor-pointer py-2 text-body">
        Working<span className="sr-only"> of {s.title}</span>
      </summary>
      <p className="figure-type text-small">{s.formula}</p>
      <dl className="text-small">
        {s.symbols.map((v) => (
          <div key={v.symbol} className="flex justify-between gap-4 border-b border-rule py-0.5">
            <dt>
              <span className="figure-type">{v.symbol}</span> <span className="text-soft">{v.meaning}</span>
            </dt>
            <dd className="figure-type">
              {plain(v.value, 3)} {v.unit}
            </dd>
          </div>
        ))}
      </dl>
      <ul className="mt-1 text-small text-soft">
        {s.assumptions.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
    </details>
  );
}

function Helps({ sheet: s, take }: { sheet: Sheet; take: (layer: Layer) => void }) {
  if (s.helps.length === 0) return null;
  return (
    <>
      <h4 className="label-type text-small text-soft">What helps most</h4>
      <ul>
        {s.helps.map((h) => (
          <li
            key={h.says}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 border-b border-rule py-1.5 text-body"
          >
            <span className="leading-snug">
              {h.says}
              <span className="block text-small text-soft">
                then breaks at{" "}
                <span className="figure-type">{h.holds > 99 ? "> 99" : plain(h.holds, 3)} ×</span>,{" "}
                {h.more_g >= 0 ? "+" : "−"}
                {bare(Math.abs(h.more_g), "mass", 2)} {unitOf("mass")}
              </span>
            </span>
            <button
              type="button"
              className="key-button"
              aria-label={`Apply: ${h.says}`}
              onClick={() => take(h.layer)}
            >
              Apply
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
