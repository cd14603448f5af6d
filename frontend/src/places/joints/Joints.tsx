import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useState, type ReactNode } from "react";
import { useSearchParams } from "react-router";
import { api, problemsOf, type Problem, type Schemas } from "../../api/client";
import { useCatalogue, useShelf } from "../../api/queries";
import { Choice, NumberField, OptionalNumber, Tick } from "../../forms/fields";
import { useSettled } from "../../forms/useSettled";
import { plain, unitOf } from "../../forms/units";
import { Coupons } from "./Coupons";
import { GlueRow } from "./GlueRow";
import { Holders } from "./Holders";
import { Hinges } from "./Hinges";
import { meetingsIn, sidesOf } from "./sides";
import { WhyNot } from "./WhyNot";
import { Schools } from "./Schools";

type Need = Schemas["GlueNeed"];

const LOADED = [
  { value: "shear", label: "Along the face: shear" },
  { value: "pull", label: "Straight off: pull" },
  { value: "peel", label: "From one edge: peel" },
  { value: "bend", label: "Bent across the seam" },
];

const TECHNIQUES = [
  { value: "", label: "as holds best" },
  { value: "flashed", label: "aired to tack" },
  { value: "wet", label: "wet" },
  { value: "misted", label: "misted" },
  { value: "accelerated", label: "accelerated" },
  { value: "vented", label: "vented, pricked" },
];

const FIRST: Need = {
  one: "epp_30",
  other: "epp_30",
  loaded: "shear",
  area_cm2: 20,
  width_mm: 30,
  gap_mm: 0.1,
  hold_N: 20,
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

/** What can be chosen here, by the key in the address. */
const TABS = [
  ["glue", "Which glue?"],
  ["hinge", "Which hinge?"],
  ["hold", "Holding things in"],
  ["coupons", "My coupons"],
] as const;

/** Joints: which glue, which hinge, what holds a battery in, and own trials. */
export function Joints({ header }: { header: (children?: ReactNode) => ReactNode }) {
  const [query, setQuery] = useSearchParams();
  const what = TABS.find(([key]) => key === query.get("what"))?.[0] ?? "glue";
  return (
    <>
      {header(<h1 className="font-label font-semibold">Joints</h1>)}
      <Tabs.Root value={what} onValueChange={(v) => setQuery({ what: v }, { replace: true })}>
        <Tabs.List aria-label="What is chosen" className="flex border-b border-rule px-5">
          {TABS.map(([key, label]) => (
            <Tabs.Trigger
              key={key}
              value={key}
              className="label-type min-h-11 border-b-[3px] border-transparent px-3 data-[state=active]:border-pick data-[state=active]:text-pick"
            >
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="glue">
          <Glues />
        </Tabs.Content>
        <Tabs.Content value="hinge">
          <Hinges />
        </Tabs.Content>
        <Tabs.Content value="hold">
          <Holders />
        </Tabs.Content>
        <Tabs.Content value="coupons">
          <Coupons />
        </Tabs.Content>
      </Tabs.Root>
    </>
  );
}

/** Which glue: what meets what, what is asked, and every adhesive ranked with the reason for its place. */
function Glues() {
  const catalogue = useCatalogue();
  const shelf = useShelf();
  const [query] = useSearchParams();
  const [need, setNeed] = useState<Need>(() => ({
    ...FIRST,
    ...(query.get("one") && query.get("other") ? { one: query.get("one")!, other: query.get("other")! } : {}),
  }));
  /** The last possible answer: it stays while a need cannot be. */
  const [last, setLast] = useState<Schemas["Gluing"] | null>(null);
  const settled = useSettled(need, 30);
  const answer = useQuery({
    queryKey: ["glue", settled],
    queryFn: async () => {
      const { data, error } = await api.POST("/api/joints/glue", { body: settled });
      return { data: data ?? null, problems: data ? [] : problemsOf(error) };
    },
    retry: false,
    placeholderData: keepPreviousData,
  });
  // what stood where before the last change: shows what the change moved
  const [places, setPlaces] = useState<{ now: string[]; before: string[] }>({ now: [], before: [] });
  const problems: Problem[] = answer.data?.problems ?? [];
  const found = answer.data?.data ?? null;
  // only the answer to the need as it stands: a late one to an earlier need must not take its place
  if (!answer.isPlaceholderData && found && found !== last) setLast(found);
  const shown = found ?? last;
  const order = shown?.choices.filter((c) => c.vetoes.length === 0).map((c) => c.key) ?? [];
  if (!answer.isPlaceholderData && shown && order.join() !== places.now.join())
    setPlaces({ now: order, before: places.now });
  const set =
    <K extends keyof Need>(key: K) =>
    (value: unknown) =>
      setNeed((n) => ({ ...n, [key]: value as Need[K] }));
  const at = (key: string) => problems.find((p) => p.path.endsWith(key));
  const sides = sidesOf(catalogue.data);
  const meetings =
    catalogue.data && shelf.data
      ? meetingsIn(
          shelf.data.map((a) => a.document),
          catalogue.data,
        )
      : [];
  const fits = shown?.choices.filter((c) => c.vetoes.length === 0) ?? [];
  const out = shown?.choices.filter((c) => c.vetoes.length > 0) ?? [];
  const number = (
    key:
      | "area_cm2"
      | "width_mm"
      | "gap_mm"
      | "hold_N"
      | "arm_mm"
      | "within_min"
      | "workshop_C"
      | "heat_C"
      | "flex_percent"
      | "habit",
    label: string,
    quantity: Parameters<typeof NumberField>[0]["quantity"],
    step: number,
    hint?: string,
  ) => (
    <NumberField
      label={label}
      value={need[key]}
      quantity={quantity}
      step={step}
      problem={at(key)}
      hint={hint}
      onChange={set(key)}
    />
  );
  return (
    <main className="mx-auto grid max-w-[88rem] gap-x-10 gap-y-6 px-6 pt-5 pb-12 lg:grid-cols-[21rem_minmax(0,1fr)]">
      <section aria-label="What is asked of the joint" className="grid content-start gap-3">
        {meetings.length > 0 && (
          <Choice
            label="From your airframes"
            value={meetings.find((m) => m.one === need.one && m.other === need.other)?.value ?? ""}
            options={[{ value: "", label: "chosen freely" }, ...meetings]}
            onChange={(v) => {
              const met = meetings.find((m) => m.value === v);
              if (met) setNeed((n) => ({ ...n, one: met.one, other: met.other }));
            }}
          />
        )}
        <Choice label="This" value={need.one} options={sides} problem={at("one")} onChange={set("one")} />
        <Choice
          label="meets this"
          value={need.other}
          options={sides}
          problem={at("other")}
          onChange={set("other")}
        />
        <Choice label="Loaded" value={need.loaded} options={LOADED} onChange={set("loaded")} />
        <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
          {number("area_cm2", "Face, cm²", "plain", 5)}
          {number("width_mm", "Its narrower side", "length", 5)}
          <OptionalNumber
            label="or a bead, long"
            value={need.bead_mm ?? null}
            quantity="length"
            problem={at("bead_mm")}
            hint="as wide as the narrower side"
            onChange={set("bead_mm")}
          />
          <Choice
            label="Put together"
            value={need.technique ?? ""}
            options={TECHNIQUES}
            problem={at("technique")}
            onChange={(v) => set("technique")(v || null)}
          />
          {number("hold_N", "Must hold", "force", 5)}
          {number("within_min", "after, minutes", "plain", 10)}
          {need.loaded === "bend" && number("arm_mm", "Load acts at", "length", 10, "from the seam")}
          {number("gap_mm", "Gap", "length", 0.1)}
          {number("flex_percent", "Must bend with it, %", "plain", 1)}
          {number("workshop_C", "Workshop", "warmth", 1)}
          {number("heat_C", "Warmest in use", "warmth", 5, "a parked car: 60 and more")}
          <Choice
            label="A gram counts"
            value={need.grams_matter}
            options={[
              { value: "little", label: "little" },
              { value: "usual", label: "as usual" },
              { value: "much", label: "much: tail, tip" },
            ]}
            onChange={set("grams_matter")}
          />
          {number("habit", "Glue you use over the table's", "plain", 0.1, "weigh the tube before and after")}
        </div>
        <Choice
          label="Water"
          value={need.water}
          options={[
            { value: "dry", label: "Stays dry" },
            { value: "splash", label: "Dew, wet grass" },
            { value: "wet", label: "Lands on water" },
          ]}
          onChange={set("water")}
        />
        <div>
          <Tick label="The seam is seen" checked={need.seen} onChange={set("seen")} />
          <Tick label="It is sanded over" checked={need.sanded} onChange={set("sanded")} />
        </div>
        <Schools chosen={need.schools} set={set("schools")} />
      </section>
      <section aria-label="Adhesives, ranked" className={answer.isFetching ? "opacity-70" : ""}>
        {shown && (
          <>
            <p className="text-lg font-semibold" role="status">
              {shown.says}
            </p>
            {problems.length > 0 && (
              <p className="text-fail" role="alert">
                Shown is the last possible need. {problems[0]!.message}
              </p>
            )}
            {shown.coupons_say.length > 0 && (
              <ul aria-label="What your coupons changed" className="mt-1 text-[0.9rem] leading-snug">
                {shown.coupons_say.map((text) => (
                  <li key={text} className="border-l-[3px] border-pick pl-2">
                    By your coupons: {text}
                  </li>
                ))}
              </ul>
            )}
            {shown.schools_say.length > 0 && (
              <ul aria-label="What your schools changed" className="mt-1 text-[0.9rem] leading-snug">
                {shown.schools_say.map((text) => (
                  <li key={text} className="border-l-[3px] border-rule pl-2">
                    {text}
                  </li>
                ))}
              </ul>
            )}
            <div
              aria-hidden="true"
              className="label-type mt-3 grid grid-cols-[2.6rem_minmax(0,1fr)_8.5rem_8.5rem_5rem] gap-x-3 text-[0.82rem] text-soft max-md:hidden"
            >
              <span />
              <span />
              <span className="text-right">after {plain(settled.within_min)} min</span>
              <span className="text-right">cured</span>
              <span className="text-right">stays, {unitOf("mass")}</span>
            </div>
            <ol aria-label="What can be used" className="border-t border-ink">
              {fits.map((c, i) => (
                <GlueRow
                  key={c.key}
                  choice={c}
                  rank={i + 1}
                  before={places.before.indexOf(c.key) + 1}
                  asked={shown.asked_N}
                  within={settled.within_min}
                />
              ))}
            </ol>
            <WhyNot choices={shown.choices} />
            {out.length > 0 && (
              <>
                <h2 className="mt-6 border-b border-ink text-lg font-semibold">Ruled out, and why</h2>
                <ul className="text-[0.92rem]">
                  {out.map((c) => (
                    <li key={c.key} className="border-b border-rule py-1.5 leading-snug">
                      <strong>{c.name}</strong>
                      <ul>
                        {c.vetoes.map((text) => (
                          <li key={text} className="text-soft">
                            <span className="text-fail">✕</span> {text}
                          </li>
                        ))}
                      </ul>
                    </li>
                  ))}
                </ul>
              </>
            )}
            <p className="mt-4 border-l-[3px] border-fail pl-3 text-[0.88rem] leading-snug">
              All figures are estimates of grade B or C. The product's own data sheet rules; glue two scraps
              first, wait, break them and read the broken face.
            </p>
          </>
        )}
      </section>
    </main>
  );
}
