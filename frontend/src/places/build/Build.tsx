import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useParams } from "react-router";
import { accepted } from "../../api/changes";
import { api, Refused, type AirframeOut } from "../../api/client";
import { saveBlob } from "../../charts/save";
import { plain } from "../../forms/units";
import { useSettled } from "../../forms/useSettled";
import { useTyped } from "../../forms/useTyped";
import { AirframeLine } from "../../part/AirframeLine";
import { useKept, useStored } from "../../part/useKept";
import { Figure, Small } from "../../words/Figure";
import { InHead } from "../../words/InHead";
import { NotHere } from "../../words/NotHere";
import { ProblemList } from "../../words/ProblemList";
import { tagOf } from "../../words/tags";
import { CutList } from "./CutList";
import { ShopForm } from "./ShopForm";
import { dayAndClock, USUAL, type Plan, type Shop } from "./shop";
import { Steps } from "./Steps";
import { Timeline } from "./Timeline";

/** Build sheet: what to do on every piece of an airframe, in which order, and when it may fly. */
export function Build() {
  const { airframeId = "" } = useParams();
  const airframe = useStored(airframeId);
  if (airframe.isError) return <NotHere says="This airframe is not on your Shelf" />;
  if (!airframe.data) return null;
  return <Sheet key={airframe.data.id} state={airframe.data} />;
}

function Sheet({ state }: { state: AirframeOut }) {
  const { document } = useKept(state).draft;
  const [shop, write] = useTyped<Shop>("fletcher.shop", USUAL);
  const body = useMemo(() => ({ document, shop: { ...shop, zone: USUAL.zone ?? "UTC" } }), [document, shop]);
  const asked = useSettled(body, 600);
  const answer = useQuery({
    queryKey: ["plan", tagOf(asked)],
    queryFn: async ({ signal }) => (await accepted(api.POST("/api/studies/plan", { body: asked, signal })))!,
    retry: false,
    gcTime: 300_000,
    placeholderData: keepPreviousData,
  });
  // while something is impossible the last plan stays
  const [told, keep] = useState(answer.data);
  if (answer.data && answer.data !== told) keep(answer.data);
  const problems = answer.error instanceof Refused ? answer.error.problems : [];
  const toCalendar = async () => {
    const table = await accepted(api.POST("/api/studies/plan-calendar", { body: asked }));
    if (table) saveBlob(new Blob([table.text], { type: "text/calendar" }), `${document.name}.ics`);
  };
  return (
    <>
      <InHead>
        <h1 className="sr-only">{document.name}: build sheet</h1>
      </InHead>
      <AirframeLine document={document} airframeId={state.id} place="build" />
      <main className="mx-auto w-full max-w-[88rem] px-6 pb-10 max-sm:px-4" aria-busy={answer.isFetching}>
        {answer.isFetching && !told && (
          <p role="status" className="py-4 text-soft">
            Planning…
          </p>
        )}
        {problems.length > 0 && (
          <div role="alert" className="pt-3 text-fail">
            <ProblemList problems={problems} />
          </div>
        )}
        <div className={answer.isFetching || problems.length > 0 ? "stale" : ""}>
          {told && <Answer plan={told} />}
          {told && <Timeline plan={told} />}
        </div>
        <div className="grid gap-x-10 lg:grid-cols-[minmax(0,1fr)_23rem]">
          <div className="max-lg:order-last">
            {told && <Steps plan={told} />}
            <CutList document={asked.document} />
          </div>
          <div>
            <ShopForm
              shop={shop}
              problems={problems}
              change={(update) => write((now) => ({ ...now, ...update }))}
            />
            <p className="flex flex-wrap gap-2 pt-4 print:hidden">
              <button type="button" className="key-button" disabled={!told} onClick={() => void toCalendar()}>
                Save as calendar
              </button>
              <button type="button" className="key-button" onClick={() => window.print()}>
                Print
              </button>
            </p>
          </div>
        </div>
      </main>
    </>
  );
}

/** The first sentence and four figures. */
function Answer({ plan: p }: { plan: Plan }) {
  const hours = (minutes: number) => `${plain(minutes / 60, 2)} h`;
  return (
    <section aria-label="Verdict" className="mb-4 border-b border-ink">
      <p role="status" className="py-3 text-title leading-snug font-bold">
        {p.says}
      </p>
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
        <Figure label="Sessions">
          {p.sessions ?? "–"}
          <Small>{p.planned.length} steps</Small>
        </Figure>
      </dl>
    </section>
  );
}
