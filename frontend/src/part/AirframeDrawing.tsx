import type { Airframe, Layer, Part } from "../api/client";

type Side = 1 | -1;
type Point = [number, number];

/** On which sides of the airframe a part lies. */
export function sidesOf(part: Part): Side[] {
  if (part.hand === "both") return [-1, 1];
  return [part.hand === "left" ? -1 : 1];
}

/** A place of a part in the airframe, mm: along it from its root, and across it in % of the chord; `x` behind the datum,
 * `y` out to the right. A fuselage's length runs aft. */
export function placeIn(part: Part, side: Side, along: number, percent: number): Point {
  const { x_mm, y_mm, dihedral_deg } = part.place;
  const share = along / part.span_mm;
  const chord = part.root_chord_mm + share * (part.tip_chord_mm - part.root_chord_mm);
  if (part.kind === "fuselage") return [x_mm + along, side * y_mm + (percent / 100 - 0.5) * chord];
  const out = along * Math.cos((dihedral_deg * Math.PI) / 180);
  return [x_mm + share * part.tip_setback_mm + (percent / 100) * chord, side * (y_mm + out)];
}

/** Where along a part a mark of damage lies, mm: the middle of one that has a length. */
export function alongOf(mark: Part["damage"][number], part: Part): number {
  if ("at_mm" in mark && mark.at_mm != null) return mark.at_mm;
  return "start_mm" in mark ? 0.5 * ((mark.start_mm ?? 0) + (mark.end_mm ?? part.span_mm)) : 0;
}

/** Corners of a part in the airframe, mm. */
export function corners(part: Part, side: Side): Point[] {
  const at = (along: number, percent: number) => placeIn(part, side, along, percent);
  return [at(0, 0), at(part.span_mm, 0), at(part.span_mm, 100), at(0, 100)];
}

/** The extent of what is drawn: foremost, rearmost, leftmost and rightmost place, mm. Test pieces lie on the bench. */
export function extentOf(document: Airframe): { x0: number; x1: number; y0: number; y1: number } {
  const parts = document.parts ?? [];
  const flying = parts.filter((p) => p.kind !== "plank");
  const all = (flying.length ? flying : parts).flatMap((p) => sidesOf(p).flatMap((s) => corners(p, s)));
  if (!all.length) return { x0: 0, x1: 0, y0: 0, y1: 0 };
  const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
  return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
}

interface Props {
  document: Airframe;
  /** Pixels per millimetre; all airframes of a page are drawn to one scale. */
  scale: number;
}

/** An airframe from above, its nose up, with what is in it: spars, strips, skins, control surfaces, damage. */
export function AirframeDrawing({ document, scale }: Props) {
  const { x0, x1, y0, y1 } = extentOf(document);
  const parts = document.parts ?? [];
  const flying = parts.filter((p) => p.kind !== "plank");
  const drawn = [...(flying.length ? flying : parts)].sort((a, b) => RANK[a.kind] - RANK[b.kind]);
  const [w, h] = [(y1 - y0) * scale + 8, (x1 - x0) * scale + 8];
  const to = ([x, y]: Point): Point => [(y - y0) * scale + 4, (x - x0) * scale + 4];
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      style={{ width: w, maxWidth: "100%", height: "auto" }}
      role="img"
      aria-label={`${document.name} from above, nose up`}
    >
      {drawn.flatMap((part) =>
        sidesOf(part).map((side) => <Drawn key={part.id + side} {...{ part, side, to, scale }} />),
      )}
    </svg>
  );
}

const RANK: Record<Part["kind"], number> = { fuselage: 0, plank: 0, wing: 1, tail: 2, surface: 3 };

interface DrawnProps {
  part: Part;
  side: Side;
  to: (p: Point) => Point;
  scale: number;
}

const path = (points: Point[]) => points.map((p) => p.map((v) => v.toFixed(1)).join(",")).join(" ");

function Drawn({ part, side, to, scale }: DrawnProps) {
  const at = (along: number, percent: number) => to(placeIn(part, side, along, percent));
  const outline = corners(part, side).map(to);
  const covered = (part.layers ?? []).some((la) => la.enabled !== false && la.type === "film");
  return (
    <g>
      <polygon points={path(outline)} fill="var(--foam)" stroke="var(--ink)" strokeWidth={1} />
      {covered && part.kind !== "fuselage" && (
        <polygon
          points={path([
            at(0.015 * part.span_mm, 4),
            at(0.985 * part.span_mm, 4),
            at(0.985 * part.span_mm, 96),
            at(0.015 * part.span_mm, 96),
          ])}
          fill="none"
          stroke="var(--skin)"
          strokeDasharray="3 2"
          strokeWidth={0.9}
        />
      )}
      {[part.control, part.second_control].map(
        (c, i) =>
          c && (
            <polyline
              key={i}
              points={path([
                at(c.start_mm, 100),
                at(c.start_mm, 100 - c.chord_percent),
                at(c.end_mm, 100 - c.chord_percent),
                at(c.end_mm, 100),
              ])}
              fill="none"
              stroke="var(--hair)"
              strokeWidth={1}
            />
          ),
      )}
      {(part.layers ?? []).map((la) => (
        <Line key={la.id} layer={la} {...{ part, at, scale }} />
      ))}
      {(part.damage ?? []).map((m) => {
        const along = alongOf(m, part);
        const [a, b] = [at(along, -8), at(along, 108)];
        const [dx, dy] = [(b[0] - a[0]) / 4, (b[1] - a[1]) / 4];
        const zig = [0, 1, 2, 3, 4].map((k): Point => [a[0] + k * dx + (k % 2 ? 2.5 : -2.5), a[1] + k * dy]);
        return <polyline key={m.id} points={path(zig)} fill="none" stroke="var(--fail)" strokeWidth={2} />;
      })}
    </g>
  );
}

/** A spar or strip where it lies; webs as spars. */
function Line({
  layer,
  part,
  at,
  scale,
}: {
  layer: Layer;
  part: Part;
  at: (y: number, p: number) => Point;
  scale: number;
}) {
  if (layer.enabled === false) return null;
  const spar = layer.type === "bar" || (layer.type === "wall" && layer.face === "web");
  if (!spar && layer.type !== "strip") return null;
  const [from, end] = [layer.start_mm ?? 0, layer.end_mm ?? part.span_mm];
  const share = (y: number) =>
    (layer.root_percent ?? 30) +
    (y / part.span_mm) * ((layer.tip_percent ?? 30) - (layer.root_percent ?? 30));
  return (
    <polyline
      points={path([at(from, share(from)), at(end, share(end))])}
      fill="none"
      stroke={spar ? "var(--ink)" : "var(--skin)"}
      strokeOpacity={spar ? 1 : 0.45}
      strokeWidth={spar ? 1.8 : Math.max(1.5, (layer.type === "strip" ? (layer.width_mm ?? 25) : 25) * scale)}
    />
  );
}
