import { useId } from "react";
import { byPiece, clock, dayAndClock, minutesBetween, type Plan } from "./shop";

const ROW = 22;
const LEFT = 190;
const WIDE = 1100;
const TOP = 22;

/** Every piece as a row, hands as blocks, what sets as hatching behind them; days from left to right. */
export function Timeline({ plan }: { plan: Plan }) {
  const hatch = useId();
  const rows = byPiece(plan)
    .map(({ piece, steps }) => ({ piece, steps: steps.filter((s) => s.p.state !== "done") }))
    .filter(({ steps }) => steps.length > 0);
  const start = plan.planned.find((p) => p.state !== "done")?.begins ?? plan.flies;
  const total = Math.max(minutesBetween(start, plan.flies), 1);
  const x = (moment: string) => LEFT + ((WIDE - LEFT) * minutesBetween(start, moment)) / total;
  const high = TOP + rows.length * ROW + 4;
  const days = midnights(start, plan.flies);
  const every = Math.ceil(days.length / 10);
  return (
    <div className="overflow-x-auto [scrollbar-width:thin]" tabIndex={0} role="group" aria-label="Timeline">
      <svg
        viewBox={`0 0 ${WIDE} ${high}`}
        className="min-w-[46rem]"
        role="img"
        aria-label={`Timeline of ${rows.length} pieces until ${dayAndClock(plan.flies)}`}
      >
        <defs>
          <pattern
            id={hatch}
            width="5"
            height="5"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line x1="0" y1="0" x2="0" y2="5" className="stroke-soft" strokeWidth="1.6" />
          </pattern>
        </defs>
        {days.map((d, n) => (
          <g key={d}>
            <line x1={x(d)} x2={x(d)} y1={TOP - 6} y2={high} className="stroke-rule" />
            {n % every === 0 && (
              <text x={x(d) + 3} y={TOP - 9} className="fill-soft text-note">
                {new Date(d).toLocaleDateString("en-GB", { weekday: "short", day: "numeric" })}
              </text>
            )}
          </g>
        ))}
        {rows.map(({ piece, steps }, n) => {
          const y = TOP + n * ROW;
          return (
            <g key={piece}>
              <line x1={LEFT} x2={WIDE} y1={y + ROW} y2={y + ROW} className="stroke-rule" strokeWidth="0.5" />
              <text x={LEFT - 8} y={y + 15} textAnchor="end" className="fill-ink text-note">
                {piece.length > 30 ? `${piece.slice(0, 29)}…` : piece}
              </text>
              {steps.map(({ o, p }) => (
                <g key={p.key}>
                  <title>{`${clock(p.begins)} ${o.title}`}</title>
                  {p.sets && (
                    <rect
                      x={x(p.ends)}
                      y={y + 6}
                      width={Math.max(x(p.sets) - x(p.ends), 0)}
                      height={10}
                      fill={`url(#${hatch})`}
                    />
                  )}
                  <rect
                    x={x(p.begins)}
                    y={y + 3}
                    width={Math.max(x(p.ends) - x(p.begins), 2)}
                    height={16}
                    className={p.key === "flight" ? "fill-pick" : "fill-ink"}
                  />
                </g>
              ))}
            </g>
          );
        })}
      </svg>
      <p className="py-1 text-small text-soft">Blocks: hands at work. Hatched: glue or resin sets.</p>
    </div>
  );
}

/** Midnights on the wall between two moments. */
function midnights(from: string, to: string): string[] {
  const day = new Date(from);
  day.setHours(24, 0, 0, 0);
  const out: string[] = [];
  while (day.getTime() < new Date(to).getTime()) {
    out.push(day.toISOString());
    day.setDate(day.getDate() + 1);
  }
  return out;
}
