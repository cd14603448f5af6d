import type { Band, Schemas } from "../../../api/client";
import { useWidth } from "../../../charts/useWidth";
import { bare, plain, show } from "../../../forms/units";

/** The free length of a part, held where it is loaded most and pushed at its end until it gives: true to scale. */
export function BentStrip({ toughness: t }: { toughness: Schemas["Toughness"] }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const up = t.direction === "up" ? 1 : -1;
  const what = t.folds ? "it folds" : "it first breaks";
  if (t.line.length === 0)
    return (
      <p className="mt-3 text-body leading-snug">
        Bent {t.direction}, its end curls right round before {what}.
      </p>
    );
  const xs = t.line.map((p) => p[0]);
  const zs = t.line.map((p) => p[1]);
  const [left, right] = [Math.min(0, ...xs), Math.max(t.strip_mm, ...xs)];
  const top = Math.max(...zs.map((z) => Math.abs(z)));
  const scale = Math.max(0.01, Math.min((width - 70) / (right - left), 150 / Math.max(top, 1)));
  const height = Math.max(46, top * scale + 40);
  const base = up > 0 ? height - 16 : 16;
  const px = (x: number) => 24 + (x - left) * scale;
  const pz = (z: number) => base - up * Math.abs(z) * scale;
  const end = t.line.at(-1)!;
  return (
    <figure ref={ref} className="mt-3 min-w-0">
      <figcaption className="text-body leading-snug">
        Bent {t.direction}: the end of a {show(t.strip_mm, "length")} strip moves{" "}
        <strong>{show(Math.abs(t.tip_mm ?? 0), "length")}</strong> and turns{" "}
        <strong>{show(t.tip_deg ?? 0, "angle", 2)}</strong> under {show(t.tip_N ?? 0, "force", 2)} before{" "}
        {what}.
      </figcaption>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          className="block"
          role="img"
          aria-label={`The part bent ${t.direction}, to scale`}
        >
          <path d={`M${px(0)} ${base}H${px(t.strip_mm)}`} stroke="var(--hair)" strokeDasharray="8 3 2 3" />
          <path
            d={`M${px(0)} ${base - 9}v18M${px(0) - 6} ${base - 9}v18`}
            stroke="var(--ink)"
            strokeWidth={2}
          />
          <polyline
            points={t.line.map((p) => `${px(p[0]).toFixed(1)},${pz(p[1]).toFixed(1)}`).join(" ")}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={3}
          />
          <circle cx={px(end[0])} cy={pz(end[1])} r={3.5} fill="var(--pick)" />
        </svg>
      )}
    </figure>
  );
}

/** A bow, drawn larger than it is, with its band. */
export function BowDrawing({ bow, span }: { bow: Band; span: number }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const most = Math.max(Math.abs(bow.low), Math.abs(bow.high), 0.05);
  const times = ((34 / most) * span) / Math.max(width - 40, 1);
  const rise = (mm: number) => (mm / most) * 34;
  const curve = (mm: number) => `M20 46Q${width / 2} ${46 - 2 * rise(mm)} ${width - 20} 46`;
  return (
    <figure ref={ref} className="min-w-0">
      {width > 0 && (
        <svg
          width={width}
          height={92}
          className="block"
          role="img"
          aria-label={`Built-in bow of ${show(bow.typ, "length", 2)}, exaggerated`}
        >
          <path
            d={`${curve(bow.low)}Q${width / 2} ${46 - 2 * rise(bow.high)} 20 46Z`}
            fill="var(--pick-wash)"
          />
          <path d={`M20 46H${width - 20}`} stroke="var(--hair)" strokeDasharray="8 3 2 3" />
          <path d={curve(bow.typ)} fill="none" stroke="var(--ink)" strokeWidth={3} />
          <text x={20} y={88} fontSize={12}>
            root
          </text>
          <text x={width - 20} y={88} fontSize={12} textAnchor="end">
            tip
          </text>
        </svg>
      )}
      <figcaption className="text-small text-soft">
        Drawn {plain(Math.max(times, 1), 1)} ×; range {bare(bow.low, "length", 2)} to{" "}
        {show(bow.high, "length", 2)}.
      </figcaption>
    </figure>
  );
}
