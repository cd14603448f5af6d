import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useWidth } from "../../charts/useWidth";
import { plain, show } from "../../forms/units";

/** The section through the hinge, true to scale and turning: red where the edges have met. */
export function HingeSection(props: { need: Schemas["HingeNeed"]; throwing: Schemas["Throw"] }) {
  const { need, throwing } = props;
  const [angle, setAngle] = useState(0);
  const [ref, width] = useWidth<HTMLDivElement>();
  const t = need.thickness_mm;
  const side = 2.6 * t;
  const scale = Math.max(1, Math.min((width - 30) / (2 * side + need.gap_mm), 34, 64 / t));
  const height = 3.4 * t * scale + 24;
  const pivot = { top: 0, centre: t / 2, bottom: t }[need.line];
  const most = angle >= 0 ? throwing.up_deg : throwing.down_deg;
  const binds = most != null && Math.abs(angle) > most + 1e-6;
  const [cx, cy] = [width / 2, height * { top: 0.38, centre: 0.5, bottom: 0.62 }[need.line]];
  // z down from the hinge line; each edge leans by half of the bevel on every face that is away from the line
  const lean = Math.tan((((need.line === "centre" ? 0.5 : 1) * need.bevel_deg) / 2) * (Math.PI / 180));
  const face = (z: number) => need.gap_mm / 2 + Math.abs(z) * lean;
  const [top, bottom] = [-pivot, t - pivot];
  const shape: [number, number][] = [
    [Math.min(face(top), side), top],
    [Math.min(face(0), side), 0],
    [Math.min(face(bottom), side), bottom],
    [side, bottom],
    [side, top],
  ];
  const turn = (-angle * Math.PI) / 180;
  const turned = shape.map(([x, z]) => [
    x * Math.cos(turn) - z * Math.sin(turn),
    x * Math.sin(turn) + z * Math.cos(turn),
  ]);
  const path = (points: number[][]) =>
    points.map((p) => `${(cx + p[0]! * scale).toFixed(1)},${(cy + p[1]! * scale).toFixed(1)}`).join(" ");
  const wing = shape.map(([x, z]) => [-x, z]);
  const limit = (v: number | null | undefined) => (v == null ? "free" : show(v, "angle", 3));
  return (
    <figure ref={ref} className="my-3 border-y border-rule py-2">
      {width > 0 && (
        <svg
          width={width}
          height={height}
          className="block"
          role="img"
          aria-label={`Hinge cross-section, deflected ${plain(Math.abs(angle))}° ${angle >= 0 ? "up" : "down"}${binds ? ": binds" : ""}`}
        >
          <polygon points={path(wing)} fill="var(--foam)" stroke="var(--foam-edge)" strokeWidth={1.4} />
          <polygon
            points={path(turned)}
            fill="var(--foam)"
            fillOpacity={0.75}
            stroke={binds ? "var(--fail)" : "var(--foam-edge)"}
            strokeWidth={binds ? 3 : 1.4}
          />
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
        Up {limit(throwing.up_deg)}, down {limit(throwing.down_deg)} before the edges touch. {throwing.says}
      </figcaption>
    </figure>
  );
}
