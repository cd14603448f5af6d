import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { readAt } from "./interpolate";
import { saveCsv, savePng, saveSvg } from "./save";
import { useWidth } from "./useWidth";

export interface Series {
  label: string;
  values: (number | null)[];
  /** How it is drawn: told apart without colour. */
  line: "full" | "dashed" | "dotted" | "filled" | "thin";
  tone: "ink" | "pick" | "fail";
  /** 5 to 95 % of it. */
  band?: { low: (number | null)[]; high: (number | null)[] };
}

interface Props {
  title: string;
  /** Unit of the values, and a text for one. */
  unit: string;
  written: (value: number) => string;
  x: number[];
  xTitle: string;
  xWritten: (x: number) => string;
  series: Series[];
  /** No higher than this, however high a series goes. */
  most?: number;
  cursor: number;
  setCursor: (x: number) => void;
  fileName: string;
}

const [LEFT, RIGHT, TOP, BOTTOM, HEIGHT] = [62, 16, 12, 38, 210];
const DASH = { full: undefined, filled: undefined, thin: undefined, dashed: "9 4", dotted: "2 4" } as const;

/** Round numbers that span a range, about so many of them. */
export function ticks(low: number, high: number, about = 5): number[] {
  const span = high - low || 1;
  const raw = span / about;
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((s) => s * power).find((s) => s >= raw)!;
  const out = [];
  for (let v = Math.ceil(low / step - 1e-9) * step; v <= high + 1e-9 * span; v += step)
    out.push(Number(v.toPrecision(12)));
  return out;
}

/** Curves along the part on ruled axes: values at the cursor, a table behind, and files out. */
export function Plot(props: Props) {
  const { title, unit, written, x, xTitle, xWritten, series, most, cursor, setCursor, fileName } = props;
  const [ref, width] = useWidth<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const all = series.flatMap((s) => [...s.values, ...(s.band?.high ?? []), ...(s.band?.low ?? [])]);
  const known = all.filter((v): v is number => v !== null);
  const low = Math.min(0, ...known);
  const high = Math.max(low + 1e-9, Math.min(Math.max(...known, 0), most ?? Infinity));
  const [x0, x1] = [x[0]!, x.at(-1)!];
  const px = (v: number) => LEFT + ((v - x0) / (x1 - x0)) * (width - LEFT - RIGHT);
  const py = (v: number) =>
    HEIGHT - BOTTOM - ((Math.min(v, high) - low) / (high - low)) * (HEIGHT - TOP - BOTTOM);
  const path = (values: (number | null)[]) => {
    let pen = "M";
    return values
      .map((v, i) => {
        if (v === null) {
          pen = "M";
          return "";
        }
        const step = `${pen}${px(x[i]!).toFixed(1)} ${py(v).toFixed(1)}`;
        pen = "L";
        return step;
      })
      .join("");
  };
  const move = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const at = x0 + ((e.clientX - box.left - LEFT) / (width - LEFT - RIGHT)) * (x1 - x0);
    setCursor(Math.round(Math.max(x0, Math.min(x1, at))));
  };
  const keys = (e: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    setCursor(Math.max(x0, Math.min(x1, cursor + by * (e.shiftKey ? 10 : 1))));
  };
  const here = series.map((s) => readAt(x, s.values, cursor));
  const rows = x.map((v, i) => [v, ...series.map((s) => s.values[i] ?? null)]);
  const head = [xTitle, ...series.map((s) => `${s.label} (${unit})`)];
  return (
    <figure className="border-b border-rule pb-3">
      <figcaption className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 pt-3">
        <h3 className="font-semibold">
          {title} <span className="font-normal text-soft">{unit}</span>
        </h3>
        <span className="flex gap-1.5">
          <button type="button" className="key-button" onClick={() => void savePng(svg.current!, fileName)}>
            PNG<span className="sr-only"> of {title}</span>
          </button>
          <button type="button" className="key-button" onClick={() => saveSvg(svg.current!, fileName)}>
            SVG<span className="sr-only"> of {title}</span>
          </button>
          <button type="button" className="key-button" onClick={() => saveCsv(head, rows, fileName)}>
            CSV<span className="sr-only"> of {title}</span>
          </button>
        </span>
      </figcaption>
      <ul className="flex flex-wrap gap-x-5 text-[0.88rem]">
        {series.map((s, i) => (
          <li key={s.label} className="flex items-center gap-1.5">
            <svg width={26} height={10} aria-hidden="true">
              <line
                x1={0}
                x2={26}
                y1={5}
                y2={5}
                stroke={`var(--${s.tone})`}
                strokeWidth={s.line === "filled" ? 7 : s.line === "thin" ? 1 : 2.2}
                strokeOpacity={s.line === "filled" ? 0.45 : 1}
                strokeDasharray={DASH[s.line]}
              />
            </svg>
            {s.label}: <span className="figure-type">{here[i] == null ? "–" : written(here[i])}</span>
          </li>
        ))}
      </ul>
      <div ref={ref}>
        {width > 0 && (
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
            aria-valuetext={`${xWritten(cursor)}: ${series.map((s, i) => `${s.label} ${here[i] == null ? "none" : written(here[i])}`).join(", ")}`}
            onPointerMove={move}
            onPointerDown={move}
            onKeyDown={keys}
          >
            {ticks(low, high).map((v) => (
              <g key={v}>
                <line x1={LEFT} x2={width - RIGHT} y1={py(v)} y2={py(v)} stroke="var(--rule)" />
                <text x={LEFT - 7} y={py(v) + 4} fontSize={12} textAnchor="end">
                  {written(v)}
                </text>
              </g>
            ))}
            {ticks(x0, x1, 6).map((v) => (
              <g key={v}>
                <line
                  x1={px(v)}
                  x2={px(v)}
                  y1={HEIGHT - BOTTOM}
                  y2={HEIGHT - BOTTOM + 5}
                  stroke="var(--ink)"
                />
                <text x={px(v)} y={HEIGHT - BOTTOM + 18} fontSize={12} textAnchor="middle">
                  {xWritten(v)}
                </text>
              </g>
            ))}
            <text x={width - RIGHT} y={HEIGHT - 4} fontSize={12} textAnchor="end">
              {xTitle}
            </text>
            {series.map((s) => (
              <g key={s.label}>
                {s.band && <BandShape x={x} band={s.band} px={px} py={py} tone={s.tone} />}
                {s.line === "filled" && (
                  <path
                    d={`M${px(x0)} ${py(0)}${path(s.values).replace("M", "L")}L${px(x1)} ${py(0)}z`}
                    fill={`var(--${s.tone})`}
                    fillOpacity={0.28}
                  />
                )}
                <path
                  d={path(s.values)}
                  stroke={`var(--${s.tone})`}
                  strokeWidth={s.line === "thin" ? 1 : 2}
                  strokeDasharray={DASH[s.line]}
                  fill="none"
                />
              </g>
            ))}
            <path
              d={`M${LEFT} ${TOP}V${HEIGHT - BOTTOM}M${LEFT} ${py(0)}H${width - RIGHT}`}
              stroke="var(--ink)"
              fill="none"
            />
            <line
              x1={px(cursor)}
              x2={px(cursor)}
              y1={TOP}
              y2={HEIGHT - BOTTOM}
              stroke="var(--pick)"
              strokeWidth={1.5}
            />
            {here.map((v, i) =>
              v == null ? null : (
                <circle
                  key={series[i]!.label}
                  cx={px(cursor)}
                  cy={py(v)}
                  r={4}
                  fill="var(--raised)"
                  stroke={`var(--${series[i]!.tone})`}
                  strokeWidth={2}
                />
              ),
            )}
          </svg>
        )}
      </div>
      <details className="text-[0.85rem]">
        <summary className="label-type min-h-10 cursor-pointer pt-2">The same as a table</summary>
        <div className="max-h-72 overflow-auto">
          <table className="w-full">
            <caption className="sr-only">
              {title}, {unit}
            </caption>
            <thead>
              <tr className="border-b border-ink text-left">
                {head.map((h) => (
                  <th key={h} scope="col" className="px-2 py-1">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((r, i) => (
                <tr key={i} className="border-b border-rule">
                  {r.map((v, n) => (
                    <td key={n} className="figure-type px-2 py-0.5">
                      {v === null ? "–" : n === 0 ? xWritten(v) : written(v)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </details>
    </figure>
  );
}

interface BandProps {
  x: number[];
  band: NonNullable<Series["band"]>;
  px: (v: number) => number;
  py: (v: number) => number;
  tone: string;
}

function BandShape({ x, band, px, py, tone }: BandProps) {
  const known = x.flatMap((v, i) => {
    const [low, high] = [band.low[i], band.high[i]];
    return low == null || high == null ? [] : [{ v, low, high }];
  });
  const points = [
    ...known.map((k) => `${px(k.v).toFixed(1)},${py(k.high).toFixed(1)}`),
    ...known.map((k) => `${px(k.v).toFixed(1)},${py(k.low).toFixed(1)}`).reverse(),
  ];
  return <polygon points={points.join(" ")} fill={`var(--${tone})`} fillOpacity={0.13} />;
}
