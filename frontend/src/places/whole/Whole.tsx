import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { useParams } from "react-router";
import { api, must, type Airframe, type AirframeOut, type Schemas } from "../../api/client";
import { AirframeLine } from "../../part/AirframeLine";
import { Elsewhere } from "../../part/Elsewhere";
import { Choice, NumberField, TextField } from "../../forms/fields";
import { Kept } from "../../part/Kept";
import { tagOf } from "../../words/tags";
import { useSettled } from "../../forms/useSettled";
import { useKept, useStored } from "../../part/useKept";
import { Figure, Small } from "../../words/Figure";
import { Word } from "../../words/Word";
import { bare, plain, show, unitOf } from "../../forms/units";
import { problemAt } from "../../part/edits";
import { FromAbove } from "./FromAbove";
import { PartsTable } from "./PartsTable";
import { SettingFields } from "./SettingFields";
import { useKeptHere } from "../../forms/useKeptHere";
import { NotHere } from "../../words/NotHere";
import { InHead } from "../../words/InHead";

const InSpace = lazy(async () => ({ default: (await import("./InSpace")).InSpace }));

const VIEWS = [
  { key: "plan", label: "Plan view" },
  { key: "space", label: "In space" },
] as const;
type ViewKey = (typeof VIEWS)[number]["key"];

/** The whole airframe: its parts at their places, what they weigh and where they balance, and its setting. */
export function Whole() {
  const { airframeId = "" } = useParams();
  const airframe = useStored(airframeId);
  if (airframe.isError) return <NotHere says="This airframe is not on your Shelf" />;
  if (!airframe.data) return null;
  return <Sheet key={airframe.data.id} state={airframe.data} />;
}

function Sheet({ state }: { state: AirframeOut }) {
  const { keeper, draft } = useKept(state);
  const { document } = draft;
  const settled = useSettled(document, 250);
  const whole = useQuery({
    queryKey: ["whole", tagOf(settled)],
    queryFn: ({ signal }) => must(api.POST("/api/studies/whole", { body: { document: settled }, signal })),
    retry: false,
    gcTime: 60_000,
    placeholderData: (old) => old,
  });
  const edit = (change: (d: Airframe) => Airframe) => keeper.edit(change);
  const { problems } = draft;
  // while the draft is impossible the last answer stays
  const [told, keep] = useState(whole.data);
  if (whole.data && whole.data !== told) keep(whole.data);
  return (
    <>
      <InHead>
        <h1 className="sr-only">{document.name}</h1>
        <span className="ml-auto flex items-center gap-1.5">
          <Kept draft={draft} step={(which) => void keeper.step(which)} />
        </span>
      </InHead>
      <AirframeLine document={document} airframeId={state.id} place={null} />
      <main className="mx-auto w-full max-w-[88rem] px-6 pb-10 max-sm:px-4">
        <div className="grid gap-x-10 lg:grid-cols-[minmax(0,1fr)_22rem]">
          <section aria-label="Drawing and parts">
            <Views document={document} settled={settled} whole={told} />
            <dl className="grid grid-cols-2 border-y border-ink sm:grid-cols-4">
              <Figure label={<Word k="mass">Structure mass</Word>}>
                {told?.structure_g ? (
                  <>
                    {show(told.structure_g.typ, "mass")}
                    <Small>
                      {bare(told.structure_g.low, "mass")} – {bare(told.structure_g.high, "mass")}
                    </Small>
                  </>
                ) : (
                  "–"
                )}
              </Figure>
              <Figure label={<Word k="balance">Centre of gravity, aft of datum</Word>}>
                {told?.balance_mm ? (
                  <>
                    {show(told.balance_mm.typ, "length")}
                    <Small>without equipment</Small>
                  </>
                ) : (
                  "–"
                )}
              </Figure>
              <Figure label="Left for equipment, glue and paint">
                {told?.left_g == null ? (
                  "–"
                ) : (
                  <span className={told.left_g < 0 ? "text-fail" : ""}>
                    {told.left_g < 0 && "✕ "}
                    {show(told.left_g, "mass")}
                    <Small>of {show(document.all_up_mass_g, "mass", 4)} all up</Small>
                  </span>
                )}
              </Figure>
              <Figure label="Cost and hands-on time">
                {told ? `${plain(told.cost, 2)} ` : "–"}
                <Small>{told ? `${plain(told.hours, 2)} hours hands-on` : ""}</Small>
              </Figure>
            </dl>
            <PartsTable
              {...{ document, problems, edit }}
              airframeId={state.id}
              whole={told}
              flush={() => keeper.flush()}
            />
          </section>
          <aside className="pt-4">
            <h2 className="border-b border-ink pb-1 font-semibold">Airframe</h2>
            <div className="mt-3 grid grid-cols-2 items-start gap-x-4 gap-y-3">
              <div className="col-span-full">
                <TextField
                  label="Name"
                  value={document.name}
                  problem={problemAt(problems, "name")}
                  onChange={(name) => edit((d) => ({ ...d, name }))}
                />
              </div>
              <Choice
                label="Status"
                value={document.state}
                options={[
                  { value: "building", label: "In build" },
                  { value: "flying", label: "flying" },
                  { value: "broken", label: "broken" },
                ]}
                onChange={(v) => edit((d) => ({ ...d, state: v }))}
              />
              <NumberField
                label="All-up mass"
                value={document.all_up_mass_g}
                quantity="mass"
                step={10}
                problem={problemAt(problems, "all_up_mass_g")}
                onChange={(v) => edit((d) => ({ ...d, all_up_mass_g: v }))}
              />
              <NumberField
                label="Top speed"
                value={document.top_speed_m_s}
                quantity="speed"
                problem={problemAt(problems, "top_speed_m_s")}
                onChange={(v) => edit((d) => ({ ...d, top_speed_m_s: v }))}
              />
              <div className="col-span-full">
                <TextField
                  label="Note"
                  value={document.note}
                  longest={4000}
                  lines={4}
                  problem={problemAt(problems, "note")}
                  onChange={(note) => edit((d) => ({ ...d, note }))}
                />
              </div>
            </div>
            <SettingFields {...{ document, problems, edit }} whole={told} />
          </aside>
        </div>
        <p className="mt-4 text-small text-soft">
          Positions in {unitOf("length")}: behind the <Word k="datum">datum</Word> at the nose, out from the
          middle, above the datum line.
        </p>
      </main>
      <Elsewhere keeper={keeper} draft={draft} />
    </>
  );
}

interface ViewsProps {
  document: Airframe;
  /** The document at rest: what is computed from it waits until then. */
  settled: Airframe;
  whole: Schemas["Whole"] | undefined;
}

/** The drawing: from above, or in space. */
function Views({ document, settled, whole }: ViewsProps) {
  const [view, setView] = useKeptHere<ViewKey>("fletcher-whole-view", "plan", (kept) =>
    kept === "space" ? "space" : null,
  );
  return (
    <div className="relative">
      <div role="group" aria-label="Drawing" className="flex gap-1 pt-2">
        {VIEWS.map(({ key, label }) => (
          <button
            key={key}
            type="button"
            aria-pressed={view === key}
            className={`min-h-10 px-2 font-label text-body font-semibold ${view === key ? "text-pick underline underline-offset-8 decoration-2" : ""}`}
            onClick={() => setView(key)}
          >
            {label}
          </button>
        ))}
      </div>
      {view === "plan" ? (
        <FromAbove document={document} whole={whole} />
      ) : (
        <Suspense fallback={<p className="h-82 text-soft">Drawing…</p>}>
          <InSpace document={settled} />
        </Suspense>
      )}
    </div>
  );
}
