import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { api, problemsOf, type Problem, type Schemas } from "../../api/client";
import { useCatalogue, useShelf } from "../../api/queries";
import { formOf } from "../../forms/form";
import { useSettled } from "../../forms/useSettled";
import { GlueAnswer } from "./GlueAnswer";
import { GlueAsked, type Need } from "./GlueAsked";

const FIRST: Need = {
  one: "epp_30",
  other: "epp_30",
  loaded: "shear",
  area_cm2: 20,
  width_mm: 30,
  gap_mm: 0.1,
  hold_N: 20,
  steady_N: 0,
  arm_mm: 50,
  within_min: 60,
  workshop_C: 20,
  heat_C: 45,
  water: "dry",
  flex_percent: 1,
  seen: false,
  sanded: false,
  bead_mm: null,
  technique: null,
  grams_matter: "usual",
  habit: 1,
  schools: {},
};

/** Which glue: what meets what, what is asked, and every adhesive ranked with the reason for its place. */
export function Glues() {
  const catalogue = useCatalogue();
  const shelf = useShelf();
  const [query] = useSearchParams();
  const [need, setNeed] = useState<Need>(() => ({
    ...FIRST,
    one: query.get("one") ?? FIRST.one,
    other: query.get("other") ?? FIRST.other,
  }));
  /** The last possible answer: it stays while a need cannot be. */
  const [last, setLast] = useState<Schemas["Gluing"] | null>(null);
  // what stood where before the last change: shows what the change moved
  const [places, setPlaces] = useState<{ now: string[]; before: string[] }>({ now: [], before: [] });
  const settled = useSettled(need, 30);
  const answer = useQuery({
    queryKey: ["glue", settled],
    queryFn: async ({ signal }) => {
      const { data, error } = await api.POST("/api/joints/glue", { body: settled, signal });
      return { data: data ?? null, problems: data ? [] : problemsOf(error) };
    },
    retry: false,
    placeholderData: keepPreviousData,
  });
  const problems: Problem[] = answer.data?.problems ?? [];
  const at = (key: string) => problems.find((p) => p.path.endsWith(key));
  const form = formOf(need, setNeed, at);
  const found = answer.data?.data ?? null;
  // only the answer to the need as it stands: a late one to an earlier need must not take its place
  if (!answer.isPlaceholderData && found && found !== last) setLast(found);
  const shown = found ?? last;
  const order = shown?.choices.filter((c) => c.vetoes.length === 0).map((c) => c.key) ?? [];
  if (!answer.isPlaceholderData && shown && order.join() !== places.now.join())
    setPlaces({ now: order, before: places.now });
  return (
    <main className="mx-auto grid max-w-[88rem] gap-x-10 gap-y-6 grid-cols-[minmax(0,1fr)] px-6 pt-5 pb-12 max-sm:px-4 lg:grid-cols-[21rem_minmax(0,1fr)]">
      <GlueAsked form={form} catalogue={catalogue.data} shelf={shelf.data} />
      <section aria-label="Adhesives, best first" className={answer.isFetching ? "stale" : ""}>
        {shown && (
          <GlueAnswer answer={shown} before={places.before} within={settled.within_min} {...{ problems }} />
        )}
      </section>
    </main>
  );
}
