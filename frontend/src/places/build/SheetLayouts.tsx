import type { Schemas } from "../../api/client";
import { bare, show } from "../../forms/units";

type Sheets = Schemas["SheetCuts"];
type Laid = Sheets["sheets"][number];
type Tape = Schemas["TapeCuts"];

/** Sheets, boards, film and cloth with what is cut from each, drawn to scale; tape by the metre. */
export function SheetLayouts({ sheets, tapes }: { sheets: Sheets[]; tapes: Tape[] }) {
  return (
    <>
      {sheets.map((s) => (
        <section key={s.key} aria-label={s.name} className="border-b border-rule py-3">
          <h3 className="font-semibold">
            {s.name}
            <span className="font-normal text-soft">
              {" "}
              · buy {s.buy} × {s.unit}
              {s.careless > s.buy && s.buy > 0 && `, ${s.careless - s.buy} fewer than cut as they come`}
            </span>
          </h3>
          <ol className="grid gap-4 pt-2">
            {s.sheets.map((sheet, n) => (
              <li key={n}>
                <Drawn sheet={sheet} name={`${s.name}, sheet ${n + 1}`} />
              </li>
            ))}
          </ol>
        </section>
      ))}
      {tapes.map((t) => (
        <section key={t.key} aria-label={t.name} className="border-b border-rule py-3">
          <h3 className="font-semibold">
            {t.name}
            <span className="font-normal text-soft">
              {" "}
              · {t.metres} m{t.own_metres > 0 && `, ${t.own_metres} m there`} · buy {t.buy} × {t.unit}
            </span>
          </h3>
          <ol className="text-body">
            {t.strips.map((p, n) => (
              <li key={n}>
                <span className="figure-type">
                  {bare(p.long_mm, "length", 4)} × {show(p.wide_mm, "length", 3)}
                </span>{" "}
                {p.name}
                {p.note && <span className="text-soft"> · {p.note}</span>}
              </li>
            ))}
          </ol>
        </section>
      ))}
    </>
  );
}

/** A long roll is drawn only as far as it is used, and a little further. */
function shownLength(sheet: Laid): number {
  const used = Math.max(...sheet.pieces.map((p) => p.x_mm + p.long_mm));
  return Math.min(sheet.long_mm, Math.max(used * 1.15, sheet.wide_mm * 1.2));
}

/** Corners of a piece on its sheet. */
const corners = (p: Laid["pieces"][number]): [number, number][] =>
  p.outline?.length
    ? p.outline
    : [
        [p.x_mm, p.y_mm],
        [p.x_mm + p.long_mm, p.y_mm],
        [p.x_mm + p.long_mm, p.y_mm + p.wide_mm],
        [p.x_mm, p.y_mm + p.wide_mm],
      ];

const middle = (points: [number, number][], n: 0 | 1) =>
  points.reduce((sum, p) => sum + p[n], 0) / points.length;

function Drawn({ sheet, name }: { sheet: Laid; name: string }) {
  const long = shownLength(sheet);
  const size = Math.max(long, sheet.wide_mm) / 46;
  return (
    <div className="grid gap-x-5 gap-y-1 sm:grid-cols-[minmax(0,22rem)_minmax(0,1fr)]">
      <svg
        viewBox={`-2 -2 ${long + 4} ${sheet.wide_mm + 4}`}
        className="max-h-72 w-full"
        role="img"
        aria-label={`${name}: ${sheet.pieces.length} pieces, grain from left to right`}
      >
        <rect
          width={long}
          height={sheet.wide_mm}
          className="fill-none stroke-ink"
          strokeWidth={size / 6}
          strokeDasharray={long < sheet.long_mm ? `${size} ${size / 2}` : undefined}
        />
        {sheet.pieces.map((p, n) => (
          <g key={n}>
            <polygon
              points={corners(p)
                .map((c) => c.join(","))
                .join(" ")}
              className="fill-sheet stroke-ink"
              strokeWidth={size / 8}
            />
            <text
              x={middle(corners(p), 0)}
              y={middle(corners(p), 1)}
              fontSize={Math.min(size * 1.8, p.wide_mm * 0.9)}
              textAnchor="middle"
              dominantBaseline="central"
              className="fill-ink"
            >
              {n + 1}
            </text>
          </g>
        ))}
      </svg>
      <div>
        <p className="text-small text-soft">
          {sheet.own ? "Own" : "New"}: {bare(sheet.long_mm, "length", 4)} × {show(sheet.wide_mm, "length", 4)}
          {sheet.goes_back &&
            `; ${bare(sheet.left_long_mm, "length", 3)} × ${show(sheet.left_wide_mm, "length", 3)} back to the shelf`}
        </p>
        <ol className="list-inside list-decimal text-body leading-snug">
          {sheet.pieces.map((p, n) => (
            <li key={n}>
              <span className="figure-type">
                {bare(p.long_mm, "length", 4)} × {show(p.wide_mm, "length", 4)}
              </span>{" "}
              {p.name}
              {p.note && <span className="text-small text-soft"> · {p.note}</span>}
            </li>
          ))}
        </ol>
      </div>
    </div>
  );
}
