import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, problemsOf, type AirframeOut, type Problem, type Schemas } from "../../api/client";
import { useCatalogue, useConstructions, useShelf } from "../../api/queries";
import { Choice, NumberField, OptionalNumber, Tick } from "../../forms/fields";
import { useSettled } from "../../forms/useSettled";
import { Word } from "../../words/Word";
import { bare, plain, show, unitOf } from "../../forms/units";
import { putPart } from "./putPart";
import { InHead } from "../../words/InHead";

type Wish = Schemas["WishIn"];
type Way = Schemas["Choice"];

const KINDS = [
  { value: "wing", label: "Wing half" },
  { value: "tail", label: "Tail half" },
  { value: "surface", label: "Control surface" },
  { value: "fuselage", label: "Fuselage" },
] as const;

const TOOLS: [Wish["tools"][number], string][] = [
  ["iron", "Film iron"],
  ["hot_wire", "Hot-wire cutter"],
  ["resin", "Resin kit (scales, gloves)"],
  ["vacuum", "Vacuum pump and bag"],
];

/** Every construction for what is wanted, ranked, with what rules one out; each opens as a ready part. */
export function ChooseWay() {
  const [query] = useSearchParams();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const shelf = useShelf();
  const catalogue = useCatalogue();
  const into = shelf.data?.find((a) => a.id === query.get("into")) ?? null;
  const constructions = useConstructions();
  const [own, setWish] = useState<Partial<Wish>>({});
  const kind = own.kind ?? "wing";
  const usual = constructions.data?.find((c) => c.kind === kind);
  const wish: Wish = {
    kind,
    span_mm: usual?.size.span_mm ?? 0,
    root_chord_mm: usual?.size.root_chord_mm ?? 0,
    tip_chord_mm: usual?.size.tip_chord_mm ?? 0,
    all_up_mass_g: usual?.all_up_mass_g ?? 0,
    top_speed_m_s: usual?.top_speed_m_s ?? 0,
    hours: null,
    tools: ["iron", "hot_wire", "resin"],
    at_hand: [],
    ...own,
    ...(into && { all_up_mass_g: into.document.all_up_mass_g, top_speed_m_s: into.document.top_speed_m_s }),
  };
  const [problems, setProblems] = useState<Problem[]>([]);
  const asked = JSON.stringify(wish);
  const settled = useSettled(asked, 300);
  const ways = useQuery({
    queryKey: ["choose", settled],
    queryFn: async ({ signal }) => {
      const { data, error } = await api.POST("/api/studies/choose", {
        body: JSON.parse(settled) as Wish,
        signal,
      });
      setProblems(data ? [] : problemsOf(error));
      return data ?? [];
    },
    enabled: usual !== undefined && (JSON.parse(settled) as Wish).span_mm > 0,
    retry: false,
    placeholderData: keepPreviousData,
  });
  /** Whether the rows are of another wish than the one that stands there: they cannot be opened. */
  const outdated = asked !== settled || ways.isPlaceholderData;
  const set = <K extends keyof Wish>(key: K, value: Wish[K]) => setWish((w) => ({ ...w, [key]: value }));
  const at = (key: string) => problems.find((p) => p.path.endsWith(key));
  const open = async (way: Way) => {
    const put = await putPart(way.part, into ?? { name: "", ...wish }, queries);
    if ("to" in put) void navigate(put.to);
    else setProblems(put.problems);
  };
  const sheets = [...(catalogue.data?.foams ?? []), ...(catalogue.data?.sheets ?? [])];
  return (
    <>
      <InHead>
        <h1 className="font-label font-semibold">Choose a construction</h1>
      </InHead>
      <main className="mx-auto grid max-w-[88rem] gap-x-10 gap-y-6 px-6 pt-5 pb-12 lg:grid-cols-[21rem_minmax(0,1fr)]">
        <section aria-label="What you need" className="grid content-start gap-4">
          <Choice
            label="Part type"
            value={wish.kind}
            options={KINDS}
            onChange={(kind) =>
              setWish({
                hours: wish.hours,
                tools: wish.tools,
                at_hand: wish.at_hand,
                kind: kind,
              })
            }
          />
          <Sizes {...{ wish, set, at, into }} />
          <AtHand {...{ wish, set, sheets }} />
        </section>
        <section aria-label="Constructions, best first" aria-busy={outdated || ways.isFetching}>
          <p className="max-w-prose text-body leading-snug text-soft">
            Every construction is sized for this part with its usual lay-up and checked under its usual loads.
            Those that pass come first, lightest at the top. Mass and hands-on time are for one piece.
          </p>
          {problems
            .filter((p) => !/(mm|_g|_s|hours)$/.test(p.path))
            .map((p) => (
              <p key={p.message} role="alert" className="text-fail">
                {p.message}
              </p>
            ))}
          <ol className={`mt-3 border-t border-ink ${outdated || ways.isFetching ? "stale" : ""}`}>
            {(ways.data ?? []).map((way, i) => (
              <WayRow key={way.key} way={way} place={i + 1} open={outdated ? null : () => void open(way)} />
            ))}
          </ol>
          {ways.data?.length === 0 && !ways.isFetching && (
            <p className="mt-4">No construction fits this size. Check the span, chords and thicknesses.</p>
          )}
          <p className="mt-4">
            <Link to="/" className="text-pick underline">
              Back to the shelf
            </Link>
          </p>
        </section>
      </main>
    </>
  );
}

function WayRow({ way, place, open }: { way: Way; place: number; open: (() => void) | null }) {
  const out = way.ruled_out.length > 0;
  const facts: [string, ReactNode, string][] = [
    ["weighs", `${bare(way.mass_g.typ, "mass")} ${unitOf("mass")}`, "mass"],
    ["bends", `${bare(way.bend_mm.typ, "length")} ${unitOf("length")}`, "bend"],
    ["margin", plain(way.margin.typ, 2), "margin"],
    ["hours", plain(way.hours.typ, 2), "case"],
    ["cost", plain(way.cost.typ, 2), "credits"],
  ];
  return (
    <li
      className={`grid grid-cols-[2rem_minmax(0,1fr)] gap-x-3 border-b border-rule py-4 ${out ? "text-soft" : ""}`}
    >
      <span className="figure-type text-title">{out ? "✕" : place}</span>
      <div>
        <div className="flex flex-wrap items-start justify-between gap-3">
          <h2 className="text-lead leading-tight font-semibold text-ink">{way.title}</h2>
          <button type="button" className="key-button" disabled={!open} onClick={open ?? undefined}>
            Create part<span className="sr-only">: {way.title}</span>
          </button>
        </div>
        <dl className="mt-2 flex flex-wrap gap-x-7 gap-y-1">
          {facts.map(([name, value, word]) => (
            <div key={name}>
              <dt className="label-type text-note text-soft">
                <Word k={word}>{name}</Word>
              </dt>
              <dd className="figure-type text-title leading-tight text-ink">{value}</dd>
            </div>
          ))}
          <div>
            <dt className="label-type text-note text-soft">
              <Word k="snap">snap test</Word>
            </dt>
            <dd className="leading-tight">{way.behaviour}</dd>
          </div>
        </dl>
        <p className="mt-1.5 text-body leading-snug text-soft">{way.why}</p>
        <p className="text-body leading-snug">
          Breaks first: {way.first}. Ready after {plain(way.ready_h.typ, 2)} h including waits.
        </p>
        {way.to_get.length > 0 && <p className="text-body leading-snug">To get: {way.to_get.join("; ")}.</p>}
        {out && (
          <ul className="mt-1 border-l-[3px] border-fail pl-3 text-body leading-snug text-fail">
            {way.ruled_out.map((r) => (
              <li key={r}>{r}</li>
            ))}
          </ul>
        )}
      </div>
    </li>
  );
}

interface WishProps {
  wish: Wish;
  set: <K extends keyof Wish>(key: K, value: Wish[K]) => void;
}

/** How large it is, how heavy, how fast. */
function Sizes({
  wish,
  set,
  at,
  into,
}: WishProps & { at: (key: string) => Problem | undefined; into: AirframeOut | null }) {
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
      <NumberField
        label={wish.kind === "fuselage" ? "Length" : "Span"}
        value={wish.span_mm}
        quantity="length"
        step={10}
        problem={at("span_mm")}
        onChange={(v) => set("span_mm", v)}
      />
      <OptionalNumber
        label="Hands-on time, all pieces"
        value={wish.hours ?? null}
        quantity="plain"
        problem={at("hours")}
        onChange={(v) => set("hours", v)}
      />
      <NumberField
        label={wish.kind === "fuselage" ? "Width at front end" : "Root chord"}
        value={wish.root_chord_mm}
        quantity="length"
        problem={at("root_chord_mm")}
        onChange={(v) => set("root_chord_mm", v)}
      />
      <NumberField
        label={wish.kind === "fuselage" ? "Width at rear end" : "Tip chord"}
        value={wish.tip_chord_mm}
        quantity="length"
        problem={at("tip_chord_mm")}
        onChange={(v) => set("tip_chord_mm", v)}
      />
      {into ? (
        <p className="col-span-full text-body leading-snug">
          For <strong>{into.document.name}</strong>: {show(into.document.all_up_mass_g, "mass", 4)} all up,{" "}
          {show(into.document.top_speed_m_s, "speed")} at most.
        </p>
      ) : (
        <>
          <NumberField
            label="All-up mass"
            value={wish.all_up_mass_g}
            quantity="mass"
            step={10}
            problem={at("all_up_mass_g")}
            onChange={(v) => set("all_up_mass_g", v)}
          />
          <NumberField
            label="Top speed"
            value={wish.top_speed_m_s}
            quantity="speed"
            problem={at("top_speed_m_s")}
            onChange={(v) => set("top_speed_m_s", v)}
          />
        </>
      )}
    </div>
  );
}

/** Tools, foams and sheets that are there. */
function AtHand({ wish, set, sheets }: WishProps & { sheets: { key: string; name: string }[] }) {
  return (
    <>
      <fieldset>
        <legend className="label-type w-full border-b border-ink">Your tools</legend>
        {TOOLS.map(([key, label]) => (
          <Tick
            key={key}
            label={label}
            checked={wish.tools.includes(key)}
            onChange={(on) => set("tools", on ? [...wish.tools, key] : wish.tools.filter((t) => t !== key))}
          />
        ))}
      </fieldset>
      <fieldset>
        <legend className="label-type w-full border-b border-ink">Your foams and sheets</legend>
        <p className="text-small text-soft">None ticked: assume you can buy anything.</p>
        <div className="max-h-64 overflow-y-auto border-b border-rule">
          {sheets.map((m) => (
            <Tick
              key={m.key}
              label={m.name}
              checked={wish.at_hand.includes(m.key)}
              onChange={(on) =>
                set("at_hand", on ? [...wish.at_hand, m.key] : wish.at_hand.filter((k) => k !== m.key))
              }
            />
          ))}
        </div>
      </fieldset>
    </>
  );
}
