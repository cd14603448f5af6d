import type { Schemas } from "../api/client";

interface Props {
  cut: Schemas["Cut"];
  width?: number;
  height?: number;
  /** The item of the lay-up that stands out; the rest is faint. */
  only?: string;
}

const path = (points: readonly (readonly number[])[], k: number, top: number) =>
  points.map(([x, z]) => `${(x! * k + 3).toFixed(1)},${((top - z!) * k + 3).toFixed(1)}`).join(" ");

/** A cross-section as a small picture: what it is made of at a glance, not to measure. */
export function CutSketch({ cut, width = 150, height = 46, only }: Props) {
  const faint = (id: string) => (only !== undefined && id !== only ? 0.25 : 1);
  const own = (id: string, usual: string) => (id === only ? "var(--pick)" : usual);
  const zs = cut.outline.map((p) => p[1]);
  const [top, low] = [Math.max(...zs), Math.min(...zs)];
  const k = Math.min((width - 6) / cut.chord_mm, (height - 6) / (top - low || 1));
  const [w, h] = [cut.chord_mm * k + 6, (top - low) * k + 6];
  return (
    <svg width={w} height={h} aria-hidden="true" className="max-w-full">
      <polygon
        points={path(cut.outline, k, top)}
        fill={cut.hollow ? "var(--sheet)" : "var(--foam)"}
        stroke="var(--foam-edge)"
        strokeWidth={1}
      />
      {cut.holes.map((hole, i) => (
        <polygon
          key={`h${i}`}
          points={path(hole.points, k, top)}
          fill="var(--sheet)"
          stroke={own(hole.line_id, "none")}
          strokeWidth={2}
        />
      ))}
      {cut.skins.map((skin, i) => (
        <polyline
          key={`s${i}`}
          points={path(skin.points, k, top)}
          fill="none"
          stroke={own(skin.line_id, skin.wall ? "var(--foam-edge)" : "var(--skin)")}
          opacity={faint(skin.line_id)}
          strokeWidth={skin.wall ? Math.max(2, skin.thickness_mm * k) : 2}
        />
      ))}
      {cut.bars.map((bar, i) => {
        const [bw, bh] = [Math.max(3, bar.width_mm * k), Math.max(3, bar.height_mm * k)];
        const [x, z] = [bar.x_mm * k + 3, (top - bar.z_mm) * k + 3];
        const look = { fill: own(bar.line_id, "var(--ink)"), opacity: faint(bar.line_id) };
        return bar.shape === "flat" ? (
          <rect key={`b${i}`} x={x - bw / 2} y={z - bh / 2} width={bw} height={bh} {...look} />
        ) : (
          <circle key={`b${i}`} cx={x} cy={z} r={bw / 2} {...look} />
        );
      })}
      {cut.things.map((thing, i) => (
        <rect
          key={`t${i}`}
          x={(thing.x_mm - thing.width_mm / 2) * k + 3}
          y={(top - thing.z_mm - thing.height_mm / 2) * k + 3}
          width={Math.max(3, thing.width_mm * k)}
          height={Math.max(3, thing.height_mm * k)}
          fill="none"
          stroke={own(thing.line_id, "var(--ink)")}
          opacity={faint(thing.line_id)}
        />
      ))}
      {cut.cords.map((cord, i) => (
        <circle
          key={`c${i}`}
          cx={cord.x_mm * k + 3}
          cy={(top - cord.z_mm) * k + 3}
          r={2}
          fill={own(cord.line_id, "var(--skin)")}
          opacity={faint(cord.line_id)}
        />
      ))}
    </svg>
  );
}

/** A cross-section in which an item of the lay-up can be seen: as near as can be to the place where parts are mostly
 * loaded most; null where it is in none, as a joint or a hinge. */
export function cutWith(stretches: Schemas["Stretch"][], id: string): Schemas["Cut"] | null {
  const has = (cut: Schemas["Cut"]) =>
    [cut.skins, cut.bars, cut.holes, cut.cords, cut.things].some((all) =>
      all.some((one) => one.line_id === id),
    );
  const at = 0.25 * (stretches.at(-1)?.tip_side.y_mm ?? 0);
  const far = (cut: Schemas["Cut"]) => Math.abs(cut.y_mm - at);
  const found = stretches.flatMap((s) => [s.root_side, s.tip_side]).filter(has);
  return found.sort((a, b) => far(a) - far(b))[0] ?? null;
}
