import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, problemsOf, type Problem, type Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { Choice, NumberField, OptionalNumber } from "../../forms/fields";
import type { NumberKey } from "../../forms/form";
import { useSettled } from "../../forms/useSettled";
import { CautionLines } from "../../words/Cautions";
import { Table } from "../../words/Table";
import { bare, plain, show } from "../../forms/units";
import { HingeSection } from "./HingeSection";

type Need = Schemas["HingeNeed"];
type Way = Schemas["HingeChoice"];

const FIRST: Need = {
  made_of: "epp_30",
  thickness_mm: 6,
  chord_mm: 42,
  length_mm: 420,
  line: "top",
  bevel_deg: 45,
  gap_mm: 0.5,
  up_deg: 20,
  down_deg: 20,
  moment_N_mm: 20,
  horn_arm_mm: 12,
  servo: "servo_9g",
  all_up_mass_g: 900,
  sun_hours: 0,
  horn_mm: null,
  cloth_deg: null,
};

const SIZES: [NumberKey<Need>, string, Parameters<typeof NumberField>[0]["quantity"], number][] = [
  ["thickness_mm", "Thickness at hinge", "length", 0.5],
  ["chord_mm", "Surface chord", "length", 1],
  ["length_mm", "Hinge length", "length", 10],
  ["gap_mm", "Gap", "length", 0.1],
  ["bevel_deg", "Bevel angle, total", "angle", 5],
  ["up_deg", "Throw up", "angle", 5],
  ["down_deg", "Throw down", "angle", 5],
  ["moment_N_mm", "Hinge moment at full throw", "couple", 5],
  ["horn_arm_mm", "Horn arm", "length", 1],
  ["all_up_mass_g", "All-up mass", "mass", 50],
  ["sun_hours", "Hours in the sun, in all", "plain", 20],
];

/** Which hinge: the section turning to scale, and every method ranked with the reason for its place. */
export function Hinges() {
  const catalogue = useCatalogue();
  const [need, setNeed] = useState<Need>(FIRST);
  /** The last possible answer: it stays while a need cannot be. */
  const [last, setLast] = useState<{ need: Need; found: Schemas["Hinging"] } | null>(null);
  const settled = useSettled(need, 30);
  const answer = useQuery({
    queryKey: ["hinge", settled],
    queryFn: async ({ signal }) => {
      const { data, error } = await api.POST("/api/joints/hinge", { body: settled, signal });
      return { data: data ?? null, problems: data ? [] : problemsOf(error) };
    },
    retry: false,
    placeholderData: keepPreviousData,
  });
  const problems: Problem[] = answer.data?.problems ?? [];
  const answered = answer.data?.data ?? null;
  // only the answer to the need as it stands: a late one to an earlier need must not take its place
  if (!answer.isPlaceholderData && answered && answered !== last?.found)
    setLast({ need: settled, found: answered });
  const set =
    <K extends keyof Need>(key: K) =>
    (value: Need[K]) =>
      setNeed((n) => ({ ...n, [key]: value }));
  const at = (key: string) => problems.find((p) => p.path.endsWith(key));
  const materials = [
    ...(catalogue.data?.foams ?? []).map((f) => ({ value: f.key, label: f.name, group: "Foam" })),
    { value: "board", label: "Paper-faced board", group: "Other" },
    { value: "fluted", label: "Twin-wall sheet", group: "Other" },
    { value: "balsa", label: "Balsa", group: "Other" },
    { value: "composite", label: "Cloth in resin", group: "Other" },
  ];
  const fits = last?.found.choices.filter((c) => c.vetoes.length === 0) ?? [];
  const out = last?.found.choices.filter((c) => c.vetoes.length > 0) ?? [];
  /** The row that was opened last is the one that is drawn; the best until then. */
  const [opened, setOpened] = useState<string | null>(null);
  const drawn = fits.find((c) => c.key === opened) ?? fits[0];
  return (
    <main className="mx-auto grid max-w-[88rem] gap-x-10 gap-y-6 grid-cols-[minmax(0,1fr)] px-6 pt-5 pb-12 max-sm:px-4 lg:grid-cols-[21rem_minmax(0,1fr)]">
      <section data-asked aria-label="Control surface to hinge" className="grid content-start gap-3">
        <Choice
          label="Material"
          value={need.made_of}
          options={materials}
          problem={at("made_of")}
          onChange={set("made_of")}
        />
        <Choice
          label="Hinge line"
          value={need.line}
          options={[
            { value: "top", label: "Upper face" },
            { value: "centre", label: "Mid-depth" },
            { value: "bottom", label: "Lower face" },
          ]}
          onChange={set("line")}
        />
        <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
          {SIZES.map(([key, label, quantity, step]) => (
            <NumberField
              key={key}
              label={label}
              value={need[key]}
              quantity={quantity}
              step={step}
              problem={at(key)}
              onChange={set(key)}
            />
          ))}
          <OptionalNumber
            label="Horn from the nearer end"
            value={need.horn_mm ?? null}
            quantity="length"
            problem={at("horn_mm")}
            hint="open: in the middle"
            onChange={set("horn_mm")}
          />
          {need.made_of === "composite" && (
            <OptionalNumber
              label="Cloth angle"
              value={need.cloth_deg ?? null}
              quantity="angle"
              problem={at("cloth_deg")}
              hint="from square to the hinge line; empty: usual angle"
              onChange={set("cloth_deg")}
            />
          )}
        </div>
        <Choice
          label="Servo"
          value={need.servo}
          options={(catalogue.data?.fittings ?? [])
            .filter((f) => f.family === "servo")
            .map((f) => ({ value: f.key, label: f.name }))}
          problem={at("servo")}
          onChange={set("servo")}
        />
      </section>
      <section aria-label="Hinges, best first" className={answer.isFetching ? "stale" : ""}>
        {last && (
          <>
            <p className="text-lead font-semibold" role="status">
              {last.found.says}
            </p>
            {problems.length > 0 && (
              <p className="text-fail" role="alert">
                Showing the last valid entry. {problems[0]!.message}
              </p>
            )}
            <HingeSection need={last.need} throwing={last.found.throw} way={drawn} />
            <p className="text-body">
              Load on the hinge from air and pushrod: {show(last.found.pull_N, "force", 2)}; usable servo
              torque: {show(last.found.servo_N_mm, "couple", 2)} (half of its stall torque).
            </p>
            <ol aria-label="Suitable hinges" className="mt-3 border-t border-ink">
              {fits.map((c, i) => (
                <HingeRow key={c.key} way={c} rank={i + 1} onOpen={() => setOpened(c.key)} />
              ))}
            </ol>
            {out.length > 0 && (
              <>
                <h2 className="mt-6 border-b border-ink text-lead font-semibold">Ruled out, with reasons</h2>
                <ul className="text-body">
                  {out.map((c) => (
                    <li key={c.key} className="border-b border-rule py-1.5 leading-snug">
                      <strong>{c.name}</strong>{" "}
                      <span className="text-soft">
                        <span className="text-fail">✕</span> {c.vetoes.join("; ")}
                      </span>
                    </li>
                  ))}
                </ul>
              </>
            )}
          </>
        )}
      </section>
    </main>
  );
}

function HingeRow({ way: c, rank, onOpen }: { way: Way; rank: number; onOpen: () => void }) {
  return (
    <li className="border-b border-rule">
      <details onToggle={(e) => e.currentTarget.open && onOpen()}>
        <summary className="grid min-h-14 cursor-pointer grid-cols-[2.6rem_minmax(0,1fr)_8.5rem_8.5rem_5rem] items-center gap-x-3 py-1.5 hover:bg-pick-wash max-md:grid-cols-[2.6rem_minmax(0,1fr)_7rem]">
          <span className="figure-type text-lead">{rank}</span>
          <span className="leading-tight">
            <strong>
              {c.name}
              {c.count != null && `, ${c.count} needed`}
            </strong>
            <span className="block text-small text-soft">{c.why}</span>
          </span>
          <span className="text-right">
            <span className="figure-type">{plain(100 * c.servo_share.typ, 2)} %</span>
            <span className="block text-note text-soft">of usable servo torque</span>
            <span className="block text-note text-soft">
              {plain(100 * c.servo_share.low, 2)} – {plain(100 * c.servo_share.high, 2)}
            </span>
          </span>
          <span className="text-right max-md:hidden">
            <span className="figure-type">{plain(c.margin.typ, 2)} ×</span>
            <span className="block text-note text-soft">
              the pull {c.gives === "peels" ? "peels its end" : "tears it"}
            </span>
            <span className="block text-note text-soft">
              {plain(c.margin.low, 2)} – {plain(c.margin.high, 2)}
            </span>
          </span>
          <span className="text-right max-md:hidden">
            <span className="figure-type">{show(c.grams.typ, "mass", 2)}</span>
            <span className="block text-note text-soft">{plain(c.minutes.typ, 2)} min</span>
          </span>
        </summary>
        <div className="grid grid-cols-2 gap-x-8 pt-1 pb-4 pl-[3.3rem] text-body leading-snug max-md:grid-cols-1 max-md:pl-0">
          <div>
            <ol className="mb-1 list-decimal pl-5" aria-label={`How to make ${c.name}`}>
              {c.steps.map((step) => (
                <li key={step}>{step}</li>
              ))}
            </ol>
            <p>
              <strong>Cut:</strong> {c.bevel}.
            </p>
            <p className="mt-1">
              <strong>Glue:</strong> {c.glues.join(", ") || "none"}.
            </p>
            <p className="mt-1">
              <strong>Do not use:</strong> {c.keep_out}.
            </p>
            <p className="mt-1">
              <strong>Check:</strong> {c.checks}.
            </p>
          </div>
          <div>
            <p>
              <strong>Common mistakes:</strong> {c.mistakes}.
            </p>
            <p className="mt-1">
              <strong>If it tears:</strong> {c.repair}.
            </p>
            <p className="mt-1">
              <strong>Sun:</strong> {c.sun}.
              {c.sun_left.typ < 0.995 &&
                ` So much of it leaves ${plain(100 * c.sun_left.typ, 2)} % (${plain(100 * c.sun_left.low, 2)} – ${plain(100 * c.sun_left.high, 2)}).`}{" "}
              {c.sealed ? "The gap is sealed." : "The gap is not sealed."} Return torque{" "}
              {show(c.back_N_mm.typ, "couple", 2)} ({bare(c.back_N_mm.low, "couple", 2)} –{" "}
              {bare(c.back_N_mm.high, "couple", 2)}) at full throw.
            </p>
            <Cloths angles={c.cloth} />
            <CautionLines cautions={c.cautions} />
            <p className="mt-1.5 text-small text-soft">Estimate, data quality {c.grade}.</p>
          </div>
        </div>
      </details>
    </li>
  );
}

/** Angles of a hinge cloth side by side. */
function Cloths({ angles }: { angles: Way["cloth"] }) {
  if (angles.length === 0) return null;
  const cell = (b: Schemas["Band"], quantity: "couple" | "force") => (
    <td className="py-1 pl-3 text-right">
      <span className="figure-type">{show(Number(b.typ.toPrecision(3)), quantity, 3)}</span>
      <span className="block text-note text-soft">
        {bare(Number(b.low.toPrecision(2)), quantity, 2)} – {bare(Number(b.high.toPrecision(2)), quantity, 2)}
      </span>
    </td>
  );
  return (
    <Table
      caption="The cloth at each angle"
      heads={["Cloth turned by", "bends back", "pulls apart at", "shears along at"]}
      className="mt-2"
    >
      {angles.map((a) => (
        <tr key={a.deg} className="border-b border-rule align-top">
          <th scope="row" className="py-1 text-left font-semibold">
            {plain(a.deg)}°
          </th>
          {cell(a.back_N_mm, "couple")}
          {cell(a.pulls_N, "force")}
          {cell(a.shears_N, "force")}
        </tr>
      ))}
    </Table>
  );
}
