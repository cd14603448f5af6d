import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, must, type Airframe, type AirframeOut, type Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { Choice, OptionalNumber } from "../../forms/fields";
import { useSettled } from "../../forms/useSettled";
import { bare, plain, show, unitOf } from "../../forms/units";
import { AirframeLine } from "../../part/AirframeLine";
import { problemAt } from "../../part/edits";
import { Elsewhere } from "../../part/Elsewhere";
import { Kept } from "../../part/Kept";
import { useKept, useStored } from "../../part/useKept";
import { SIGN } from "../../words/grades";
import { Figure, Small } from "../../words/Figure";
import { InHead } from "../../words/InHead";
import { NotHere } from "../../words/NotHere";
import { Word } from "../../words/Word";
import { tagOf } from "../../words/tags";
import { EquipmentTable } from "./EquipmentTable";
import { Handling } from "./Handling";
import { LedgerTable } from "./LedgerTable";
import { LighterParts } from "./LighterParts";
import { Remedies } from "./Remedies";
import { SideView } from "./SideView";
import { Tables } from "./Tables";
import { WeighIn } from "./weigh-in/WeighIn";

/** Balance: the whole airframe as a beam with its weights on it. */
export function Balance() {
  const { airframeId = "" } = useParams();
  const airframe = useStored(airframeId);
  if (airframe.isError) return <NotHere says="This airframe is not on your Shelf" />;
  if (!airframe.data) return null;
  return <Sheet key={airframe.data.id} state={airframe.data} />;
}

function Sheet({ state }: { state: AirframeOut }) {
  const { keeper, draft } = useKept(state);
  const catalogue = useCatalogue().data;
  const { document, problems } = draft;
  const settled = useSettled(document, 30);
  const answer = useQuery({
    queryKey: ["balance", tagOf(settled)],
    queryFn: ({ signal }) =>
      must(api.POST("/api/studies/balance", { body: { document: settled, airframe_id: state.id }, signal })),
    retry: false,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
  });
  const edit = (change: (d: Airframe) => Airframe) => keeper.edit(change);
  // while the draft is impossible the last answer stays
  const [told, keep] = useState(answer.data);
  if (answer.data && answer.data !== told) keep(answer.data);
  const flies =
    (document.parts ?? []).some((p) => p.kind !== "plank") || (document.equipment ?? []).length > 0;
  return (
    <>
      <InHead>
        <h1 className="sr-only">{document.name}: balance</h1>
        <span className="ml-auto flex items-center gap-1.5">
          <Kept draft={draft} step={(which) => void keeper.step(which)} />
        </span>
      </InHead>
      <AirframeLine document={document} airframeId={state.id} place="balance" />
      <main className="mx-auto w-full max-w-[88rem] px-6 pb-10 max-sm:px-4">
        {!flies && <p className="py-4 text-soft">Nothing here flies yet. Add a wing, or equipment.</p>}
        <div className={answer.isFetching ? "stale" : ""}>
          {told && catalogue && (
            <SideView
              document={document}
              sheet={told}
              catalogue={catalogue}
              move={(id, x_mm) =>
                edit((d) => ({
                  ...d,
                  equipment: (d.equipment ?? []).map((e) => (e.id === id ? { ...e, x_mm } : e)),
                }))
              }
            />
          )}
          {told && <Answer sheet={told} />}
        </div>
        <div className="grid gap-x-10 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
          <div>
            {catalogue && (
              <EquipmentTable {...{ document, catalogue, problems, edit, weighs: weighsOf(told) }} />
            )}
            <Aim
              {...{ document, edit }}
              manners={told?.manners ?? []}
              versions={told?.versions.map((v) => v.name) ?? []}
              version={told?.version ?? null}
              at={(key) => problemAt(problems, `aim.${key}`)}
            />
          </div>
          <div>
            {told && <Remedies sheet={told} edit={edit} />}
            {told && outOfRange(told) && (
              <LighterParts airframeId={state.id} document={document} edit={edit} />
            )}
            {told && <WeighIn {...{ airframeId: state.id, document, sheet: told, problems, edit }} />}
            {told && <Handling sheet={told} />}
            {told && <LedgerTable sheet={told} />}
            <Tables airframeId={state.id} {...{ document, edit }} />
          </div>
        </div>
      </main>
      <Elsewhere keeper={keeper} draft={draft} />
    </>
  );
}

/** Grams of one of each item, by its id. */
const weighsOf = (sheet: Schemas["BalanceSheet"] | undefined) =>
  new Map((sheet?.lines ?? []).flatMap((l) => (l.item_id ? [[l.item_id, l.grams.typ] as const] : [])));

const outOfRange = ({ margin: m, centre_mm: c, missing }: Schemas["BalanceSheet"]) =>
  m !== null && !missing.includes("battery") && (c.typ < m.front_mm || c.typ > m.rear_mm);

/** The first sentence and four figures. */
function Answer({ sheet: s }: { sheet: Schemas["BalanceSheet"] }) {
  const range = (b: Schemas["Band"], quantity: "mass" | "length" | "speed") =>
    `${bare(b.low, quantity, 4)} – ${bare(b.high, quantity, 4)}`;
  return (
    <section aria-label="Verdict" className="border-y border-ink">
      <p
        role="status"
        className={`py-2 text-title leading-snug font-bold ${s.grade === "no" ? "text-fail" : ""}`}
      >
        {s.grade && `${SIGN[s.grade]} `}
        {s.says}
      </p>
      {s.remarks.map((r) => (
        <p key={r} className="pb-2 text-body leading-snug">
          {r}
        </p>
      ))}
      <dl className="grid grid-cols-2 border-t border-rule sm:grid-cols-4">
        <Figure label="Mass, with what is entered">
          {show(s.mass_g.typ, "mass", 4)}
          <Small>
            {range(s.mass_g, "mass")}; all up {show(s.all_up_typed_g, "mass", 4)}
          </Small>
        </Figure>
        <Figure label="Centre of gravity">
          {show(s.centre_mm.typ, "length", 4)}
          <Small>
            {range(s.centre_mm, "length")}, mainly {s.causes.join(" and ")}
          </Small>
        </Figure>
        <Figure label={<Word k="static_margin">Static margin</Word>}>
          {s.margin ? `${plain(s.margin.percent.typ, 3)} %` : "–"}
          <Small>
            {s.margin
              ? `${plain(s.margin.percent.low, 3)} – ${plain(s.margin.percent.high, 3)}; wanted ${plain(s.margin.least_percent, 2)} – ${plain(s.margin.most_percent, 2)} %`
              : "no wing"}
          </Small>
        </Figure>
        <Figure label="Wing loading, stall speed">
          {s.loading_g_dm2 == null || !s.stall_m_s
            ? "–"
            : `${plain(s.loading_g_dm2, 3)} g/dm², ${show(s.stall_m_s.typ, "speed", 2)}`}
          {s.stall_m_s && (
            <Small>
              {range(s.stall_m_s, "speed")} {unitOf("speed")}
            </Small>
          )}
        </Figure>
      </dl>
    </section>
  );
}

interface AimProps {
  manners: Schemas["MannerAt"][];
  versions: string[];
  /** The version that is looked at. */
  version: string | null;
  document: Airframe;
  edit: (change: (d: Airframe) => Airframe) => void;
  at: (key: string) => Parameters<typeof Choice>[0]["problem"];
}

/** How it shall fly: the static margin that is wanted. */
function Aim({ document, manners, versions, version, edit, at }: AimProps) {
  const aim: Partial<NonNullable<Airframe["aim"]>> = document.aim ?? { manner: "sport" as const };
  const set = (update: Partial<NonNullable<Airframe["aim"]>>) =>
    edit((d) => ({ ...d, aim: { ...aim, ...update } as NonNullable<Airframe["aim"]> }));
  const target = (
    key: "mass_g" | "loading_g_dm2" | "stall_m_s" | "watts" | "watts_per_kg",
    label: string,
    quantity: "mass" | "speed" | "plain",
  ) => (
    <OptionalNumber
      label={label}
      value={aim[key] ?? null}
      quantity={quantity}
      problem={at(key)}
      onChange={(v) => set({ [key]: v })}
    />
  );
  return (
    <section aria-label="How it shall fly" className="mt-6">
      <h2 className="border-b border-ink pb-1 font-semibold">How it shall fly</h2>
      <div className="mt-3 grid grid-cols-2 items-start gap-x-4 gap-y-3">
        {version !== null && (
          <div className="col-span-full">
            <Choice
              label="Version that is looked at"
              value={version}
              options={versions.map((v) => ({ value: v, label: v }))}
              onChange={(v) => set({ version: v })}
            />
          </div>
        )}
        <div className="col-span-full">
          <Choice
            label="Type, with its usual static margin"
            value={aim.manner ?? "sport"}
            options={manners.map((m) => ({
              value: m.key,
              label: `${m.name}, ${plain(m.least_percent)} – ${plain(m.most_percent)} %`,
            }))}
            onChange={(manner) => set({ manner })}
          />
        </div>
        <OptionalNumber
          label="Least static margin"
          value={aim.least_percent ?? null}
          quantity="percent"
          problem={at("least_percent")}
          hint="empty: usual"
          onChange={(v) => set({ least_percent: v })}
        />
        <OptionalNumber
          label="Largest static margin"
          value={aim.most_percent ?? null}
          quantity="percent"
          problem={at("most_percent")}
          onChange={(v) => set({ most_percent: v })}
        />
        {target("mass_g", "Flying mass at most", "mass")}
        {target("loading_g_dm2", "Wing loading at most, g/dm²", "plain")}
        {target("stall_m_s", "Stall speed at most", "speed")}
        {target("watts", "Power into the motors, W", "plain")}
        {target("watts_per_kg", "Power at least, W/kg", "plain")}
      </div>
    </section>
  );
}
