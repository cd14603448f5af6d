import type { Estimate } from "../api/client";
import { cutAt, readAt } from "../drawing/interpolate";
import { toneOf } from "../drawing/tone";
import { useWidth } from "../drawing/useWidth";
import { plain } from "../shared/units";

interface Props {
  estimate: Estimate;
  cursor: number;
  selected: string | null;
  setSelected: (id: string | null) => void;
}

const SKIN_PX = 4;

/** The cut at the cursor, true to scale but for the skins, which are drawn legibly thick and labelled true. */
export function CutView({ estimate, cursor, selected, setSelected }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const cut = cutAt(estimate.stretches, cursor);
  const zs = cut.outline.map((p) => p[1]!);
  const [low, high] = [Math.min(...zs), Math.max(...zs)];
  const scale = Math.max(0.05, Math.min((width - 110) / cut.chord_mm, 150 / (high - low)));
  const height = (high - low) * scale + 84;
  const x0 = (width - cut.chord_mm * scale) / 2;
  const px = (x: number) => x0 + x * scale;
  const pz = (z: number) => 30 + (high - z) * scale;
  const path = (points: readonly (readonly number[])[], lift = 0) =>
    points.map((p) => `${px(p[0]!).toFixed(1)},${(pz(p[1]!) - lift).toFixed(1)}`).join(" ");
  const index = nearest(estimate.curves.y_mm, cursor);
  const shareOf = (id: string) => estimate.lines.find((l) => l.id === id)?.use[index] ?? 0;
  const nameOf = (id: string) => estimate.lines.find((l) => l.id === id)?.label ?? "";
  const layersOn: Record<string, number> = {};
  const numbers = estimate.lines.map((l) => l.id);
  const facts: [string, string][] = [
    [
      "bending stiffness EI",
      `${plain((readAt(estimate.curves.y_mm, estimate.curves.EI_N_mm2, cursor) ?? 0) / 1e6)} N·m²`,
    ],
    ["shear stiffness GA", `${plain(readAt(estimate.curves.y_mm, estimate.curves.GA_s_N, cursor) ?? 0)} N`],
    [
      "bent by",
      `${plain(Math.abs(readAt(estimate.curves.y_mm, estimate.curves.deflection_mm, cursor) ?? 0))} mm`,
    ],
    ["strength used", `${Math.round(100 * (estimate.curves.use[index] ?? 0))} %`],
  ];
  return (
    <section className="grid grid-cols-[minmax(0,1fr)_18.5rem] gap-x-6 border-t border-rule px-5 pt-2 pb-4 max-md:grid-cols-1">
      <div ref={ref} className="min-w-0">
        <h2 className="text-[0.87rem] font-semibold">
          Cut at {plain(cursor, 4)} mm{" "}
          <span className="font-normal text-soft">
            chord {plain(cut.chord_mm, 4)}, thickness {plain(cut.thickness_mm)} mm; skins drawn thick
          </span>
        </h2>
        {width > 0 && (
          <svg
            width={width}
            height={height}
            className="block"
            role="img"
            aria-label={`Cut at ${cursor} mm from the root`}
          >
            <polygon points={path(cut.outline)} fill={toneOf(shareOf("foam"))} stroke="var(--foam-edge)" />
            <line
              x1={px(0)}
              x2={px(cut.chord_mm)}
              y1={pz(0)}
              y2={pz(0)}
              stroke="var(--hair)"
              strokeDasharray="8 3 2 3"
            />
            {cut.skins.map((skin, i) => {
              const key = skin.face;
              const nth = (layersOn[key] = (layersOn[key] ?? 0) + 1);
              const out = (nth - 0.5) * SKIN_PX + 0.5;
              const lift = skin.face === "upper" ? out : skin.face === "lower" ? -out : 0;
              const on = selected === skin.line_id;
              const use = shareOf(skin.line_id);
              return (
                <g key={i} onClick={() => setSelected(skin.line_id)}>
                  <polyline
                    points={path(skin.points, lift)}
                    fill="none"
                    stroke={on ? "var(--pick)" : use > 1 ? "var(--fail)" : "var(--skin)"}
                    strokeWidth={SKIN_PX}
                  />
                </g>
              );
            })}
            {cut.bars.map((bar, i) => {
              const on = selected === bar.line_id;
              const use = shareOf(bar.line_id);
              const common = {
                fill: use > 1 ? "url(#over)" : "var(--ink)",
                stroke: on ? "var(--pick)" : "var(--raised)",
                strokeWidth: on ? 3 : 1,
                onClick: () => setSelected(bar.line_id),
              };
              const [w, h] = [Math.max(4, bar.width_mm * scale), Math.max(4, bar.height_mm * scale)];
              return bar.shape === "flat" ? (
                <rect
                  key={i}
                  x={px(bar.x_mm) - w / 2}
                  y={pz(bar.z_mm) - h / 2}
                  width={w}
                  height={h}
                  {...common}
                />
              ) : (
                <g key={i}>
                  <circle cx={px(bar.x_mm)} cy={pz(bar.z_mm)} r={w / 2} {...common} />
                  {bar.bore_mm > 0 && (
                    <circle
                      cx={px(bar.x_mm)}
                      cy={pz(bar.z_mm)}
                      r={(bar.bore_mm * scale) / 2}
                      fill="var(--sheet)"
                    />
                  )}
                </g>
              );
            })}
            <Labels {...{ cut, px, pz, high, low, width, nameOf, numbers }} />
            <path
              d={`M${px(0)} ${height - 8}h${cut.chord_mm * scale}m0 -4v8M${px(0)} ${height - 12}v8`}
              stroke="var(--ink)"
              fill="none"
            />
            <text x={px(cut.chord_mm) + 8} y={height - 4} fontSize={12}>
              {plain(cut.chord_mm, 4)}
            </text>
          </svg>
        )}
        <dl className="mt-1 flex flex-wrap gap-x-6 gap-y-0.5 text-[0.85rem]">
          {facts.map(([name, value]) => (
            <div key={name} className="flex gap-1.5">
              <dt className="text-soft">{name}</dt>
              <dd className="font-semibold">{value}</dd>
            </div>
          ))}
        </dl>
      </div>
      <div>
        <h2 className="border-b border-ink pb-1 text-[0.87rem] font-semibold">What gives, in order</h2>
        <ol>
          {estimate.failures.slice(0, 5).map((f, i) => (
            <li
              key={f.kind + f.line_id + f.where}
              className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 border-b border-rule py-1.5 text-[0.87rem] leading-tight"
            >
              <span className={i === 0 ? "font-semibold" : ""}>
                {f.sentence}
                <span className="text-soft">
                  {" "}
                  {f.breaks ? "parts" : "gives"} at {Math.round(f.at_mm)} mm
                </span>
              </span>
              <span className="text-right">
                <span className="figure-type">{plain(f.holds.typ)} ×</span>
                <span className="block text-[0.8rem] text-soft">
                  {plain(f.holds.low, 2)}–{plain(f.holds.high, 2)}
                </span>
              </span>
            </li>
          ))}
        </ol>
      </div>
    </section>
  );
}

function nearest(ys: number[], y: number): number {
  let best = 0;
  ys.forEach((v, i) => {
    if (Math.abs(v - y) < Math.abs(ys[best]! - y)) best = i;
  });
  return best;
}

interface LabelsProps {
  cut: ReturnType<typeof cutAt>;
  px: (x: number) => number;
  pz: (z: number) => number;
  high: number;
  low: number;
  width: number;
  nameOf: (id: string) => string;
  numbers: string[];
}

/** Each layer's number and true thickness, above the cut for what lies in its upper half, below for the rest. */
function Labels({ cut, px, pz, high, low, width, nameOf, numbers }: LabelsProps) {
  const middle = (z: number) => z >= 0.5 * (high + low);
  const spots = [
    ...cut.bars.map((b) => ({
      id: b.line_id,
      x: b.x_mm,
      z: b.z_mm,
      up: b.side === "upper" || (b.side === "middle" && middle(b.z_mm)),
      text: size(b),
    })),
    ...cut.skins
      .filter((s) => s.face === "upper" || s.face === "lower")
      .map((s) => {
        const whole = s.points.at(-1)![0]! - s.points[0]![0]! > 0.98 * cut.chord_mm;
        const p = s.points[Math.floor(s.points.length * (whole ? 0.72 : 0.5))]!;
        return {
          id: s.line_id,
          x: p[0]!,
          z: p[1]!,
          up: s.face === "upper",
          text: `${plain(s.thickness_mm)} mm`,
        };
      }),
  ];
  const row = (up: boolean) => {
    const mine = spots.filter((s) => s.up === up).sort((a, b) => a.x - b.x);
    let edge = 0;
    return mine.map((s) => {
      const text = `${numbers.indexOf(s.id)} · ${s.text}`;
      const w = text.length * 6.2 + 10;
      const left = Math.min(Math.max(edge, px(s.x) - w / 2), width - w);
      edge = left + w + 4;
      const y = up ? 14 : pz(low) + 34;
      return (
        <g key={s.id + String(up)}>
          <title>{nameOf(s.id)}</title>
          <path
            d={`M${left + w / 2} ${up ? y + 4 : y - 11}L${px(s.x)} ${pz(s.z)}`}
            stroke="var(--ink)"
            strokeWidth={0.8}
          />
          <text x={left + w / 2} y={y} fontSize={12} textAnchor="middle">
            {text}
          </text>
        </g>
      );
    });
  };
  return (
    <g pointerEvents="none">
      {row(true)}
      {row(false)}
    </g>
  );
}

function size(bar: { shape: string; width_mm: number; height_mm: number; bore_mm: number }): string {
  if (bar.shape === "flat") return `${plain(bar.width_mm)} × ${plain(bar.height_mm)} mm`;
  return bar.bore_mm > 0
    ? `⌀ ${plain(bar.width_mm)}/${plain(bar.bore_mm)} mm`
    : `⌀ ${plain(bar.width_mm)} mm`;
}
