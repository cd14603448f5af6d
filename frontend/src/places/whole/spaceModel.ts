import type { Estimate, Part, Schemas } from "../../api/client";
import { cutAt, readAt } from "../../charts/interpolate";
import { alongOf, sidesOf } from "../../part/AirframeDrawing";

export type Spot = readonly [x: number, y: number, z: number];

type Point = readonly [number, number];

export interface Face {
  spots: Spot[];
  tone: "foam" | "wall" | "skin" | "spar" | "hinge" | "damage";
  /** A place within the part, by which one tells the outer side of the face. */
  inside?: Spot;
}

/** How far apart stations are at most, as a share of the span. */
const STATIONS = 14;
/** Points of an outline that are drawn. */
const AROUND = 20;

const every = <T>(all: T[], most: number): T[] => {
  const step = Math.max(1, Math.floor(all.length / most));
  return all.filter((_, i) => i % step === 0);
};

/** Places along a part where it is drawn: evenly, and wherever something starts or ends. */
export function stationsOf(estimate: Estimate): number[] {
  const ends = estimate.stretches.flatMap((s) => [s.root_side.y_mm, s.tip_side.y_mm]);
  const even = Array.from({ length: STATIONS + 1 }, (_, i) => (i / STATIONS) * estimate.span_mm);
  const sorted = [...ends, ...even].sort((a, b) => a - b);
  return sorted.filter((y, i) => i === 0 || y - sorted[i - 1]! > 0.01 * estimate.span_mm);
}

/** A cross-section where the part is bent and twisted: how far it is lifted, mm, and turned nose up, degrees. */
interface Station {
  cut: Schemas["Cut"];
  lift: number;
  twist: number;
}

/** Share of the chord about which a cross-section is drawn turned. */
const TURNS_AT = 0.3;

/** A point of a cross-section in the airframe, mm: behind the datum, to the right, up. */
export function spotIn(part: Part, side: 1 | -1, { cut, lift, twist }: Station, from: Point): Spot {
  const a = (twist * Math.PI) / 180;
  const about = TURNS_AT * cut.chord_mm;
  const [x, z] = [
    about + (from[0] - about) * Math.cos(a) + from[1] * Math.sin(a),
    from[1] * Math.cos(a) - (from[0] - about) * Math.sin(a),
  ];
  const { x_mm, y_mm, z_mm, dihedral_deg } = part.place;
  if (part.kind === "fuselage")
    return [x_mm + cut.y_mm, side * (y_mm + x - cut.chord_mm / 2), z_mm + z + lift];
  const rise = (dihedral_deg * Math.PI) / 180;
  const [sin, cos] = [Math.sin(rise), Math.cos(rise)];
  const up = z + lift;
  return [
    x_mm + cut.setback_mm + x,
    side * (y_mm + cut.y_mm * cos - up * sin),
    z_mm + cut.y_mm * sin + up * cos,
  ];
}

/** A part on each of its sides: its surface, what is bonded on it, the spars in it; bent by so many times the load. */
export function facesOf(part: Part, estimate: Estimate, load: number): Face[] {
  const { curves } = estimate;
  const station = (y: number): Station => ({
    cut: cutAt(estimate.stretches, y),
    lift: load * (readAt(curves.y_mm, curves.deflection_mm, y) ?? 0),
    twist: load * (readAt(curves.y_mm, curves.twist_deg, y) ?? 0),
  });
  const stations = stationsOf(estimate).map(station);
  const faces: Face[] = [];
  for (const side of sidesOf(part)) {
    const spots = (at: Station, points: Point[]) => points.map((p) => spotIn(part, side, at, p));
    for (const { tone, ways } of linesOn(part))
      faces.push({
        tone,
        spots: ways.map(([y, share]) => {
          const at = station(y);
          const x = share * at.cut.chord_mm;
          return spotIn(part, side, at, [x, topAt(at.cut.outline, x)]);
        }),
      });
    const outlines = stations.map((s) => spots(s, every(s.cut.outline, AROUND)));
    const tone = stations[0]!.cut.hollow ? "wall" : "foam";
    faces.push({ spots: outlines[0]!, tone }, { spots: outlines.at(-1)!, tone });
    for (let k = 1; k < stations.length; k++) {
      const [here, next] = [stations[k - 1]!, stations[k]!];
      const inside = middleOf([...outlines[k - 1]!, ...outlines[k]!]);
      faces.push(...between(outlines[k - 1]!, outlines[k]!, { tone, inside }, true));
      for (const skin of here.cut.skins.filter((s) => !s.wall)) {
        const on = next.cut.skins.find((s) => s.line_id === skin.line_id && s.face === skin.face);
        if (on)
          faces.push(
            ...between(
              spots(here, every(skin.points, 8)),
              spots(next, every(on.points, 8)),
              { tone: "skin", inside },
              false,
            ),
          );
      }
      for (const bar of here.cut.bars) {
        const on = next.cut.bars.find((b) => b.line_id === bar.line_id && b.side === bar.side);
        if (on)
          faces.push({
            spots: [...spots(here, [[bar.x_mm, bar.z_mm]]), ...spots(next, [[on.x_mm, on.z_mm]])],
            tone: "spar",
          });
      }
    }
  }
  return faces;
}

/** Lines on the upper face of a part, places along it and shares of the chord: hinges of control surfaces, and a jag
 * where something is damaged. */
function linesOn(part: Part): { tone: Face["tone"]; ways: Point[] }[] {
  const hinges = [part.control, part.second_control].flatMap((c): { tone: Face["tone"]; ways: Point[] }[] => {
    if (!c) return [];
    const at = 1 - c.chord_percent / 100;
    return [{ tone: "hinge", ways: [[c.start_mm, 1], [c.start_mm, at], [c.end_mm, at], [c.end_mm, 1]] }]; // prettier-ignore
  });
  const damage = part.damage.map((mark): { tone: Face["tone"]; ways: Point[] } => {
    const y = alongOf(mark, part);
    const jag = 0.012 * part.span_mm;
    return { tone: "damage", ways: [0, 1, 2, 3, 4].map((k) => [y + (k % 2 ? jag : -jag), k / 4]) };
  });
  return [...hinges, ...damage];
}

/** Height of the upper face at a place across the chord. */
export function topAt(outline: readonly Point[], x: number): number {
  const heights = outline.flatMap((a, i) => {
    const b = outline[(i + 1) % outline.length]!;
    if ((a[0] - x) * (b[0] - x) > 0) return [];
    return a[0] === b[0] ? [a[1], b[1]] : [a[1] + ((x - a[0]) / (b[0] - a[0])) * (b[1] - a[1])];
  });
  return heights.length ? Math.max(...heights) : 0;
}

/** Quadrangles between two lines of as many points. */
function between(a: Spot[], b: Spot[], as: Omit<Face, "spots">, closed: boolean): Face[] {
  const count = Math.min(a.length, b.length);
  const last = closed ? count : count - 1;
  return Array.from({ length: Math.max(0, last) }, (_, i) => {
    const j = (i + 1) % count;
    return { ...as, spots: [a[i]!, a[j]!, b[j]!, b[i]!] };
  });
}

/** A turn about the upright axis, then a tilt: screen right, screen up, and towards the eye; degrees. */
export function turned([x, y, z]: Spot, turn: number, tilt: number): Spot {
  const [a, b] = [(turn * Math.PI) / 180, (tilt * Math.PI) / 180];
  const [right, away] = [x * Math.cos(a) + y * Math.sin(a), -x * Math.sin(a) + y * Math.cos(a)];
  return [right, z * Math.cos(b) + away * Math.sin(b), z * Math.sin(b) - away * Math.cos(b)];
}

export const middleOf = (spots: Spot[]): Spot => {
  const sum = (i: 0 | 1 | 2) => spots.reduce((total, s) => total + s[i], 0) / spots.length;
  return [sum(0), sum(1), sum(2)];
};

/** The unit normal of a face. */
export function normalOf(spots: Spot[]): Spot {
  const [a, b, c] = [spots[0]!, spots[1]!, spots[2]!];
  const [u, v] = [
    [b[0] - a[0], b[1] - a[1], b[2] - a[2]],
    [c[0] - a[0], c[1] - a[1], c[2] - a[2]],
  ] as [Spot, Spot];
  const n: Spot = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const size = Math.hypot(...n) || 1;
  return [n[0] / size, n[1] / size, n[2] / size];
}

/** Whether the outer side of a turned face is seen; of one without an inside both are. */
export function isSeen(face: Face): boolean {
  if (!face.inside) return true;
  const [n, at] = [normalOf(face.spots), middleOf(face.spots)];
  const outward = n.reduce((sum, v, i) => sum + v * (at[i]! - face.inside![i]!), 0);
  return n[2] * Math.sign(outward) > 0;
}
