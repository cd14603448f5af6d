import { scaleLinear } from "d3-scale";
import { useId, type KeyboardEvent, type PointerEvent, type Ref } from "react";
import { Axes } from "./Axes";
import { Curve, type Series } from "./Curve";
import { spanOf } from "./scales";

const [LEFT, RIGHT, TOP, BOTTOM, HEIGHT] = [62, 16, 12, 38, 210];

interface Props {
  svg: Ref<SVGSVGElement>;
  width: number;
  title: string;
  written: (value: number) => string;
  x: number[];
  xTitle: string;
  xWritten: (x: number) => string;
  series: Series[];
  most?: number;
  cursor: number;
  setCursor: (x: number) => void;
  /** Values of the series at the cursor. */
  here: (number | null)[];
}

/** The curves on ruled axes, with a cursor that pointer and arrow keys move. */
export function PlotSheet(props: Props) {
  const { svg, width, title, written, x, xTitle, xWritten, series, most, cursor, setCursor, here } = props;
  const all = series.flatMap((s) => [...s.values, ...(s.band?.high ?? []), ...(s.band?.low ?? [])]);
  const [x0, x1] = [x[0]!, x.at(-1)!];
  const px = scaleLinear([x0, x1], [LEFT, width - RIGHT]).clamp(true);
  const py = scaleLinear(spanOf(all, most), [HEIGHT - BOTTOM, TOP]);
  const clip = useId();
  const inside = (v: number) => py(v) >= TOP - 1;
  const move = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    setCursor(Math.round(px.invert(e.clientX - box.left)));
  };
  const keys = (e: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    setCursor(Math.max(x0, Math.min(x1, cursor + by * (e.shiftKey ? 10 : 1))));
  };
  const told = series.map((s, i) => `${s.label} ${here[i] == null ? "none" : written(here[i])}`);
  return (
    <svg
      ref={svg}
      width={width}
      height={HEIGHT}
      className="block touch-pan-y"
      role="slider"
      tabIndex={0}
      aria-label={`${title}, place along the part`}
      aria-valuemin={x0}
      aria-valuemax={x1}
      aria-valuenow={cursor}
      aria-valuetext={`${xWritten(cursor)}: ${told.join(", ")}`}
      onPointerMove={move}
      onPointerDown={move}
      onKeyDown={keys}
    >
      <Axes x={px} y={py} xTicks={px.ticks(6)} xWritten={xWritten} yTicks={py.ticks(5)} yWritten={written} />
      <text x={width - RIGHT} y={HEIGHT - 4} fontSize={12} textAnchor="end">
        {xTitle}
      </text>
      <clipPath id={clip}>
        <rect x={LEFT} y={TOP - 1} width={width - LEFT - RIGHT} height={HEIGHT - TOP - BOTTOM + 2} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        {series.map((s) => (
          <Curve key={s.label} x={x} series={s} px={px} py={py} />
        ))}
      </g>
      <line x1={LEFT} x2={width - RIGHT} y1={py(0)} y2={py(0)} stroke="var(--ink)" />
      <line
        x1={px(cursor)}
        x2={px(cursor)}
        y1={TOP}
        y2={HEIGHT - BOTTOM}
        stroke="var(--pick)"
        strokeWidth={1.5}
      />
      {leaving(series, py.domain()[1]!).map(({ label, most: highest, at }, i) => (
        <text
          key={label}
          x={Math.min(Math.max(px(x[at]!), LEFT + 60), width - RIGHT - 60)}
          y={TOP + 12 + 14 * i}
          fontSize={12}
          textAnchor="middle"
          paintOrder="stroke"
          stroke="var(--sheet)"
          strokeWidth={3}
        >
          ↑ {label}: up to {written(highest)}
        </text>
      ))}
      {series.map((s, i) =>
        here[i] == null || !inside(here[i]) ? null : (
          <circle
            key={s.label}
            cx={px(cursor)}
            cy={py(here[i])}
            r={4}
            fill="var(--raised)"
            stroke={`var(--${s.tone})`}
            strokeWidth={2}
          />
        ),
      )}
    </svg>
  );
}

/** Curves that leave the picture at the top: how high they go, and at which station. */
export function leaving(series: Series[], top: number): { label: string; most: number; at: number }[] {
  return series
    .map((s) => {
      const most = Math.max(...s.values.map((v) => v ?? -Infinity));
      return { label: s.label, most, at: s.values.indexOf(most) };
    })
    .filter((s) => s.most > top * (1 + 1e-9));
}
