import type { AxisScale } from "./scales";

interface Props {
  /** From left to right, in points of the picture. */
  x: AxisScale;
  /** From bottom to top. */
  y: AxisScale;
  /** Where x is ruled, and how it is written. */
  xTicks: number[];
  xWritten: (v: number) => string;
  yTicks: number[];
  yWritten: (v: number) => string;
  /** Lines across for x as well. */
  grid?: boolean;
}

/** Rulings and numbers of two axes, and the axes themselves. */
export function Axes({ x, y, xTicks, xWritten, yTicks, yWritten, grid = false }: Props) {
  const [left = 0, right = 0] = x.range();
  const [bottom = 0, top = 0] = y.range();
  return (
    <g fontSize={12}>
      {yTicks.map((v) => (
        <g key={v}>
          <line x1={left} x2={right} y1={y(v)} y2={y(v)} stroke="var(--rule)" />
          <text x={left - 7} y={y(v) + 4} textAnchor="end">
            {yWritten(v)}
          </text>
        </g>
      ))}
      {xTicks.map((v) => (
        <g key={v}>
          <line
            x1={x(v)}
            x2={x(v)}
            y1={grid ? top : bottom}
            y2={bottom + 5}
            stroke={grid ? "var(--rule)" : "var(--ink)"}
          />
          <text x={x(v)} y={bottom + 18} textAnchor="middle">
            {xWritten(v)}
          </text>
        </g>
      ))}
      <path d={`M${left} ${top}V${bottom}H${right}`} stroke="var(--ink)" fill="none" />
    </g>
  );
}
