import { useState } from "react";
import type { Band, Catalogue, Estimate, Part, Schemas } from "../../../api/client";
import { readAt } from "../../../charts/interpolate";
import { Plot } from "../../../charts/Plot";
import { Word } from "../../../words/Word";
import { bare, plain, show, shownValue, unitOf, type Quantity } from "../../../forms/units";
import { lineName } from "../../../part/edits";
import { BentStrip, BowDrawing } from "./HandDrawings";
import { ofWords, Table } from "../../../words/Table";

type Toughness = Schemas["Toughness"];

interface Props {
  estimate: Estimate;
  part: Part;
  catalogue: Catalogue;
  openWorking: (figure: string) => void;
  name: string;
}

const spread = (b: Band, of: Quantity) => `${bare(b.low, of, 2)} – ${bare(b.high, of, 2)}`;

/** A heading with the way to its working. */
function Head({ children, open }: { children: React.ReactNode; open?: () => void }) {
  return (
    <h2 className="mt-5 flex items-baseline justify-between border-b border-ink pb-0.5 text-lead font-semibold first:mt-0">
      <span>{children}</span>
      {open && (
        <button
          type="button"
          className="min-h-10 text-body font-normal text-soft underline decoration-dotted underline-offset-3"
          onClick={open}
        >
          show working
        </button>
      )}
    </h2>
  );
}

/** What the hand feels: how tough it is, how it warps as it is built, what leaves a dent. */
export function HandView({ estimate, part, catalogue, openWorking, name }: Props) {
  const { toughness, warp, dents } = estimate;
  const label = (id: string) => {
    const layer = part.layers.find((l) => l.id === id);
    return layer ? lineName(layer, catalogue) : id;
  };
  return (
    <section className="px-5 py-3" aria-label="Toughness">
      {toughness.length > 0 ? (
        <>
          <Head open={() => openWorking("toughness")}>
            <Word k="toughness">How tough is it?</Word>
          </Head>
          <TougherTable toughness={toughness} />
          <p className="mt-1.5 border-l-[3px] border-fail pl-3 text-small leading-snug">
            Only break pieces you can spare. Broken carbon, glass and wood throw splinters: wear goggles and
            gloves, and keep faces and bystanders out of line.
          </p>
          <MomentPlot toughness={toughness} name={name} />
          <div className="grid grid-cols-2 gap-x-6 max-md:grid-cols-1">
            {toughness.map((t) => (
              <BentStrip key={t.direction} toughness={t} />
            ))}
          </div>
        </>
      ) : (
        <p className="leading-relaxed text-soft">
          Toughness and dents are computed for parts with a foam core. The walls of hollow parts buckle long
          before that.
        </p>
      )}
      <Head {...(warp ? { open: () => openWorking("warp") } : {})}>
        <Word k="warp">Will it stay straight?</Word>
      </Head>
      {warp ? (
        <div className="mt-2 grid grid-cols-2 gap-x-6 max-md:grid-cols-1">
          <div>
            <Table
              caption="How each skin bends or twists the part"
              heads={["Skin", "Shrinkage", "Bow", "Twist"]}
            >
              {warp.lines.map((l) => (
                <tr key={l.line_id} className="border-b border-rule align-top">
                  <th scope="row" className="py-1.5 text-left leading-tight font-semibold">
                    {label(l.line_id)}
                    <span className="block text-note font-normal text-soft">{l.way}</span>
                  </th>
                  <td className="figure-type pl-3 py-1.5 text-right whitespace-nowrap">
                    {plain(l.strain_percent, 2)} %
                  </td>
                  <td className="figure-type pl-3 py-1.5 text-right whitespace-nowrap">
                    {show(l.bow_mm, "length", 2)}
                  </td>
                  <td className="figure-type py-1.5 pl-3 text-right whitespace-nowrap">
                    {show(l.twist_deg, "angle", 2)}
                  </td>
                </tr>
              ))}
              <tr className="border-b border-ink align-top">
                <th scope="row" className="py-1.5 text-left font-semibold">
                  Total
                </th>
                <td />
                <td className="figure-type pl-3 py-1.5 text-right whitespace-nowrap">
                  {show(warp.bow_mm.typ, "length", 2)}
                  <span className="block text-note font-normal text-soft">
                    {spread(warp.bow_mm, "length")}
                  </span>
                </td>
                <td className="figure-type py-1.5 pl-3 text-right whitespace-nowrap">
                  {show(warp.twist_deg.typ, "angle", 2)}
                  <span className="block text-note font-normal text-soft">
                    {spread(warp.twist_deg, "angle")}
                  </span>
                </td>
              </tr>
            </Table>
            <p className="mt-1.5 text-small leading-snug text-soft">
              Mid-span bow off a straight line (up positive); fore and aft{" "}
              {show(warp.sweep_mm.typ, "length", 2)} ({spread(warp.sweep_mm, "length")}). With the root held
              flat, the tip sits {show(Math.abs(warp.tip_mm), "length", 2)}{" "}
              {warp.tip_mm >= 0 ? "high" : "low"}.
            </p>
          </div>
          <div>
            <BowDrawing bow={warp.bow_mm} span={estimate.span_mm} />
            {warp.cancels.length > 0 && (
              <>
                <h3 className="mt-2 font-semibold">Ways to cancel it (any one)</h3>
                <ul className="mt-1 grid gap-1 text-body leading-snug">
                  {warp.cancels.map((text) => (
                    <li key={text} className="border-l-[3px] border-rule pl-2">
                      {text}
                    </li>
                  ))}
                </ul>
              </>
            )}
          </div>
        </div>
      ) : (
        <p className="mt-2 text-soft">No skin shrinks or is laid under tension.</p>
      )}
      {dents.length > 0 && (
        <>
          <Head open={() => openWorking("dents")}>
            <Word k="dent">What dents it?</Word>
          </Head>
          <Dents dents={dents} label={label} />
        </>
      )}
    </section>
  );
}

/** Tears are told up to half of the depth. */
const allOf = (b: Band) => b.low === b.high;

function TougherTable({ toughness }: { toughness: Toughness[] }) {
  const rows: [string, string | null, (t: Toughness) => string, (t: Toughness) => string][] = [
    [
      `Energy to first ${toughness.every((t) => t.folds) ? "fold" : "break"}`,
      "toughness",
      (t) => show(t.first_mJ.typ, "work"),
      (t) => spread(t.first_mJ, "work"),
    ],
    ["Breaks first", null, (t) => (t.folds ? "nothing: it folds" : ""), (t) => (t.folds ? "" : t.what)],
    [
      "Total breaking energy",
      null,
      (t) => (t.parts_mJ ? show(t.parts_mJ.typ, "work") : "folds, stays whole"),
      (t) => (t.parts_mJ ? spread(t.parts_mJ, "work") : ""),
    ],
    [
      "Bend radius by then",
      null,
      (t) => show(t.radius_mm.typ, "length"),
      (t) => (t.folds ? "a fold of five times its depth" : spread(t.radius_mm, "length")),
    ],
    [
      `That is over ${show(100, "length", 4)}`,
      null,
      (t) => show(t.angle_deg.typ, "angle"),
      (t) => spread(t.angle_deg, "angle"),
    ],
    [
      "Bend that stays",
      "springback",
      (t) => `${plain(t.set_percent, 2)} %`,
      (t) => (t.set_percent < 0.5 ? "springs back fully" : ""),
    ],
    [
      "Longest stable tear",
      "tear",
      (t) => (t.tear_mm ? `${allOf(t.tear_mm) ? "over " : ""}${show(t.tear_mm.typ, "length")}` : "–"),
      (t) =>
        t.tear_mm
          ? allOf(t.tear_mm)
            ? "half the depth"
            : spread(t.tear_mm, "length")
          : "not in tension in this case",
    ],
  ];
  return (
    <table className="mt-2 w-full text-body">
      <caption className="sr-only">Toughness when bent up and down by hand</caption>
      <thead className="label-type text-small text-soft">
        <tr className="border-b border-ink">
          <th scope="col" className="py-1 text-left">
            Bent by hand over {show(toughness[0]!.over_mm, "length", 3)}
          </th>
          {toughness.map((t) => (
            <th key={t.direction} scope="col" colSpan={2} className="pl-6 text-left">
              bent {t.direction}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([label, word, value, band]) => (
          <tr key={label} className="border-b border-rule">
            <th scope="row" className="py-1 text-left font-normal">
              {word ? <Word k={word}>{label}</Word> : label}
            </th>
            {toughness.map((t) => [
              <td key={`${t.direction}v`} className="figure-type py-1 pl-6 whitespace-nowrap">
                {value(t)}
              </td>,
              <td key={`${t.direction}b`} className="py-1 pl-3 text-small text-soft">
                {band(t)}
              </td>,
            ])}
          </tr>
        ))}
        <tr className="border-b border-rule align-top">
          <th scope="row" className="py-1 text-left font-normal">
            {" "}
            Tearing{" "}
          </th>
          {toughness.map((t) => (
            <td key={t.direction} colSpan={2} className="py-1 pl-6 leading-tight">
              {t.tear}
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  );
}

/** Moment over curvature, both ways, and of the cracked section. */
function MomentPlot({ toughness, name }: { toughness: Toughness[]; name: string }) {
  const [cursor, setCursor] = useState(1e3 / toughness[0]!.radius_mm.typ);
  // what is drawn ends somewhat after the first break: beyond it the whole section no longer is
  const most = Math.min(
    ...toughness.map((t) => t.curvature.at(-1)!),
    Math.max(...toughness.map((t) => (t.folds ? t.curvature.at(-1)! : 4 / t.radius_mm.typ))),
  );
  const x = Array.from({ length: 61 }, (_, i) => (most * i) / 60);
  const line = (t: Toughness, values: number[]) =>
    x.map((k) => {
      if (k > t.curvature.at(-1)!) return null;
      const v = readAt([0, ...t.curvature], [0, ...values], k);
      return v === null ? null : shownValue(v / 1e3, "moment");
    });
  const [up, down] = toughness;
  return (
    <Plot
      title="Moment needed to bend it by hand"
      unit={unitOf("moment")}
      written={(v) => plain(v, 3)}
      x={x.map((k) => 1e3 * k)}
      xTitle="curvature, 1/m"
      xWritten={(v) => plain(v, 3)}
      cursor={cursor}
      setCursor={setCursor}
      fileName={`${name} moment by hand`.toLowerCase().replaceAll(/[^a-z0-9]+/g, "-")}
      series={[
        { label: "bent up", values: line(up!, up!.moment_N_mm), line: "full", tone: "ink" },
        { label: "bent down", values: line(down!, down!.moment_N_mm), line: "dashed", tone: "ink" },
        { label: "cracked, up", values: line(up!, up!.cracked_N_mm), line: "dotted", tone: "fail" },
      ]}
    />
  );
}

function Dents({ dents, label }: { dents: Schemas["Dent"][]; label: (id: string) => string }) {
  return (
    <Table
      caption="Denting force of each face"
      heads={["Face", "Dents at", "bare core", "Skin mass", ofWords("Skins")]}
      className="mt-2"
    >
      {dents.map((d) => (
        <tr key={d.face} className="border-b border-rule align-top">
          <th scope="row" className="py-1.5 text-left font-semibold">
            {d.face === "upper" ? "Upper" : "Lower"}
          </th>
          <td className="figure-type pl-3 py-1.5 text-right whitespace-nowrap">
            {show(d.load_N.typ, "force")}
            <span className="block text-note font-normal text-soft">{spread(d.load_N, "force")}</span>
          </td>
          <td className="figure-type pl-3 py-1.5 text-right whitespace-nowrap">{show(d.bare_N, "force")}</td>
          <td className="figure-type pl-3 py-1.5 text-right whitespace-nowrap">{show(d.grams, "mass")}</td>
          <td className="py-1.5 pl-3 leading-tight">{d.line_ids.map(label).join(", ") || "nothing"}</td>
        </tr>
      ))}
    </Table>
  );
}
