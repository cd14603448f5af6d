import { useQuery, keepPreviousData } from "@tanstack/react-query";
import { useState } from "react";
import { api, problemsOf, type Catalogue, type Part, type Problem, type Schemas } from "../../../api/client";
import { graded } from "../../../words/grades";
import { Choice, NumberField, OptionalNumber } from "../../../forms/fields";
import { numberAt, setterOf, type NumberKey, type Setter } from "../../../forms/form";
import { Word } from "../../../words/Word";
import { bare, plain, show, type Quantity } from "../../../forms/units";
import { tagOf } from "../../../words/tags";
import { useSettled } from "../../../forms/useSettled";
import { optionsOf } from "../../../part/materialOptions";
import type { Subject } from "../../../part/useStudy";

type Detail = Schemas["DetailWish"]["detail"];
type Kind = Detail["kind"];

const KINDS: { value: Kind; label: string }[] = [
  { value: "half_slot", label: "Half-slot of crossed plates" },
  { value: "fluted_edge", label: "Open twin-wall edge" },
  { value: "bolted_centre", label: "Bolted centre with doublers" },
  { value: "lock_joint", label: "Fuselage lock joint" },
  { value: "bracket", label: "Glued bracket" },
];

const FIRST: Record<Kind, Detail> = {
  half_slot: {
    kind: "half_slot",
    sheet: "birchply_1.5",
    depth_mm: 60,
    slot_percent: 50,
    radius_mm: 0.5,
    side: "pressed",
  },
  fluted_edge: { kind: "fluted_edge", sheet: "flutedpp_2", length_mm: 100, pull_N: 20 },
  bolted_centre: {
    kind: "bolted_centre",
    doubler: "birchply_0.8",
    plies: 1,
    width_mm: 60,
    bolt: "nylon_bolt_5",
    bolts: 2,
    apart_mm: 60,
    washer_mm: 15,
  },
  lock_joint: {
    kind: "lock_joint",
    sheet: "foamboard_light_5",
    tongue_mm: 60,
    width_mm: 40,
    fastener: "tie_2.5",
  },
  bracket: {
    kind: "bracket",
    fitting: "camera_small",
    foot_long_mm: 30,
    foot_wide_mm: 20,
    arm_mm: 15,
    knock_g: 30,
  },
};

const SIZES: Record<NumberKey<Detail>, [string, Quantity, number]> = {
  depth_mm: ["Plate depth", "length", 5],
  slot_percent: ["Slot, % of depth", "percent", 5],
  radius_mm: ["Slot end radius", "length", 0.5],
  length_mm: ["Edge length", "length", 10],
  plies: ["Doubler plies", "plain", 1],
  width_mm: ["Width", "length", 5],
  bolts: ["Bolts", "plain", 1],
  apart_mm: ["Bolt spacing", "length", 5],
  washer_mm: ["Washer diameter", "length", 1],
  tongue_mm: ["Tongue each side", "length", 5],
  foot_long_mm: ["Foot length", "length", 5],
  foot_wide_mm: ["Foot width", "length", 5],
  arm_mm: ["Centre height above foot", "length", 5],
  knock_g: ["Impact, × gravity", "plain", 5],
};

/** A single place against what the part's cases ask there. */
export function DetailForm(props: { subject: Subject; part: Part; catalogue: Catalogue }) {
  const { subject, part, catalogue } = props;
  const [detail, setDetail] = useState<Detail>(FIRST.half_slot);
  const [at, setAt] = useState(0);
  const document = useSettled(subject.document, 400);
  const study = useQuery({
    queryKey: ["detail", tagOf(document), part.id, subject.case_id, at, detail],
    queryFn: async () => {
      const body = { ...subject, document, wish: { at_mm: at, detail } };
      const { data, error } = await api.POST("/api/studies/detail", { body });
      return data ? { data, problems: [] } : { data: null, problems: problemsOf(error) };
    },
    retry: false,
    placeholderData: keepPreviousData,
  });
  const set = setterOf(detail, setDetail);
  const problem = (key: string) => study.data?.problems.find((p) => p.path.endsWith(key));
  return (
    <>
      <h2 className="mt-6 border-b border-ink text-lead font-semibold">
        <Word k="detail">Check a detail</Word>
      </h2>
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-x-6 py-2 max-md:grid-cols-1">
        <div className="grid grid-cols-2 content-start items-start gap-x-4 gap-y-2">
          <div className="col-span-full">
            <Choice
              label="Type of detail"
              value={detail.kind}
              options={KINDS}
              problem={problem("detail.kind")}
              onChange={(kind) => setDetail(FIRST[kind])}
            />
          </div>
          {detail.kind !== "bracket" && detail.kind !== "fluted_edge" && (
            <NumberField
              label="Position from root"
              value={at}
              quantity="length"
              step={10}
              problem={problem("at_mm")}
              onChange={setAt}
            />
          )}
          <Stock {...{ detail, catalogue, set, problem }} />
          {detail.kind === "half_slot" && (
            <Choice
              label="Slot opens on"
              value={detail.side}
              options={[
                { value: "pressed", label: "Compression side" },
                { value: "pulled", label: "Tension side" },
              ]}
              onChange={set("side")}
            />
          )}
          {detail.kind === "fluted_edge" && (
            <OptionalNumber
              label="Pull force"
              value={detail.pull_N ?? null}
              quantity="force"
              problem={problem("pull_N")}
              onChange={set("pull_N")}
            />
          )}
          {(Object.keys(SIZES) as NumberKey<Detail>[]).flatMap((key) => {
            const value = numberAt(detail, key);
            const [label, quantity, step] = SIZES[key];
            return value === null
              ? []
              : [
                  <NumberField
                    key={detail.kind + key}
                    label={label}
                    value={value}
                    quantity={quantity}
                    step={step}
                    whole={key === "bolts" || key === "plies"}
                    problem={problem(key)}
                    onChange={set(key)}
                  />,
                ];
          })}
        </div>
        <div className={study.isFetching ? "stale" : ""} aria-live="polite">
          {study.data?.problems.length ? (
            <p className="text-fail">{study.data.problems[0]!.message}</p>
          ) : (
            study.data?.data && <Found found={study.data.data} />
          )}
        </div>
      </div>
    </>
  );
}

type Stocked = "sheet" | "doubler" | "bolt" | "fastener" | "fitting";

interface StockProps {
  detail: Detail;
  catalogue: Catalogue;
  set: Setter<Detail>;
  problem: (key: string) => Problem | undefined;
}

/** What of the stockroom the detail is made of. */
function Stock({ detail, catalogue, set, problem }: StockProps) {
  const sheets = optionsOf(
    catalogue.sheets.filter((s) => detail.kind !== "fluted_edge" || s.build === "twin_wall"),
  );
  const fasteners = optionsOf(
    catalogue.fasteners.filter(
      (f) => detail.kind !== "bolted_centre" || f.family === "bolt" || f.family === "blind_nut",
    ),
  );
  const fields: [Stocked, string, { value: string; label: string; group?: string }[]][] = [
    ["sheet", detail.kind === "lock_joint" ? "Pocket walls" : "Sheet", sheets],
    ["doubler", "Doubler on both faces", sheets],
    ["bolt", "Bolt", fasteners],
    ["fastener", "Locked by", fasteners],
    ["fitting", "Item carried", optionsOf(catalogue.fittings.filter((f) => f.long_mm > 0))],
  ];
  const values: Partial<Record<Stocked, string>> = detail;
  return fields
    .filter(([key]) => key in values)
    .map(([key, label, options]) => (
      <div key={key} className="col-span-full">
        <Choice
          label={label}
          value={values[key]!}
          options={options}
          problem={problem(key)}
          onChange={set(key)}
        />
      </div>
    ));
}

function size(value: number, unit: string): string {
  if (unit === "N·m") return show(value, "moment");
  if (unit === "N") return show(value, "force");
  return `${plain(value)} ${unit}`;
}

function Found({ found: f }: { found: Schemas["DetailResult"] }) {
  return (
    <>
      <p className={`text-lead font-semibold ${f.enough === "no" ? "text-fail" : ""}`}>
        {f.holds ? `Margin ${plain(f.holds.typ)} (${plain(f.holds.low, 2)} – ${plain(f.holds.high, 2)})` : ""}{" "}
        <span className="font-normal">{f.enough === "unknown" ? "not checked" : graded(f.enough)}</span>
      </p>
      <p className="text-body text-soft">
        {f.asked == null ? "" : `Needed: ${size(f.asked, f.unit)}, `}
        {f.asked_says}
      </p>
      <ol className="mt-1 border-t border-ink text-body">
        {f.modes.map((m) => (
          <li key={m.name} className="flex justify-between gap-4 border-b border-rule py-1">
            <span>{m.name}</span>
            <span className="text-right whitespace-nowrap">
              <span className="figure-type">{size(m.capacity.typ, f.unit)}</span>{" "}
              <span className="text-small text-soft">
                {plain(m.capacity.low, 2)} – {plain(m.capacity.high, 2)}
              </span>
            </span>
          </li>
        ))}
      </ol>
      <h3 className="mt-2 font-semibold">What helps most</h3>
      <ul className="text-body leading-snug">
        {f.helps.map((text) => (
          <li key={text} className="mt-0.5 border-l-[3px] border-rule pl-2">
            {text}
          </li>
        ))}
      </ul>
      <details>
        <summary className="label-type min-h-10 cursor-pointer py-2 text-body">Working</summary>
        <p className="figure-type text-body">{f.formula}</p>
        <p className="text-small text-soft">{f.source}</p>
        <dl className="text-small">
          {f.symbols.map((s) => (
            <div key={s.symbol} className="flex justify-between gap-4 border-b border-rule py-0.5">
              <dt>
                <span className="figure-type">{s.symbol}</span> <span className="text-soft">{s.meaning}</span>
              </dt>
              <dd className="figure-type">
                {s.unit === "mm" ? show(s.value, "length") : `${bare(s.value, "plain", 3)} ${s.unit}`}
              </dd>
            </div>
          ))}
        </dl>
      </details>
    </>
  );
}
