import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { accepted, useCutPieces, useUndoCut } from "../../api/changes";
import { api, type Airframe, type Schemas } from "../../api/client";
import { useCuts, useOwn } from "../../api/queries";
import { bare, plain, show } from "../../forms/units";
import { tagOf } from "../../words/tags";
import { madeOf, ownLengths, ownSheets, thingOf } from "./ownLengths";
import { SheetLayouts } from "./SheetLayouts";
import { Splices } from "./Splices";

type Bars = Schemas["BarCuts"];
type Cut = Bars["cuts"][number];
type Thing = Schemas["ThingOut"];

/** Which piece of every spar comes out of which length, drawn to scale; what to buy and what is left. */
interface Props {
  document: Airframe;
  airframe: string;
  /** Changes the document. */
  edit: (change: (d: Airframe) => Airframe) => void;
}

export function CutList({ document, airframe, edit }: Props) {
  const things = useOwn().data;
  const own = useMemo(() => ownLengths(things ?? [], airframe), [things, airframe]);
  const flat = useMemo(() => ownSheets(things ?? [], airframe), [things, airframe]);
  const cuts = useCuts(airframe).data;
  const wish = useMemo(
    () => ({ kerf_mm: 1, own, own_sheets: flat, ...madeOf(cuts ?? []) }),
    [own, flat, cuts],
  );
  const found = useQuery({
    queryKey: ["cut-list", tagOf(document), tagOf(wish)],
    queryFn: async ({ signal }) =>
      (await accepted(api.POST("/api/studies/cut-list", { body: { document, wish }, signal })))!,
    enabled: things !== undefined && cuts !== undefined,
    retry: false,
    placeholderData: keepPreviousData,
    gcTime: 60_000,
  });
  if (!found.data) return null;
  const { bars, sheets, tapes, remarks, cost } = found.data;
  return (
    <section aria-label="Cut list" className="mt-10">
      <h2 className="border-b border-ink pb-1 text-title font-bold">Cut list</h2>
      {remarks.map((r) => (
        <p key={r} className="border-b border-rule py-2 leading-snug">
          <strong className="text-fail">⚠</strong> {r}
        </p>
      ))}
      {found.data.long_bars.length > 0 && <Splices document={document} wish={wish} edit={edit} />}
      {bars.map((b) => (
        <Bar key={b.key} bar={b} things={things ?? []} airframe={airframe} />
      ))}
      <SheetLayouts sheets={sheets} tapes={tapes} />
      <Made airframe={airframe} />
      {bars.length + sheets.length + tapes.length > 0 && (
        <p className="py-2 text-body">
          To buy: about {plain(cost.typ, 2)} ({plain(cost.low, 2)} – {plain(cost.high, 2)}), in units of about
          a euro.
        </p>
      )}
    </section>
  );
}

interface BarProps {
  bar: Bars;
  things: Thing[];
  airframe: string;
}

function Bar({ bar: b, things, airframe }: BarProps) {
  const cut = useCutPieces(airframe);
  const longest = Math.max(...b.cuts.map((c) => c.stock_mm));
  const saved = b.careless - b.cuts.length;
  return (
    <section aria-label={b.name} className="border-b border-rule py-3">
      <h3 className="font-semibold">
        {b.name}
        <span className="font-normal text-soft">
          {" "}
          · buy {b.buy} × {b.unit}
          {saved > 0 && `, ${saved} fewer than cut in the order of the list`}
        </span>
      </h3>
      <ol className="grid gap-2 pt-2">
        {b.cuts.map((c, n) => (
          <Length
            key={n}
            cut={c}
            longest={longest}
            make={
              c.own
                ? () => {
                    const thing = thingOf(things, b.key, c.stock_mm, airframe);
                    if (thing)
                      cut.mutate({ thing: thing.id, airframe, pieces_mm: c.pieces.map((p) => p.mm) });
                  }
                : null
            }
          />
        ))}
      </ol>
      {cut.error && (
        <p role="alert" className="text-fail">
          {cut.error.problems[0]!.message}
        </p>
      )}
    </section>
  );
}

/** A length of stock as a bar to scale, its pieces named. */
interface LengthProps {
  cut: Cut;
  longest: number;
  /** Takes it from the shelf; null where it has to be bought. */
  make: (() => void) | null;
}

function Length({ cut: c, longest, make }: LengthProps) {
  const share = (mm: number) => `${(100 * mm) / longest}%`;
  return (
    <li>
      <div className="flex h-7" aria-hidden="true">
        {c.pieces.map((p, n) => (
          <span
            key={n}
            style={{ width: share(p.mm) }}
            className="figure-type truncate border border-ink bg-sheet px-1 text-small leading-6"
          >
            {plain(p.mm, 4)}
          </span>
        ))}
        <span
          style={{ width: share(c.left_mm) }}
          className="truncate border border-dashed border-rule px-1 text-small leading-6 text-soft"
        >
          {c.goes_back ? "keep" : ""}
        </span>
      </div>
      <p className="text-small leading-snug">
        {c.own ? "Own length" : "Of"} {show(c.stock_mm, "length", 4)}:{" "}
        {c.pieces.map((p) => `${show(p.mm, "length", 4)} ${p.name}`).join(" · ")}
        <span className="text-soft">
          {" "}
          · {show(c.left_mm, "length", 3)} left{c.goes_back && ", back to the shelf"}
        </span>
      </p>
      {make && (
        <button
          type="button"
          className="key-button print:hidden"
          aria-label={`Cut from the shelf: ${c.pieces.map((p) => p.name).join(", ")}`}
          onClick={make}
        >
          Cut: take it from the shelf
        </button>
      )}
    </li>
  );
}

/** What was cut from the shelf, each to be taken back. */
function Made({ airframe }: { airframe: string }) {
  const cuts = useCuts(airframe).data ?? [];
  const undo = useUndoCut(airframe);
  if (cuts.length === 0) return null;
  return (
    <section aria-label="Cut already" className="border-b border-rule py-3">
      <h3 className="font-semibold">Cut already</h3>
      <ul>
        {cuts.map((c) => (
          <li key={c.id} className="flex items-center justify-between gap-3 text-body">
            <span>
              {c.name}:{" "}
              {[
                ...c.pieces_mm.map((mm) => show(mm, "length", 4)),
                ...c.sheets.map((p) => `${bare(p.long_mm, "length", 4)} × ${show(p.wide_mm, "length", 4)}`),
              ].join(" · ")}
              {c.steps.length > 0 && <span className="text-soft"> · with its step</span>}
            </span>
            <button
              type="button"
              className="key-button print:hidden"
              aria-label={`Put back: ${c.name}`}
              onClick={() => undo.mutate(c.id)}
            >
              Put back
            </button>
          </li>
        ))}
      </ul>
      {undo.error && (
        <p role="alert" className="text-fail">
          {undo.error.problems[0]!.message}
        </p>
      )}
    </section>
  );
}
