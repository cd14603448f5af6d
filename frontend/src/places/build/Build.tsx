import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { accepted } from "../../api/changes";
import { api, type AirframeOut } from "../../api/client";
import { saveBlob } from "../../charts/save";
import { plain } from "../../forms/units";
import { useTyped } from "../../forms/useTyped";
import { AirframeLine } from "../../part/AirframeLine";
import { Elsewhere } from "../../part/Elsewhere";
import { Kept } from "../../part/Kept";
import { useKept, useStored } from "../../part/useKept";
import { Figure, Small } from "../../words/Figure";
import { InHead } from "../../words/InHead";
import { NotHere } from "../../words/NotHere";
import { ProblemList } from "../../words/ProblemList";
import { CutList } from "./CutList";
import { OwnChanges } from "./OwnChanges";
import { Repairs } from "./Repairs";
import { ShopForm } from "./ShopForm";
import { dayAndClock, minutesBetween, span, USUAL, type Plan, type Shop } from "./shop";
import { Steps } from "./Steps";
import { Timeline } from "./Timeline";
import { usePlan } from "./usePlan";
import { useWork, type Change } from "./useWork";

/** Build sheet: what to do on every piece of an airframe, in which order, and when it may fly. */
export function Build() {
  const { airframeId = "" } = useParams();
  const airframe = useStored(airframeId);
  const repair = useSearchParams()[0].get("repair");
  if (airframe.isError) return <NotHere says="This airframe is not on your Shelf" />;
  if (!airframe.data) return null;
  return <Sheet key={`${airframe.data.id} ${repair}`} state={airframe.data} repair={repair} />;
}

function Sheet({ state, repair }: { state: AirframeOut; repair: string | null }) {
  const { keeper, draft } = useKept(state);
  const { document } = draft;
  const [shop, write] = useTyped<Shop>("fletcher.shop", USUAL);
  const bench = useWork(state.id);
  const { asked, made, fetching, problems } = usePlan(
    state.id,
    document,
    shop,
    bench.work,
    bench.ready,
    repair,
  );
  const told = made?.plan;
  const [before, setBefore] = useState<Plan | null>(null);
  const toCalendar = async () => {
    const table = await accepted(api.POST("/api/studies/plan-calendar", { body: asked }));
    if (table) saveBlob(new Blob([table.text], { type: "text/calendar" }), `${document.name}.ics`);
  };
  const change = async (changes: Change[]) => {
    const was = told ?? null;
    const refused = await bench.change(changes);
    if (!refused) setBefore(was);
    return refused;
  };
  const changes = bench.work.changes ?? [];
  return (
    <>
      <InHead>
        <h1 className="sr-only">{document.name}: build sheet</h1>
        <span className="ml-auto flex items-center gap-1.5">
          <Kept draft={draft} step={(which) => void keeper.step(which)} />
        </span>
      </InHead>
      <AirframeLine document={document} airframeId={state.id} place="build" />
      <main className="mx-auto w-full max-w-[88rem] px-6 pb-10 max-sm:px-4" aria-busy={fetching}>
        <Repairs airframe={state.id} repair={repair} />
        {fetching && !told && (
          <p role="status" className="py-4 text-soft">
            Planning…
          </p>
        )}
        {problems.length > 0 && (
          <div role="alert" className="pt-3 text-fail">
            <ProblemList problems={problems} />
          </div>
        )}
        <div className={fetching || problems.length > 0 ? "stale" : ""}>
          {told && <Answer plan={told} before={before === told ? null : before} />}
          {told && <Timeline plan={told} />}
        </div>
        <div className="grid gap-x-10 lg:grid-cols-[minmax(0,1fr)_23rem]">
          <div className="max-lg:order-last">
            {told && <Steps plan={told} change={(one) => change([...changes, one])} press={bench.press} />}
            {!repair && (
              <CutList document={asked.document} airframe={state.id} edit={(change) => keeper.edit(change)} />
            )}
          </div>
          <div>
            <p className="pt-6 print:hidden">
              <Link to={`/build/${state.id}/run${repair ? `?repair=${repair}` : ""}`} className="key-main">
                Work at the bench
              </Link>
            </p>
            {told && <OwnChanges plan={told} changes={changes} change={change} trouble={bench.trouble} />}
            <ShopForm
              shop={shop}
              problems={problems}
              change={(update) => write((now) => ({ ...now, ...update }))}
            />
            {!repair && (
              <p className="flex flex-wrap gap-2 pt-4 print:hidden">
                <button
                  type="button"
                  className="key-button"
                  disabled={!told}
                  onClick={() => void toCalendar()}
                >
                  Save as calendar
                </button>
                <a
                  className="key-button"
                  href={`/api/build/sheet.pdf?airframe=${state.id}&shop=${encodeURIComponent(JSON.stringify(asked.shop))}`}
                  target="_blank"
                  rel="noreferrer"
                >
                  Print as PDF
                </a>
                <a className="key-button" href={`/api/build/templates.zip?airframe=${state.id}`} download>
                  Templates 1:1
                </a>
                <Link className="key-button" to={`/build/${state.id}/trace`}>
                  Trace a photograph
                </Link>
              </p>
            )}
          </div>
        </div>
      </main>
      <Elsewhere keeper={keeper} draft={draft} />
    </>
  );
}

/** What the last change costs, in a sentence; nothing where it moves nothing. */
function costOf(before: Plan, plan: Plan): string {
  const later = minutesBetween(before.flies, plan.flies);
  const hands = Math.round(plan.hands_min.typ - before.hands_min.typ);
  const when = later > 0 ? `${span(later)} later` : later < 0 ? `${span(-later)} sooner` : "at the same time";
  const work = hands > 0 ? `, ${span(hands)} more work` : hands < 0 ? `, ${span(-hands)} less work` : "";
  const sessions = (plan.sessions ?? 0) - (before.sessions ?? 0);
  const more =
    sessions > 0 ? `, ${sessions} more sessions` : sessions < 0 ? `, ${-sessions} fewer sessions` : "";
  return `With your last change it flies ${when}${work}${more}.`;
}

/** The first sentence and four figures. */
function Answer({ plan: p, before }: { plan: Plan; before: Plan | null }) {
  const hours = (minutes: number) => `${plain(minutes / 60, 2)} h`;
  return (
    <section aria-label="Verdict" className="mb-4 border-b border-ink">
      <p role="status" className="py-3 text-title leading-snug font-bold">
        {p.says}
      </p>
      {before && <p className="pb-2 text-body leading-snug">{costOf(before, p)}</p>}
      {p.remarks.map((r) => (
        <p key={r} className="pb-2 text-body leading-snug">
          {r}
        </p>
      ))}
      <dl className="grid grid-cols-2 border-t border-rule sm:grid-cols-4">
        <Figure label="First flight, 5–95 %">
          {dayAndClock(p.flies_from)}
          <Small>to {dayAndClock(p.flies_to)}</Small>
        </Figure>
        <Figure label="Hands-on time">
          {hours(p.hands_min.typ)}
          <Small>
            {hours(p.hands_min.low)} – {hours(p.hands_min.high)}
          </Small>
        </Figure>
        <Figure label="Longest chain">
          {hours(p.chain_min)}
          <Small>with any number of people</Small>
        </Figure>
        <Figure label="Steps done">
          {p.done} of {p.planned.length}
          <Small>{p.sessions === null ? "" : `${p.sessions} sessions to go`}</Small>
        </Figure>
      </dl>
    </section>
  );
}
