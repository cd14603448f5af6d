import { area, line } from "d3-shape";
import type { AxisScale } from "./scales";

export interface Series {
  label: string;
  values: (number | null)[];
  /** How it is drawn: told apart without colour. */
  line: "full" | "dashed" | "dotted" | "filled" | "thin";
  tone: "ink" | "pick" | "fail";
  /** 5 to 95 % of it. */
  band?: { low: (number | null)[]; high: (number | null)[] };
}

export const DASH = {
  full: undefined,
  filled: undefined,
  thin: undefined,
  dashed: "9 4",
  dotted: "2 4",
} as const;

interface Props {
  x: number[];
  series: Series;
  px: AxisScale;
  py: AxisScale;
}

interface Point {
  at: number;
  low: number | null;
  high: number | null;
}

const tenth = (v: number) => Math.round(v * 10) / 10;

/** One curve with its band; it stops where a value is not known. */
export function Curve({ x, series: s, px, py }: Props) {
  const colour = `var(--${s.tone})`;
  const points = x.map((at, i): Point => ({ at, low: 0, high: s.values[i] ?? null }));
  const curve = line<Point>(
    (p) => tenth(px(p.at)),
    (p) => tenth(py(p.high!)),
  ).defined((p) => p.high !== null);
  const between = area<Point>(
    (p) => tenth(px(p.at)),
    (p) => tenth(py(p.low!)),
    (p) => tenth(py(p.high!)),
  ).defined((p) => p.low !== null && p.high !== null);
  const band =
    s.band && x.map((at, i): Point => ({ at, low: s.band!.low[i] ?? null, high: s.band!.high[i] ?? null }));
  return (
    <g>
      {band && <path d={between(band) ?? ""} fill={colour} fillOpacity={0.13} />}
      {s.line === "filled" && <path d={between(points) ?? ""} fill={colour} fillOpacity={0.28} />}
      <path
        d={curve(points) ?? ""}
        stroke={colour}
        strokeWidth={s.line === "thin" ? 1 : 2}
        strokeDasharray={DASH[s.line]}
        fill="none"
      />
    </g>
  );
}
