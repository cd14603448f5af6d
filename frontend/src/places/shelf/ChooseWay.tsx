import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { AirframeOut, Problem } from "../../api/client";
import { useCatalogue, useConstructions, useOwn, useShelf } from "../../api/queries";
import { Choice, NumberField, OptionalNumber, Tick } from "../../forms/fields";
import { bare, show, unitOf } from "../../forms/units";
import { putPart } from "./putPart";
import { TOOLS } from "./tools";
import { InHead } from "../../words/InHead";
import { useWays, type Way, type WayWish } from "./useWays";
import { WayTable } from "./WayTable";

const KINDS = [
  { value: "wing", label: "Wing half" },
  { value: "tail", label: "Tail half" },
  { value: "surface", label: "Control surface" },
  { value: "fuselage", label: "Fuselage" },
] as const;

/** Every construction for what is wanted, sized to its load; each opens as a ready part. What was asked stands in the
 * address. */
export function ChooseWay() {
  const [query, setQuery] = useSearchParams();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const shelf = useShelf();
  const catalogue = useCatalogue();
  const into = shelf.data?.find((a) => a.id === query.get("into")) ?? null;
  const constructions = useConstructions();
  const own = readWish(query.get("wish"));
  const kind = own.kind ?? "wing";
  const usual = constructions.data?.find((c) => c.kind === kind);
  const wish: WayWish = {
    kind,
    span_mm: usual?.size.span_mm ?? 0,
    root_chord_mm: usual?.size.root_chord_mm ?? 0,
    tip_chord_mm: usual?.size.tip_chord_mm ?? 0,
    all_up_mass_g: usual?.all_up_mass_g ?? 0,
    top_speed_m_s: usual?.top_speed_m_s ?? 0,
    load_factor: null,
    hours: null,
    tools: ["iron", "hot_wire", "resin"],
    at_hand: [],
    ...own,
    ...(into && { all_up_mass_g: into.document.all_up_mass_g, top_speed_m_s: into.document.top_speed_m_s }),
  };
  const [refused, setRefused] = useState<Problem[]>([]);
  const ready = usual !== undefined && (into !== null || !query.get("into") || shelf.isSuccess);
  const { ways, problems, done, outdated } = useWays(ready ? wish : null);
  const ask = (next: Partial<WayWish>) =>
    setQuery(
      (old) => {
        old.set("wish", JSON.stringify(next));
        return old;
      },
      { replace: true },
    );
  /** Into what the address says at that moment, which may be ahead of what is drawn. */
  const set = <K extends keyof WayWish>(key: K, value: WayWish[K]) =>
    ask({ ...readWish(new URLSearchParams(window.location.search).get("wish")), [key]: value });
  const at = (key: string) => problems.find((p) => p.path.endsWith(key));
  const open = async (way: Way) => {
    const put = await putPart(way.part, into ?? { name: "", ...wish }, queries);
    if ("to" in put) void navigate(put.to);
    else setRefused(put.problems);
  };
  const all = (constructions.data ?? []).filter((c) => c.kind === kind).length;
  const sheets = [...(catalogue.data?.foams ?? []), ...(catalogue.data?.sheets ?? [])];
  const busy = outdated || !done;
  const settled = outdated ? 0 : ways.filter((w) => w.settled).length;
  return (
    <>
      <InHead>
        <h1 className="font-label font-semibold">Choose a construction</h1>
      </InHead>
      <main className="mx-auto grid w-full max-w-[92rem] gap-x-10 gap-y-6 px-6 grid-cols-[minmax(0,1fr)] pt-5 pb-12 max-sm:px-4 lg:grid-cols-[20rem_minmax(0,1fr)]">
        <section aria-label="What you need" className="grid content-start gap-4">
          <Choice
            label="Part type"
            value={wish.kind}
            options={KINDS}
            onChange={(kind) => ask({ hours: wish.hours, tools: wish.tools, at_hand: wish.at_hand, kind })}
          />
          {ready ? <Sizes {...{ wish, set, at, into }} /> : <p role="status">Reading the usual sizes…</p>}
          <AtHand {...{ wish, set, sheets }} />
        </section>
        <section aria-label="Constructions" aria-busy={busy} className="min-w-0">
          <p className="max-w-prose text-body leading-snug text-soft">
            Each construction is sized to your loads from stock sizes: the lightest that holds at the low end
            of its range, or why none does. Those that hold come first, and of them what you have. Mass and
            time are for one piece.
          </p>
          {busy && (
            <p role="status" className="label-type mt-3 flex flex-wrap items-center gap-3">
              Sizing… {settled} of {all} done
              <progress aria-label="Constructions sized" max={all} value={settled} className="w-36" />
            </p>
          )}
          {[...problems, ...refused]
            .filter((p) => !/(mm|_g|_s|hours|factor)$/.test(p.path))
            .map((p) => (
              <p key={p.path + p.message} role="alert" className="mt-3 text-fail">
                {p.message}
              </p>
            ))}
          <div className={`mt-3 ${outdated ? "stale" : ""}`}>
            {ways.length > 0 && <WayTable ways={ways} open={outdated ? null : (way) => void open(way)} />}
          </div>
          {ways.length === 0 && !busy && problems.length === 0 && (
            <p className="mt-4">No construction fits this size. Check the span, chords and thicknesses.</p>
          )}
        </section>
      </main>
    </>
  );
}

/** The wish as it stands in an address; what cannot be read is as if it were not there. */
function readWish(text: string | null): Partial<WayWish> {
  try {
    const found: unknown = JSON.parse(text ?? "{}");
    return typeof found === "object" && found !== null ? found : {};
  } catch {
    return {};
  }
}

interface WishProps {
  wish: WayWish;
  set: <K extends keyof WayWish>(key: K, value: WayWish[K]) => void;
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
        label={wish.kind === "fuselage" ? "Length" : "Span of one half"}
        value={wish.span_mm}
        quantity="length"
        step={10}
        problem={at("span_mm")}
        hint={
          wish.kind === "wing"
            ? `full span ${bare(2 * wish.span_mm, "length", 4)} ${unitOf("length")}`
            : undefined
        }
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
      {wish.kind === "wing" && (
        <OptionalNumber
          label="Load factor, × gravity"
          value={wish.load_factor ?? null}
          quantity="plain"
          problem={at("load_factor")}
          hint="empty: what the speed gives"
          onChange={(v) => set("load_factor", v)}
        />
      )}
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
  const own = new Set((useOwn().data ?? []).filter((t) => t.item.origin !== "scrap").map((t) => t.item.key));
  const there = sheets.map((m) => m.key).filter((k) => own.has(k) && !wish.at_hand.includes(k));
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
        {there.length > 0 && (
          <button
            type="button"
            className="key-button my-1"
            onClick={() => set("at_hand", [...new Set([...wish.at_hand, ...there])])}
          >
            What is in the Stockroom ({there.length})
          </button>
        )}
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
