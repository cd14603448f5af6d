import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useWidth } from "../../charts/useWidth";
import { plain, show } from "../../forms/units";
import { hingeShapes } from "../../part/sketches/hingeShapes";
import { Piece } from "../../part/sketches/ScaledSketch";

/** The section through the hinge, true to scale and turning: red where the edges have met. */
export function HingeSection(props: {
  need: Schemas["HingeNeed"];
  throwing: Schemas["Throw"];
  /** Key and name of the hinge that is drawn; none where no hinge suits. */
  way: { key: string; name: string } | undefined;
}) {
  const { need, throwing, way } = props;
  const [angle, setAngle] = useState(0);
  const [ref, width] = useWidth<HTMLDivElement>();
  const t = need.thickness_mm;
  const side = 2.6 * t;
  const scale = Math.max(1, Math.min((width - 30) / (2 * side + need.gap_mm), 34, 64 / t));
  const height = 3.4 * t * scale + 24;
  const most = angle >= 0 ? throwing.up_deg : throwing.down_deg;
  const binds = most != null && Math.abs(angle) > most + 1e-6;
  const [cx, cy] = [width / 2, height * { top: 0.38, centre: 0.5, bottom: 0.62 }[need.line]];
  const shapes = hingeShapes(need, way?.key, angle);
  const path = (points: readonly (readonly [number, number])[]) =>
    points.map(([x, z]) => `${(cx + x * scale).toFixed(1)},${(cy - z * scale).toFixed(1)}`).join(" ");
  const limit = (v: number | null | undefined) => (v == null ? "free" : show(v, "angle", 3));
  return (
    <figure ref={ref} className="my-3 border-y border-rule py-2">
      {width > 0 && (
        <svg
          width={width}
          height={height}
          className="block"
          role="img"
          aria-label={`Hinge cross-section${way ? `, ${way.name}` : ""}, deflected ${plain(Math.abs(angle))}° ${angle >= 0 ? "up" : "down"}${binds ? ": binds" : ""}`}
        >
          {shapes.map((shape, i) => (
            <Piece
              key={i}
              shape={shape}
              path={path(shape.points)}
              k={scale}
              {...(i === 1 && binds && { stroke: "var(--fail)" })}
            />
          ))}
          <circle cx={cx} cy={cy} r={4.5} fill="var(--raised)" stroke="var(--ink)" strokeWidth={2} />
          {binds && (
            <text x={cx} y={height - 8} fontSize={13} textAnchor="middle" style={{ fill: "var(--fail)" }}>
              ✕ edges touch at {limit(most)}
            </text>
          )}
        </svg>
      )}
      <label className="flex items-center gap-3 text-body">
        <span className="whitespace-nowrap">
          Deflected {plain(Math.abs(angle))}° {angle >= 0 ? "up" : "down"}
        </span>
        <input
          type="range"
          min={-Math.max(need.down_deg, 5)}
          max={Math.max(need.up_deg, 5)}
          step={1}
          value={angle}
          onChange={(e) => setAngle(Number(e.target.value))}
          className="min-h-10 flex-1 accent-(--pick)"
          aria-label="Deflect the surface"
        />
      </label>
      <figcaption className="text-small text-soft">
        {way && `Drawn: ${way.name}. `}Up {limit(throwing.up_deg)}, down {limit(throwing.down_deg)} before the
        edges touch. {throwing.says}
      </figcaption>
    </figure>
  );
}
