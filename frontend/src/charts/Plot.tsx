import { useRef, type RefObject } from "react";
import { DASH, type Series } from "./Curve";
import { readAt } from "./interpolate";
import { PlotSheet } from "./PlotSheet";
import { saveCsv, savePng, saveSvg } from "./save";
import { useWidth } from "./useWidth";
import { ValueTable } from "./ValueTable";

export type { Series } from "./Curve";

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

/** Curves along the part on ruled axes: values at the cursor, a table behind, and files out. */
export function Plot(props: Props) {
  const { title, unit, written, x, xTitle, xWritten, series, cursor, fileName } = props;
  const [ref, width] = useWidth<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const here = series.map((s) => readAt(x, s.values, cursor));
  const rows = x.map((v, i) => [v, ...series.map((s) => s.values[i] ?? null)]);
  const head = [xTitle, ...series.map((s) => `${s.label} (${unit})`)];
  return (
    <figure className="border-b border-rule pb-3">
      <figcaption className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 pt-3">
        <h3 className="font-semibold">
          {title} <span className="font-normal text-soft">{unit}</span>
        </h3>
        <FilesOut {...{ title, fileName, svg }} csv={() => saveCsv(head, rows, fileName)} />
      </figcaption>
      <ul className="flex flex-wrap gap-x-5 text-small">
        {series.map((s, i) => (
          <li key={s.label} className="flex items-center gap-1.5">
            <LineSample series={s} />
            {s.label}: <span className="figure-type">{here[i] == null ? "–" : written(here[i])}</span>
          </li>
        ))}
      </ul>
      <div ref={ref}>{width > 0 && <PlotSheet {...props} {...{ svg, width, here }} />}</div>
      <ValueTable
        title={`${title}, ${unit}`}
        {...{ head, rows }}
        written={(v, column) => (column === 0 ? xWritten(v) : written(v))}
      />
    </figure>
  );
}

interface FilesProps {
  title: string;
  fileName: string;
  svg: RefObject<SVGSVGElement | null>;
  csv: () => void;
}

function FilesOut({ title, fileName, svg, csv }: FilesProps) {
  const ways = [
    ["PNG", () => void savePng(svg.current!, fileName)],
    ["SVG", () => saveSvg(svg.current!, fileName)],
    ["CSV", csv],
  ] as const;
  return (
    <span className="flex gap-1.5">
      {ways.map(([name, save]) => (
        <button key={name} type="button" className="key-button" onClick={save}>
          {name}
          <span className="sr-only"> of {title}</span>
        </button>
      ))}
    </span>
  );
}

function LineSample({ series: s }: { series: Series }) {
  return (
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
  );
}
