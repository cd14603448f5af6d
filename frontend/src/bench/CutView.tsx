import type { Estimate } from "../api/client";
import { cutAt, nearest } from "../drawing/interpolate";
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
  const scale = Math.max(0.05, Math.min((width - 110) / cut.chord_mm, 70 / (high - low)));
  const height = (high - low) * scale + 84;
  const x0 = (width - cut.chord_mm * scale) / 2;
  const px = (x: number) => x0 + x * scale;
  const pz = (z: number) => 26 + (high - z) * scale;
  const path = (points: readonly (readonly number[])[], lift: (x: number) => number = () => 0) =>
    points.map((p) => `${px(p[0]!).toFixed(1)},${(pz(p[1]!) - lift(p[0]!)).toFixed(1)}`).join(" ");
  const index = nearest(estimate.curves.y_mm, cursor);
  const shareOf = (id: string) => estimate.lines.find((l) => l.id === id)?.use[index] ?? 0;
  const nameOf = (id: string) => estimate.lines.find((l) => l.id === id)?.label ?? "";
  const numbers = ["foam", ...estimate.lines.map((l) => l.id).filter((id) => id !== "foam")];
  return (
    <section className="border-t border-rule px-5 pt-1.5 pb-1">
      <div ref={ref} className="min-w-0">
        <h2 className="text-[0.87rem] font-semibold">
          Cut at {plain(cursor, 4)} mm{" "}
          <span className="font-normal text-soft">
            chord {plain(cut.chord_mm, 4)}, thickness {plain(cut.thickness_mm)} mm; skins drawn thick; blue
            line: where a load does not twist
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
            <polygon
              points={path(cut.outline)}
              fill={cut.hollow ? "none" : toneOf(shareOf("foam"))}
              stroke={cut.hollow ? "var(--hair)" : "var(--foam-edge)"}
              strokeDasharray={cut.hollow ? "3 4" : undefined}
            />
            {cut.holes.map((hole, i) => (
              <polygon
                key={`h${i}`}
                points={path(hole.points)}
                fill="var(--sheet)"
                stroke={selected === hole.line_id ? "var(--pick)" : "var(--foam-edge)"}
                strokeWidth={selected === hole.line_id ? 2.4 : 1}
                onClick={() => setSelected(hole.line_id)}
              />
            ))}
            <line
              x1={px(0)}
              x2={px(cut.chord_mm)}
              y1={pz(0)}
              y2={pz(0)}
              stroke="var(--hair)"
              strokeDasharray="8 3 2 3"
            />
            {cut.skins.map((skin, i) => {
              const side = skin.face === "upper" ? 1 : skin.face === "lower" ? -1 : 0;
              const beneath = cut.skins.slice(0, i).filter((s) => s.face === skin.face && !s.wall);
              const thick = Math.max(SKIN_PX, skin.thickness_mm * scale);
              const lift = (x: number) =>
                (skin.wall ? 0 : side * SKIN_PX) *
                (0.5 + beneath.filter((s) => x >= s.points[0]![0]! && x <= s.points.at(-1)![0]!).length);
              const on = selected === skin.line_id;
              const use = shareOf(skin.line_id);
              return (
                <g key={i} onClick={() => setSelected(skin.line_id)}>
                  <polyline
                    points={path(skin.points, lift)}
                    fill="none"
                    stroke={
                      on
                        ? "var(--pick)"
                        : use > 1
                          ? "var(--fail)"
                          : skin.wall
                            ? "var(--foam-edge)"
                            : "var(--skin)"
                    }
                    strokeWidth={skin.wall ? thick : SKIN_PX}
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
            {cut.cords.map((cord, i) => (
              <circle
                key={`c${i}`}
                cx={px(cord.x_mm)}
                cy={pz(cord.z_mm)}
                r={4}
                fill="var(--raised)"
                stroke={selected === cord.line_id ? "var(--pick)" : "var(--ink)"}
                strokeWidth={2}
                onClick={() => setSelected(cord.line_id)}
              >
                <title>{nameOf(cord.line_id)}</title>
              </circle>
            ))}
            <TwistLine
              x={px(estimate.curves.shear_centre_mm[index] ?? 0)}
              top={pz(high) + 3}
              bottom={pz(low) - 3}
              width={width}
            />
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
      </div>
    </section>
  );
}

/** The line through the centre of twist: a load up or down through it does not twist the part. */
function TwistLine({ x, top, bottom, width }: { x: number; top: number; bottom: number; width: number }) {
  if (x < 8 || x > width - 8) return null;
  return (
    <g stroke="var(--pick)" fill="none" strokeWidth={1.6} pointerEvents="none">
      <title>line through the centre of twist</title>
      <path d={`M${x} ${top}V${bottom}`} strokeDasharray="10 3 2 3" />
      <path d={`M${x - 4} ${top}h8M${x - 4} ${bottom}h8`} />
    </g>
  );
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
        const whole = s.points.at(-1)![0]! - s.points[0]![0]! > 0.9 * cut.chord_mm;
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
