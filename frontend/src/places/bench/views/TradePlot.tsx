import { scaleLinear } from "d3-scale";
import { Axes } from "../../../charts/Axes";
import { withRoom } from "../../../charts/scales";
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
            title: `Stiffness: ${unitOf("length")} of deflection; smaller is higher`,
            of: (f: Figures) => -f.bend_mm.typ,
            written: (v: number) => bare(-v, "length"),
          },
        ]
      : []),
    {
      title: "Strength (lowest margin)",
      of: (f: Figures) => f.margin.typ,
      written: (v: number) => bare(v, "plain"),
    },
  ];
  const each = panels.length === 2 && width > 620 ? width / 2 : width;
  return (
    <div ref={ref} className="mt-4 flex flex-wrap">
      {width > 0 && panels.map((p) => <Panel key={p.title} points={points} width={each} {...p} />)}
      <p className="w-full text-small text-soft">
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

function Panel({ points, width, title, of, written }: PanelProps) {
  const [left, right, top, bottom] = [52, width - 20, 30, HEIGHT - 34];
  const px = scaleLinear(withRoom(points.map((p) => p.figures.mass_g.typ)), [left, right]).nice(4);
  const py = scaleLinear(withRoom(points.map((p) => of(p.figures))), [bottom, top]).nice(4);
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
      <Axes
        x={px}
        y={py}
        xTicks={px.ticks(4)}
        xWritten={(m) => show(m, "mass")}
        yTicks={py.ticks(4)}
        yWritten={written}
      />
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
