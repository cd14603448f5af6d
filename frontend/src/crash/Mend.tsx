import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, must, problemsOf, type Part, type Schemas } from "../api/client";
import type { Subject } from "../bench/useStudy";
import { NumberField } from "../shared/fields";
import { tagOf } from "../shared/tags";
import { useSettled } from "../shared/useSettled";
import { inUnits, plain } from "../shared/units";
import { FieldBox, useFieldBox } from "./FieldBox";
import { FrontPlot } from "./FrontPlot";
import { OptionSheet } from "./OptionSheet";
import { minutesText } from "./times";
import { useMending } from "./useMending";

type Option = Schemas["MendOption"];

interface Props {
  airframeId: string;
  subject: Subject;
  part: Part;
  /** The document as it stands is stored: returns its revision, or null while it cannot be. */
  stored: () => Promise<number | null>;
  show: (option: Option | null) => void;
  adopted: () => void;
}

interface Row {
  key: string;
  label: string;
  option: Option;
  remove?: () => void;
}

const KINDS: Record<Option["kinds"][number], string> = {
  quick: "By the next launch",
  sound: "Sound",
  restored: "Restored",
  light: "Lightest",
  cheap: "Least effort",
};

/** Repairs for what is marked: a handful of the front, compared, one of them looked at, adopted. */
export function Mend({ airframeId, subject, part, stored, show, adopted }: Props) {
  const [flyIn, setFlyIn] = useState(60);
  const [rate, setRate] = useState(10);
  const [box, setBox] = useFieldBox();
  const document = useSettled(subject.document, 800);
  const wished = useSettled(flyIn, 500);
  const wish = { fly_in_min: wished, hour_worth: 10, at_hand: box };
  const settled = { ...subject, document };
  const marked = (part.damage ?? []).length > 0;
  const found = useMending(settled, wish, marked);
  const kept = useKept(airframeId, part.id, settled, wish);
  const [picked, setPicked] = useState<Option | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const rows: Row[] = [
    ...(found.answer?.options ?? []).map((option, n) => ({
      key: `found-${n}`,
      label: option.kinds.map((k) => KINDS[k]).join(", "),
      option,
    })),
    ...kept.rows,
    ...(picked ? [{ key: "picked", label: "From the front", option: picked }] : []),
  ];
  const row = rows.find((r) => r.key === chosen) ?? rows[0];
  const looked = row?.option ?? null;
  useEffect(() => show(looked), [looked, show]);
  if (!marked)
    return (
      <p className="px-5 py-4 text-soft">
        Nothing is marked on this part. Mark what broke first, then its repairs stand here.
      </p>
    );
  const { answer } = found;
  const pick = async (recipe: Schemas["Recipe"]) => {
    const { data } = await api.POST("/api/mend-option", { body: { ...settled, wish, recipe } });
    if (!data) return;
    setPicked(data);
    setChosen("picked");
  };
  return (
    <section className="px-5 py-3" aria-label="Repairs">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <div className="w-44">
          <NumberField
            label="Next launch in, minutes"
            value={flyIn}
            quantity="plain"
            step={15}
            problem={found.problems.find((p) => p.path.includes("fly_in_min"))}
            onChange={setFlyIn}
          />
        </div>
        <label className="grid gap-1">
          <span className="label-type text-[0.85rem]">
            An hour at the bench is worth <span className="figure-type">{rate}</span> credits
          </span>
          <input
            type="range"
            min={0}
            max={60}
            step={1}
            value={rate}
            className="h-9 w-56 accent-(--pick)"
            onChange={(e) => setRate(Number(e.target.value))}
          />
        </label>
        <FieldBox box={box} setBox={setBox} options={answer?.options ?? []} />
        <div className="ml-auto min-h-9 self-center" aria-live="polite">
          {found.running ? (
            <span className="flex items-center gap-3">
              <progress
                aria-label="Search for repairs"
                max={found.progress?.of ?? 10}
                value={found.progress?.done ?? 0}
                className="h-2 w-36 accent-(--pick)"
              />
              <span className="text-sm text-soft">{found.progress?.says ?? "Begins"}</span>
              <button type="button" className="key-button" onClick={found.stop}>
                Stop
              </button>
            </span>
          ) : (
            answer && (
              <span className="text-sm text-soft">
                <span className="figure-type">{answer.considered}</span> repairs considered
              </span>
            )
          )}
        </div>
      </div>
      {found.problems.map((p) => (
        <p key={p.path + p.message} role="alert" className="mt-2 text-fail">
          {p.path ? `${p.path} ` : ""}
          {p.message}
        </p>
      ))}
      {rows.length > 0 && (
        <div className={found.running ? "opacity-70" : ""}>
          <Compared rows={rows} chosen={row?.key ?? ""} choose={setChosen} rate={rate} answer={answer} />
        </div>
      )}
      {row && (
        <OptionSheet
          key={row.key}
          title={row.label}
          option={row.option}
          flyIn={wished}
          keep={(name) => kept.keep(name, row.option.recipe)}
          kept={row.key.startsWith("kept-")}
          adopt={async () => {
            const revision = await stored();
            if (revision === null) return "Mend what the marks above are refused for, then adopt it.";
            const { data, error } = await api.POST("/api/airframes/{airframe_id}/adopt", {
              params: { path: { airframe_id: airframeId } },
              body: { revision, part_id: part.id, recipe: row.option.recipe, wish },
            });
            if (!data)
              return error && "revision" in (error as object)
                ? "This airframe was changed elsewhere meanwhile: reload the page, then adopt it."
                : problemsOf(error)[0]!.message;
            adopted();
            return null;
          }}
        />
      )}
      {answer && <Besides answer={answer} pick={(r) => void pick(r)} />}
    </section>
  );
}

/** Candidates that were kept, each computed as the part stands now. */
function useKept(
  airframeId: string,
  partId: string,
  subject: Subject,
  wish: Schemas["MendWish"],
): { rows: Row[]; keep: (name: string, recipe: Schemas["Recipe"]) => Promise<string | null> } {
  const queries = useQueryClient();
  const params = { path: { airframe_id: airframeId } };
  const key = ["candidates", airframeId];
  const list = useQuery({
    queryKey: key,
    queryFn: () => must(api.GET("/api/airframes/{airframe_id}/candidates", { params })),
  });
  const mine = (list.data ?? []).filter((c) => c.part_id === partId);
  const computed = useQuery({
    queryKey: [
      "kept-options",
      tagOf(subject.document),
      partId,
      JSON.stringify(wish),
      mine.map((c) => c.id).join(),
    ],
    queryFn: () =>
      Promise.all(
        mine.map(async (c) => {
          const body = { ...subject, wish, recipe: c.recipe };
          return (await api.POST("/api/mend-option", { body })).data ?? null;
        }),
      ),
    enabled: mine.length > 0,
    placeholderData: keepPreviousData,
  });
  const refresh = () => queries.invalidateQueries({ queryKey: key });
  const remove = async (id: string) => {
    await api.DELETE("/api/candidates/{candidate_id}", { params: { path: { candidate_id: id } } });
    await refresh();
  };
  const keep = async (name: string, recipe: Schemas["Recipe"]) => {
    const { data, error } = await api.POST("/api/airframes/{airframe_id}/candidates", {
      params,
      body: { part_id: partId, name, recipe },
    });
    if (!data) return problemsOf(error)[0]!.message;
    await refresh();
    return null;
  };
  const rows = mine.flatMap((c, n) => {
    const option = computed.data?.[n];
    return option
      ? [{ key: `kept-${c.id}`, label: `“${c.name}”`, option, remove: () => void remove(c.id) }]
      : [];
  });
  return { rows, keep };
}

interface ComparedProps {
  rows: Row[];
  chosen: string;
  choose: (key: string) => void;
  rate: number;
  answer: Schemas["Mending"] | null;
}

function Compared({ rows, chosen, choose, rate, answer }: ComparedProps) {
  const sum = (cost: number, minutes: number) => plain(cost + (minutes / 60) * rate, 3);
  const anew = answer?.rebuild;
  return (
    <div className="overflow-x-auto">
      <table className="mt-3 w-full text-[0.92rem]">
        <caption className="sr-only">Repairs beside each other</caption>
        <thead className="label-type text-[0.8rem] text-soft">
          <tr className="border-b border-ink align-bottom">
            {[
              "repair",
              "strength",
              "at the launch",
              "stiffness",
              "grams",
              "hands",
              "flies after",
              "looks of 5",
              "skill of 5",
              "credits and hours",
            ].map((h, n) => (
              <th key={h} scope="col" className={`py-1 ${n === 0 ? "text-left" : "pl-4 text-right"}`}>
                {h}
              </th>
            ))}
            <th scope="col">
              <span className="sr-only">take out</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ key, label, option: o, remove }) => (
            <tr
              key={key}
              aria-selected={key === chosen}
              className={`border-b border-rule align-top ${key === chosen ? "bg-pick-wash" : ""}`}
            >
              <th scope="row" className="max-w-80 py-1.5 pl-2 text-left font-normal">
                <button
                  type="button"
                  className="text-left hover:underline"
                  aria-pressed={key === chosen}
                  onClick={() => choose(key)}
                >
                  <strong>{label}</strong>
                  <span className="block text-[0.85rem] leading-snug text-soft max-lg:hidden">{o.says}</span>
                </button>
              </th>
              <Percent value={o.strength_percent} />
              <Percent value={o.launch_percent} none={o.launch_percent.typ < 0.5} />
              <Percent value={o.bend_percent} />
              <td className="figure-type py-1.5 pl-4 text-right whitespace-nowrap">
                {o.more_g.typ >= 0 ? "+" : ""}
                {plain(o.more_g.typ, 2)}
              </td>
              <td className="figure-type py-1.5 pl-4 text-right whitespace-nowrap">
                {minutesText(o.minutes.typ)}
              </td>
              <td className="figure-type py-1.5 pl-4 text-right whitespace-nowrap">
                {minutesText(o.fly_min.typ)}
              </td>
              <td className="figure-type py-1.5 pl-4 text-right">{o.looks}</td>
              <td className="figure-type py-1.5 pl-4 text-right">{o.skill}</td>
              <td className="py-1.5 pl-4 text-right">
                <span className="figure-type">{sum(o.cost.typ, o.minutes.typ)}</span>
                {anew && (
                  <span className="block text-[0.8rem] whitespace-nowrap text-soft">
                    {o.cost.typ + (o.minutes.typ / 60) * rate <= anew.cost.typ + anew.hours.typ * rate
                      ? "✓ less than anew"
                      : "✕ more than anew"}
                  </span>
                )}
              </td>
              <td className="py-1 pl-2">
                {remove && (
                  <button type="button" className="key-button text-fail" onClick={remove}>
                    ×<span className="sr-only"> take out the candidate {label}</span>
                  </button>
                )}
              </td>
            </tr>
          ))}
          {anew && (
            <tr className="border-b border-rule">
              <th scope="row" className="py-1.5 pl-2 text-left font-normal">
                <strong>Built anew</strong>
              </th>
              <td colSpan={3} className="py-1.5 pl-4 text-right text-soft">
                as it was
              </td>
              <td className="figure-type py-1.5 pl-4 text-right">0</td>
              <td className="figure-type py-1.5 pl-4 text-right whitespace-nowrap">
                {minutesText(60 * anew.hours.typ)}
              </td>
              <td className="figure-type py-1.5 pl-4 text-right whitespace-nowrap">
                {minutesText(60 * anew.ready_h.typ)}
              </td>
              <td colSpan={2} />
              <td className="figure-type py-1.5 pl-4 text-right">
                {sum(anew.cost.typ, 60 * anew.hours.typ)}
              </td>
              <td />
            </tr>
          )}
        </tbody>
      </table>
      <p className="pt-1 text-[0.85rem] text-soft">
        Strength and stiffness in per cent of the whole part. Worth: credits for stock, and hours at the worth
        that you set.
      </p>
    </div>
  );
}

function Percent({ value, none = false }: { value: Schemas["Band"]; none?: boolean }) {
  return (
    <td className="py-1.5 pl-4 text-right whitespace-nowrap">
      {none ? (
        <span className="text-fail">✕ not yet</span>
      ) : (
        <>
          <span className="figure-type">{plain(value.typ, 3)} %</span>
          <span className="block text-[0.8rem] text-soft">
            {plain(value.low, 2)} – {plain(value.high, 3)}
          </span>
        </>
      )}
    </td>
  );
}

/** What stands beside the repairs: in two stages, the front, missing pieces, what the other half shows. */
function Besides({
  answer,
  pick,
}: {
  answer: Schemas["Mending"];
  pick: (recipe: Schemas["Recipe"]) => void;
}) {
  return (
    <div className="mt-6 grid gap-x-10 gap-y-4 lg:grid-cols-2">
      <section aria-label="The front">
        <h2 className="border-b border-ink text-lg font-semibold">All that none beats</h2>
        <FrontPlot points={answer.front} pick={pick} />
      </section>
      <div className="grid content-start gap-4">
        {answer.staged.length > 0 && (
          <section aria-label="In two stages">
            <h2 className="border-b border-ink text-lg font-semibold">
              A quick fix now, the sound one later?
            </h2>
            {answer.staged.map((s) => (
              <p key={s.says} className="py-1.5 text-[0.92rem] leading-snug">
                Now: {s.first}. Later: {s.then}. <strong>{s.says}</strong>
              </p>
            ))}
          </section>
        )}
        {answer.pieces.length > 0 && (
          <section aria-label="Missing material">
            <h2 className="border-b border-ink text-lg font-semibold">Foam to find</h2>
            <ul className="text-[0.92rem]">
              {answer.pieces.map((p) => (
                <li key={p.mark_id} className="border-b border-rule py-1 leading-snug">
                  {inUnits(`${p.size_mm.map((v) => plain(v, 3)).join(" × ")} mm`)} of {p.foam},{" "}
                  {plain(p.grams.typ, 2)} g
                  {p.donors.length > 0 && <span className="text-soft"> · scrap: {p.donors.join("; ")}</span>}
                </li>
              ))}
            </ul>
          </section>
        )}
        {answer.gauges.length > 0 && (
          <section aria-label="The other half as gauge">
            <h2 className="border-b border-ink text-lg font-semibold">
              What the other half must show, mirrored
            </h2>
            <ul className="text-[0.92rem]">
              {answer.gauges.map((g) => (
                <li key={g.at_mm} className="border-b border-rule py-1">
                  {inUnits(
                    `${plain(g.at_mm)} mm out: chord ${plain(g.chord_mm, 4)} mm, thickness ${plain(g.thickness_mm, 3)} mm, nose ${plain(g.setback_mm, 3)} mm back`,
                  )}
                </li>
              ))}
            </ul>
          </section>
        )}
        <details>
          <summary className="label-type min-h-10 cursor-pointer py-2">What this rests on</summary>
          <ul className="list-disc pl-5 text-[0.9rem] leading-snug">
            {answer.assumptions.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </details>
      </div>
    </div>
  );
}
