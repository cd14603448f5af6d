import { useState } from "react";
import { api, type Estimate, type Schemas } from "../../../api/client";
import { Word } from "../../../words/Word";
import { bare, plain, show, unitOf } from "../../../forms/units";
import { Cautions } from "../../../words/Cautions";
import { DrapeTables } from "./DrapeTables";
import { FlatPattern, Formers } from "./FlatPattern";
import { useStudy, type Subject } from "../../../part/useStudy";
import { TrueScale } from "./TrueScaleDialog";
import { sectionOf, templateOf } from "./trueScale";
import { ofWords, Table } from "../../../words/Table";
import { Scrolling } from "../../../words/Scrolling";

const MAKES = { sure: "✓ lies", typical: "≈ likely", no: "✕ cracks or creases" } as const;

interface Props {
  subject: Subject;
  name: string;
  estimate: Estimate;
}

/** What can be printed as large as it is: pieces of sheet, formers, the sections at the ends. */
function templatesOf(making: Schemas["Making"], estimate: Estimate) {
  const ends = [
    ["Root section", estimate.stretches[0]!.root_side],
    ["Tip section", estimate.stretches.at(-1)!.tip_side],
  ] as const;
  const note = `Outline of the ${making.stack.outline === "core" ? "core" : "finished part"}; chord line dashed`;
  return [
    ...(making.pattern?.pieces ?? []).map(templateOf),
    ...making.formers.map(templateOf),
    ...ends.map(([end, cut]) => sectionOf(end, cut, note)),
  ];
}

/** Before the first cut: what must be cut to which size, what must be bent, what lies, what is folded. */
export function MakingView({ subject, name, estimate }: Props) {
  const [printing, setPrinting] = useState(false);
  const study = useStudy("making", subject, (body, signal) =>
    api.POST("/api/studies/making", { body, signal }),
  );
  if (study.isError) return <p className="p-6 text-fail">Not computed. Correct the marked fields.</p>;
  if (!study.data) return <p className="p-6 text-soft">Laying out the sheets…</p>;
  const { stack, formed, surfaces, pattern, formers, sheets, hardening, irons, cautions } =
    study.data as Schemas["Making"];
  return (
    <section className={`px-5 py-3 ${study.isFetching ? "stale" : ""}`} aria-label="Cutting and forming">
      <button type="button" className="key-button float-right" onClick={() => setPrinting(true)}>
        Print at true scale…
      </button>
      {printing && (
        <TrueScale
          part={name}
          templates={templatesOf(study.data as Schemas["Making"], estimate)}
          onClose={() => setPrinting(false)}
        />
      )}
      {pattern && <FlatPattern pattern={pattern} name={name} />}
      {formers.length > 0 && (
        <Formers
          pieces={formers}
          name={name}
          body={subject.document.parts.some((p) => p.id === subject.part_id && p.kind === "fuselage")}
        />
      )}
      <StackTable stack={stack} />
      {formed.length > 0 && (
        <>
          <h2 className="mt-6 border-b border-ink text-lead font-semibold">
            <Word k="forming">Will the sheet bend that far?</Word>
          </h2>
          {formed.map((f) => (
            <FormedRow key={f.line_id + f.face} formed={f} />
          ))}
          {sheets.map((s) => (
            <SheetStates key={s.key} sheet={s} />
          ))}
        </>
      )}
      <DrapeTables surfaces={surfaces} />
      {irons.length > 0 && <IronTable irons={irons} />}
      {hardening.length > 0 && <HardeningTable hardening={hardening} />}
      <Cautions cautions={cautions} />
    </section>
  );
}

const IRONS = { good: "✓ good", marginal: "just", avoid: "✕ do not iron it" } as const;

/** How hot the iron is for every film of the part. */
function IronTable({ irons }: { irons: Schemas["Making"]["irons"] }) {
  const range = (r: readonly number[] | null) =>
    r === null ? "none" : `${bare(r[0]!, "warmth")} – ${bare(r[1]!, "warmth")}`;
  return (
    <>
      <h2 className="mt-6 border-b border-ink text-lead font-semibold">How hot is the iron?</h2>
      <Scrolling label="Iron temperatures">
        <Table
          caption="Temperature at the sole of the iron"
          heads={[
            <>At the sole, {unitOf("warmth")}</>,
            "set it to",
            "tacks",
            "bonds",
            "shrinks",
            "the foam stands",
            ofWords(""),
          ]}
        >
          {irons.map((i) => (
            <tr key={i.line_id + i.beneath} className="border-b border-rule align-top">
              <th scope="row" className="py-1 text-left font-semibold">
                {i.skin}
                <span className="block text-note font-normal text-soft">on {i.beneath}</span>
              </th>
              <td className="figure-type pl-3 py-1 text-right font-semibold">
                {i.set_C === null ? "–" : bare(i.set_C, "warmth")}
                {i.set_shrink_C !== null && (
                  <span className="block text-note font-normal text-soft">
                    shrink {bare(i.set_shrink_C, "warmth")}
                  </span>
                )}
              </td>
              <td className="figure-type pl-3 py-1 text-right">
                {i.tack_C === null ? "–" : bare(i.tack_C, "warmth")}
              </td>
              <td className="figure-type pl-3 py-1 text-right whitespace-nowrap">{range(i.bond_C)}</td>
              <td className="figure-type pl-3 py-1 text-right whitespace-nowrap">{range(i.shrink_C)}</td>
              <td className="figure-type pl-3 py-1 text-right whitespace-nowrap">
                {bare(i.limit_C, "warmth")}
                <span className="block text-note font-normal text-soft">
                  edges {bare(i.edge_C, "warmth")}
                </span>
              </td>
              <td className={`py-1 pl-3 leading-tight ${i.verdict === "avoid" ? "text-fail" : ""}`}>
                {IRONS[i.verdict]}
                <span className="block text-note text-soft">{i.says}</span>
              </td>
            </tr>
          ))}
        </Table>
      </Scrolling>
    </>
  );
}

function StackTable({ stack }: { stack: Schemas["StackUp"] }) {
  return (
    <>
      <h2 className="mt-2 border-b border-ink text-lead font-semibold">
        <Word k="stack_up">Cutting sizes</Word>
      </h2>
      <Scrolling label="Cutting sizes">
        <Table
          caption="Stack-up at root and tip"
          heads={[
            <>The outline describes {stack.outline === "core" ? "the core" : "the finished part"}</>,
            <>root, {unitOf("length")}</>,
            <>tip, {unitOf("length")}</>,
            ofWords("Meaning"),
          ]}
        >
          {stack.rows.map((r) => (
            <tr key={r.name} className="border-b border-rule">
              <th scope="row" className="py-1 text-left font-semibold">
                {r.name}
              </th>
              <td className="figure-type pl-3 py-1 text-right">{bare(r.root_mm, "length", 4)}</td>
              <td className="figure-type pl-3 py-1 text-right">{bare(r.tip_mm, "length", 4)}</td>
              <td className="py-1 pl-3 text-soft">{r.says}</td>
            </tr>
          ))}
        </Table>
      </Scrolling>
      <p className="mt-1.5 border-l-[3px] border-rule pl-3 text-body leading-snug">{stack.error_says}</p>
    </>
  );
}

function FormedRow({ formed: f }: { formed: Schemas["Formed"] }) {
  const flat = f.tightest_mm > 5000;
  return (
    <div className="border-b border-rule py-2 text-body">
      <p className="leading-snug">
        <strong>
          {f.sheet}, {f.face} face
        </strong>{" "}
        <span className={f.makes === "no" && !flat ? "text-fail" : ""}>
          {f.makes === "no" && !flat ? "✕ " : "✓ "}
          {f.says}
        </span>
      </p>
      {!flat && (
        <>
          <p className="mt-0.5 text-small text-soft">
            Released, it springs back to a radius of {show(f.springs_to_mm, "length")};{" "}
            {plain(100 * f.locked_share, 2)} % of its bending limit stays locked in, and the glue at its edge
            is pulled by {plain(f.edge_N_per_mm, 2)} N/mm.
          </p>
          <ul className="mt-1 flex flex-wrap gap-1.5" aria-label={`Formers on the ${f.face} face`}>
            {f.formers.map((c) => (
              <li
                key={c.y_mm}
                className={`border px-2 py-0.5 text-note ${c.makes === "no" ? "border-fail text-fail" : "border-rule"}`}
                title={MAKES[c.makes as keyof typeof MAKES]}
              >
                {c.makes === "no" ? "✕" : "✓"} {show(c.y_mm, "length", 4)}: {bare(c.radius_mm, "length", 2)}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

function SheetStates({ sheet }: { sheet: Schemas["SheetForming"] }) {
  return (
    <details className="border-b border-rule">
      <summary className="min-h-10 cursor-pointer py-2 font-semibold">
        Ways to bend {sheet.name} <span className="font-normal text-soft">({sheet.states.length} ways)</span>
      </summary>
      {sheet.curls_to_mm && (
        <p className="text-body">
          With one paper peeled off it curls to a radius of {show(sheet.curls_to_mm.typ, "length", 2)} (
          {bare(sheet.curls_to_mm.low, "length", 2)} – {bare(sheet.curls_to_mm.high, "length", 2)}) as the air
          turns dry.
        </p>
      )}
      <Table
        caption={<>Smallest radius of {sheet.name} by preparation</>}
        heads={[
          "Preparation",
          ofWords("Bend axis"),
          <>smallest radius, {unitOf("length")}</>,
          "keeps",
          ofWords("from"),
        ]}
        className="mb-3 text-small"
      >
        {sheet.states.map((w) => (
          <tr key={w.paper + w.formed + w.grain} className="border-b border-rule">
            <th scope="row" className="py-1 text-left font-semibold">
              {stateWords(w)}
            </th>
            <td className="pl-3">{w.grain === "along" ? "along the grain" : "across the grain"}</td>
            <td className="figure-type pl-3 text-right whitespace-nowrap">
              {bare(w.radius_mm.typ, "length", 2)}{" "}
              <span className="font-normal text-soft">
                {bare(w.radius_mm.low, "length", 2)} – {bare(w.radius_mm.high, "length", 2)}
              </span>
            </td>
            <td className="figure-type pl-3 text-right">{plain(100 * w.keeps.typ, 2)} %</td>
            <td className="pl-3 text-soft">
              {w.grade}: {w.basis}
            </td>
          </tr>
        ))}
      </Table>
    </details>
  );
}

/** What coats and guards on both faces would do against dents, and their grams. */
function HardeningTable({ hardening }: { hardening: Schemas["Hardening"][] }) {
  return (
    <>
      <h2 className="mt-6 border-b border-ink text-lead font-semibold">
        <Word k="dent">Harden the surface</Word>
      </h2>
      <Table
        caption="Coats and guard sheets, both faces"
        heads={["On both faces", "Dents at", "× today", "Added mass", ofWords("Note")]}
      >
        {hardening.map((h) => (
          <tr key={h.key} className="border-b border-rule align-top">
            <th scope="row" className="py-1 text-left leading-snug font-semibold">
              {h.name}
            </th>
            <td className="figure-type pl-3 py-1 text-right whitespace-nowrap">
              {show(h.load_N.typ, "force", 2)}
              <span className="block text-note font-normal text-soft">
                {bare(h.load_N.low, "force", 2)} – {bare(h.load_N.high, "force", 2)}
              </span>
            </td>
            <td className="figure-type pl-3 py-1 text-right">{plain(h.times, 3)}</td>
            <td className="figure-type pl-3 py-1 text-right whitespace-nowrap">
              +{show(h.grams, "mass", 2)}
            </td>
            <td className="py-1 pl-3 text-small leading-snug text-soft">
              {h.note.split(". ")[0]} <span className="whitespace-nowrap">(data quality {h.grade})</span>
            </td>
          </tr>
        ))}
      </Table>
    </>
  );
}

const PAPERS: Record<string, string> = { both: "papers on, ", one: "one paper on, ", none: "papers off, " };
const FORMED: Record<string, string> = { plain: "as supplied" };

function stateWords(w: Schemas["FormState"]): string {
  const words = `${PAPERS[w.paper] ?? ""}${FORMED[w.formed] ?? w.formed}`;
  const text = w.warm_C == null ? words : `${words}, at ${show(w.warm_C, "warmth")}`;
  return text[0]!.toUpperCase() + text.slice(1);
}
