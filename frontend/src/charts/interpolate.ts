import type { Schemas } from "../api/client";

type Cut = Schemas["Cut"];

/** Value of a curve at y; `ys` ascends and may hold a place twice where the curve jumps. */
export function readAt(ys: number[], values: (number | null)[], y: number): number | null {
  let k = ys.findIndex((v) => v >= y);
  if (k < 0) k = ys.length - 1;
  if (k === 0 || ys[k] === y) return values[k] ?? null;
  const [a, b] = [values[k - 1] ?? null, values[k] ?? null];
  if (a === null || b === null) return b ?? a;
  const t = (y - ys[k - 1]!) / (ys[k]! - ys[k - 1]!);
  return a + t * (b - a);
}

const mix = (a: number, b: number, t: number) => a + t * (b - a);

/** The cut at y: every point of a stretch moves linearly between its two ends. */
export function cutAt(stretches: Schemas["Stretch"][], y: number): Cut {
  const stretch = stretches.find((s) => y <= s.tip_side.y_mm) ?? stretches.at(-1)!;
  const { root_side: a, tip_side: b } = stretch;
  const t = Math.max(0, Math.min(1, (y - a.y_mm) / (b.y_mm - a.y_mm || 1)));
  const points = (p: [number, number][], q: [number, number][]) =>
    p.map(([x, z], i) => [mix(x, q[i]![0], t), mix(z, q[i]![1], t)] as [number, number]);
  return {
    y_mm: y,
    chord_mm: mix(a.chord_mm, b.chord_mm, t),
    thickness_mm: mix(a.thickness_mm, b.thickness_mm, t),
    setback_mm: mix(a.setback_mm, b.setback_mm, t),
    outline: points(a.outline, b.outline),
    skins: a.skins.map((s, i) => ({
      ...s,
      points: points(s.points, b.skins[i]!.points),
    })),
    hollow: a.hollow,
    holes: a.holes.map((h, i) => ({
      ...h,
      points: points(h.points, b.holes[i]!.points),
    })),
    things: a.things.map((thing, i) => ({
      ...thing,
      x_mm: mix(thing.x_mm, b.things[i]!.x_mm, t),
      z_mm: mix(thing.z_mm, b.things[i]!.z_mm, t),
    })),
    cords: a.cords.map((c, i) => ({
      ...c,
      x_mm: mix(c.x_mm, b.cords[i]!.x_mm, t),
      z_mm: mix(c.z_mm, b.cords[i]!.z_mm, t),
    })),
    bars: a.bars.map((bar, i) => ({
      ...bar,
      x_mm: mix(bar.x_mm, b.bars[i]!.x_mm, t),
      z_mm: mix(bar.z_mm, b.bars[i]!.z_mm, t),
      width_mm: mix(bar.width_mm, b.bars[i]!.width_mm, t),
      height_mm: mix(bar.height_mm, b.bars[i]!.height_mm, t),
    })),
  };
}

/** Index of the station nearest to y. */
export function nearest(ys: number[], y: number): number {
  let best = 0;
  ys.forEach((v, i) => {
    if (Math.abs(v - y) < Math.abs(ys[best]! - y)) best = i;
  });
  return best;
}
