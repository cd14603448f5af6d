import type { Schemas } from "../api/client";

interface Props {
  cut: Schemas["Cut"];
  width?: number;
  height?: number;
}

const path = (points: readonly (readonly number[])[], k: number, top: number) =>
  points.map(([x, z]) => `${(x! * k + 3).toFixed(1)},${((top - z!) * k + 3).toFixed(1)}`).join(" ");

/** A cross-section as a small picture: what it is made of at a glance, not to measure. */
export function CutSketch({ cut, width = 150, height = 46 }: Props) {
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
        <polygon key={`h${i}`} points={path(hole.points, k, top)} fill="var(--sheet)" />
      ))}
      {cut.skins.map((skin, i) => (
        <polyline
          key={`s${i}`}
          points={path(skin.points, k, top)}
          fill="none"
          stroke={skin.wall ? "var(--foam-edge)" : "var(--skin)"}
          strokeWidth={skin.wall ? Math.max(2, skin.thickness_mm * k) : 2}
        />
      ))}
      {cut.bars.map((bar, i) => {
        const [bw, bh] = [Math.max(3, bar.width_mm * k), Math.max(3, bar.height_mm * k)];
        const [x, z] = [bar.x_mm * k + 3, (top - bar.z_mm) * k + 3];
        return bar.shape === "flat" ? (
          <rect key={`b${i}`} x={x - bw / 2} y={z - bh / 2} width={bw} height={bh} fill="var(--ink)" />
        ) : (
          <circle key={`b${i}`} cx={x} cy={z} r={bw / 2} fill="var(--ink)" />
        );
      })}
    </svg>
  );
}
