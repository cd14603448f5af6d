import type { Schemas } from "../../../api/client";
import { show } from "../../../forms/units";

const [WIDE, HIGH] = [520, 34];

/** How far the build is weighed: grams weighed against the plan of the same pieces, on a scale of the whole mass. */
export function PlanBar({ sheet }: { sheet: Schemas["BalanceSheet"] }) {
  const { weighed_g, weighed_planned_g, planned_mass_g } = sheet.weighed;
  const most = Math.max(sheet.mass_g.high, planned_mass_g.high) * 1.02;
  const x = (grams: number) => (grams / most) * WIDE;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH + 16}`}
      className="mt-2 w-full"
      role="img"
      aria-label={`Weighed ${show(weighed_g, "mass", 4)} of ${show(sheet.mass_g.typ, "mass", 4)}; planned for the same ${show(weighed_planned_g, "mass", 4)}`}
    >
      <rect x={0} y={6} width={x(weighed_g)} height={16} className="fill-pick" />
      <rect x={x(weighed_planned_g) - 1} y={1} width={2} height={26} className="fill-ink" />
      <line x1={0} x2={WIDE} y1={22.5} y2={22.5} className="stroke-rule" />
      <rect
        x={x(sheet.mass_g.low)}
        y={12}
        width={x(sheet.mass_g.high) - x(sheet.mass_g.low)}
        height={10}
        className="fill-soft opacity-60"
      />
      <text x={Math.min(x(weighed_planned_g) + 5, WIDE - 60)} y={HIGH + 4} className="fill-soft text-note">
        plan of the same
      </text>
      <text x={WIDE} y={HIGH + 4} textAnchor="end" className="fill-soft text-note">
        flying mass {show(sheet.mass_g.low, "mass", 4)} – {show(sheet.mass_g.high, "mass", 4)}
      </text>
    </svg>
  );
}
