import { useQuery } from "@tanstack/react-query";
import { accepted } from "../../api/changes";
import { api, type Airframe, type Schemas } from "../../api/client";
import { plain, show } from "../../forms/units";
import { tagOf } from "../../words/tags";

type Bars = Schemas["BarCuts"];
type Cut = Bars["cuts"][number];

/** Which piece of every spar comes out of which length, drawn to scale; what to buy and what is left. */
export function CutList({ document }: { document: Airframe }) {
  const found = useQuery({
    queryKey: ["cut-list", tagOf(document)],
    queryFn: async ({ signal }) =>
      (await accepted(
        api.POST("/api/studies/cut-list", { body: { document, wish: { kerf_mm: 1, own: [] } }, signal }),
      ))!,
    retry: false,
    gcTime: 60_000,
  });
  if (!found.data || (found.data.bars.length === 0 && found.data.remarks.length === 0)) return null;
  const { bars, remarks, cost } = found.data;
  return (
    <section aria-label="Cut list" className="mt-10">
      <h2 className="border-b border-ink pb-1 text-title font-bold">Cut list: spars and dowels</h2>
      {remarks.map((r) => (
        <p key={r} className="border-b border-rule py-2 leading-snug">
          <strong className="text-fail">⚠</strong> {r}
        </p>
      ))}
      {bars.map((b) => (
        <Bar key={b.key} bar={b} />
      ))}
      {bars.length > 0 && (
        <p className="py-2 text-body">
          To buy: about {plain(cost.typ, 2)} ({plain(cost.low, 2)} – {plain(cost.high, 2)}), in units of about
          a euro.
        </p>
      )}
    </section>
  );
}

function Bar({ bar: b }: { bar: Bars }) {
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
          <Length key={n} cut={c} longest={longest} />
        ))}
      </ol>
    </section>
  );
}

/** A length of stock as a bar to scale, its pieces named. */
function Length({ cut: c, longest }: { cut: Cut; longest: number }) {
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
    </li>
  );
}
