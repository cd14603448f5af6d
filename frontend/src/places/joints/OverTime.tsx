import type { Schemas } from "../../api/client";
import { plain } from "../../forms/units";

const TICKS: [number, string][] = [
  [5, "5 min"],
  [60, "1 h"],
  [360, "6 h"],
  [1440, "1 d"],
  [10080, "7 d"],
];

interface Props {
  name: string;
  points: { minutes: number; value: Schemas["Band"] }[];
  asked: number;
  /** Minutes at which it is asked, if any. */
  within?: number;
  unit: string;
  says: string;
}

/** What a joint holds after it is closed, with its band, on a scale of time that is closer at first. */
export function OverTime({ name, points, asked, within, unit, says }: Props) {
  const [width, height, left, foot] = [360, 170, 44, 24];
  const [t0, t1] = [Math.log(4), Math.log(10080)];
  // room for what is typical; a long upper tail runs out of the frame
  const most = Math.max(...points.map((p) => 1.35 * p.value.typ), asked * 1.2, 1e-6);
  const px = (minutes: number) =>
    left + ((Math.log(Math.max(minutes, 4)) - t0) / (t1 - t0)) * (width - left - 8);
  const py = (value: number) => height - foot - (Math.min(value, most) / most) * (height - foot - 10);
  const line = (pick: "typ" | "low" | "high") =>
    points.map((p) => `${px(p.minutes).toFixed(1)},${py(p.value[pick]).toFixed(1)}`);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="w-full max-w-md"
        role="img"
        aria-label={`${name} holds ${points.map((p) => `${plain(p.value.typ, 2)} ${unit} after ${plain(p.minutes)} min`).join(", ")}`}
      >
        <polygon
          points={[...line("high"), ...line("low").reverse()].join(" ")}
          fill="var(--ink)"
          fillOpacity={0.12}
        />
        <polyline points={line("typ").join(" ")} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
        <path d={`M${left} ${py(asked)}H${width - 8}`} stroke="var(--fail)" strokeDasharray="6 4" />
        {within !== undefined && (
          <path d={`M${px(within)} 8V${height - foot}`} stroke="var(--pick)" strokeDasharray="2 3" />
        )}
        <path d={`M${left} 8V${height - foot}H${width - 8}`} stroke="var(--ink)" fill="none" />
        {TICKS.map(([minutes, label]) => (
          <text key={label} x={px(minutes)} y={height - 8} fontSize={11} textAnchor="middle">
            {label}
          </text>
        ))}
        <text x={left - 5} y={py(asked) + 4} fontSize={11} textAnchor="end">
          {plain(asked, 2)} {unit}
        </text>
        {py(asked) > 34 && (
          <text x={left - 5} y={16} fontSize={11} textAnchor="end">
            {plain(most, 2)}
          </text>
        )}
      </svg>
      <figcaption className="text-note text-soft">{says}</figcaption>
    </figure>
  );
}
