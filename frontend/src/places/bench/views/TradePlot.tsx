import { useWidth } from "../../../charts/useWidth";
import { bare, show, unitOf } from "../../../forms/units";
import type { Figures } from "../usePins";

interface Props {
  points: { name: string; figures: Figures }[];
}

const HEIGHT = 210;
const MARKS = ["●", "■", "▲", "◆", "▼", "★", "✚"];

/** Mass against stiffness and mass against strength: up and to the left is better. */
export function TradePlot({ points }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const bends = points.some((p) => p.figures.bend_mm.typ > 0);
  const panels = [
    ...(bends
      ? [
          {
            title: `Stiffness: ${unitOf("length")} of bend, less is higher`,
            of: (f: Figures) => -f.bend_mm.typ,
            written: (v: number) => bare(-v, "length"),
          },
        ]
      : []),
    {
      title: "Strength: margin of the case that leaves least",
      of: (f: Figures) => f.margin.typ,
      written: (v: number) => bare(v, "plain"),
    },
  ];
  const each = panels.length === 2 && width > 620 ? width / 2 : width;
  return (
    <div ref={ref} className="mt-4 flex flex-wrap">
      {width > 0 && panels.map((p) => <Panel key={p.title} points={points} width={each} {...p} />)}
      <p className="w-full text-[0.85rem] text-soft">
        {points.map((p, i) => `${MARKS[i % MARKS.length]} ${p.name}`).join("   ")}
      </p>
    </div>
  );
}

interface PanelProps extends Props {
  width: number;
  title: string;
  of: (f: Figures) => number;
  written: (v: number) => string;
}

function spread(values: number[]): [number, number] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const pad = Math.max(0.12 * (high - low), 0.02 * Math.max(Math.abs(low), Math.abs(high)), 1e-6);
  return [low - pad, high + pad];
}

function Panel({ points, width, title, of, written }: PanelProps) {
  const [left, right, top, bottom] = [52, width - 20, 30, HEIGHT - 34];
  const [m0, m1] = spread(points.map((p) => p.figures.mass_g.typ));
  const [v0, v1] = spread(points.map((p) => of(p.figures)));
  const px = (m: number) => left + ((m - m0) / (m1 - m0)) * (right - left);
  const py = (v: number) => bottom - ((v - v0) / (v1 - v0)) * (bottom - top);
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="img"
      aria-label={`${title}; ${points.map((p) => `${p.name} ${show(p.figures.mass_g.typ, "mass")} and ${written(of(p.figures))}`).join(", ")}`}
    >
      <text x={left} y={16} fontSize={13} fontWeight={620}>
        {title}
      </text>
      <path d={`M${left} ${top}V${bottom}H${right}`} stroke="var(--ink)" fill="none" />
      {[v0, (v0 + v1) / 2, v1].map((v) => (
        <g key={v}>
          <line x1={left} x2={right} y1={py(v)} y2={py(v)} stroke="var(--rule)" />
          <text x={left - 6} y={py(v) + 4} fontSize={12} textAnchor="end">
            {written(v)}
          </text>
        </g>
      ))}
      {[m0, (m0 + m1) / 2, m1].map((m, i) => (
        <text
          key={m}
          x={px(m)}
          y={bottom + 17}
          fontSize={12}
          textAnchor={i === 0 ? "start" : i === 1 ? "middle" : "end"}
        >
          {show(m, "mass")}
        </text>
      ))}
      {points.map((p, i) => (
        <g key={p.name + String(i)}>
          {i === 0 && (
            <circle
              cx={px(p.figures.mass_g.typ)}
              cy={py(of(p.figures))}
              r={11}
              fill="none"
              stroke="var(--pick)"
              strokeWidth={2}
            />
          )}
          <text
            x={px(p.figures.mass_g.typ)}
            y={py(of(p.figures)) + 5}
            fontSize={15}
            textAnchor="middle"
            style={i === 0 ? { fill: "var(--pick)" } : undefined}
          >
            {MARKS[i % MARKS.length]}
          </text>
        </g>
      ))}
    </svg>
  );
}
