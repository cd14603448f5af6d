import type { Schemas } from "../../api/client";
import { useWidth } from "../../charts/useWidth";
import { plain } from "../../forms/units";
import { minutesText } from "./times";

const TICKS = [15, 30, 60, 120, 360, 1440, 4320, 10080];

interface Props {
  points: Schemas["FrontPoint"][];
  pick: (recipe: Schemas["Recipe"]) => void;
}

/** Repairs that no other beats: how soon they fly against what they then hold; larger is heavier. */
export function FrontPlot({ points, pick }: Props) {
  const [holder, width] = useWidth<HTMLDivElement>();
  const [left, top, high] = [46, 12, 210];
  const first = Math.log(Math.max(5, Math.min(...points.map((p) => p.fly_min))) * 0.8);
  const last = Math.log(Math.max(120, ...points.map((p) => p.fly_min)) * 1.2);
  const most = Math.max(110, ...points.map((p) => p.strength_percent));
  const x = (minutes: number) =>
    left + ((Math.log(Math.max(minutes, 5)) - first) / (last - first)) * (width - left - 16);
  const y = (percent: number) => top + high * (1 - percent / most);
  return (
    <div ref={holder}>
      {width > 0 && (
        <svg width={width} height={high + 52} role="group" aria-label="Strength against time to fly">
          {[0, 25, 50, 75, 100].map((p) => (
            <g key={p}>
              <line x1={left} x2={width - 8} y1={y(p)} y2={y(p)} stroke="var(--rule)" />
              <text x={left - 6} y={y(p) + 4} fontSize={12} textAnchor="end" fill="var(--soft)">
                {p} %
              </text>
            </g>
          ))}
          {TICKS.filter((t) => Math.log(t) > first && Math.log(t) < last).map((t) => (
            <g key={t}>
              <line x1={x(t)} x2={x(t)} y1={top} y2={top + high} stroke="var(--rule)" />
              <text x={x(t)} y={top + high + 17} fontSize={12} textAnchor="middle" fill="var(--soft)">
                {minutesText(t)}
              </text>
            </g>
          ))}
          <text x={left} y={high + 46} fontSize={12} fill="var(--soft)">
            flies after; strength of the whole part upwards; a larger dot is heavier
          </text>
          {points.map((p, n) => (
            <circle
              key={n}
              role="button"
              tabIndex={0}
              aria-label={`${p.says}: ${minutesText(p.fly_min)}, ${plain(p.strength_percent)} %, ${plain(p.more_g, 2)} g`}
              cx={x(p.fly_min)}
              cy={y(p.strength_percent)}
              r={5 + Math.min(Math.max(p.more_g, 0), 12) / 2}
              fill="var(--pick)"
              fillOpacity={0.35}
              stroke="var(--pick)"
              strokeWidth={1.5}
              className="cursor-pointer"
              onClick={() => pick(p.recipe)}
              onKeyDown={(e) => {
                if (e.key !== "Enter" && e.key !== " ") return;
                e.preventDefault();
                pick(p.recipe);
              }}
            >
              <title>
                {p.says}: {minutesText(p.fly_min)}, {plain(p.strength_percent)} %, {plain(p.more_g, 2)} g
              </title>
            </circle>
          ))}
        </svg>
      )}
    </div>
  );
}
