import { scaleLinear, scaleLog } from "d3-scale";
import type { Schemas } from "../../api/client";
import { Axes } from "../../charts/Axes";
import { useWidth } from "../../charts/useWidth";
import { plain } from "../../forms/units";
import { minutesText } from "../../forms/times";

const TICKS = [15, 30, 60, 120, 360, 1440, 4320, 10080];

interface Props {
  points: Schemas["FrontPoint"][];
  pick: (recipe: Schemas["Recipe"]) => void;
}

/** Repairs that no other beats: how soon they fly against what they then hold; larger is heavier. */
export function FrontPlot({ points, pick }: Props) {
  const [holder, width] = useWidth<HTMLDivElement>();
  const [left, top, high] = [46, 12, 210];
  const first = Math.max(5, Math.min(...points.map((p) => p.fly_min))) * 0.8;
  const last = Math.max(120, ...points.map((p) => p.fly_min)) * 1.2;
  const most = Math.max(110, ...points.map((p) => p.strength_percent));
  const x = scaleLog([first, last], [left, width - 16]).clamp(true);
  const y = scaleLinear([0, most], [top + high, top]);
  return (
    <div ref={holder}>
      {width > 0 && (
        <svg
          width={width}
          height={high + 52}
          role="group"
          aria-label="Strength against time until it can fly"
        >
          <Axes
            x={x}
            y={y}
            grid
            xTicks={TICKS.filter((t) => t > first && t < last)}
            xWritten={minutesText}
            yTicks={[0, 25, 50, 75, 100]}
            yWritten={(p) => `${p} %`}
          />
          <text x={left} y={high + 46} fontSize={12} fill="var(--soft)">
            across: time until it can fly; up: strength, % of undamaged part; larger dots are heavier
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
