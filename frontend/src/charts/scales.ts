import type { ScaleContinuousNumeric } from "d3-scale";

/** A scale of an axis, from values to points of the picture. */
export type AxisScale = ScaleContinuousNumeric<number, number>;

/** The lowest and highest of the values, with a little room on both sides; a single value gets some too. */
export function withRoom(values: number[]): [number, number] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = Math.max(0.12 * (high - low), 0.02 * Math.max(Math.abs(low), Math.abs(high)), 1e-6);
  return [low - room, high + room];
}

/** What the values of curves span, zero included and no higher than `most`; never nothing. */
export function spanOf(values: (number | null)[], most = Infinity): [number, number] {
  const known = values.filter((v): v is number => v !== null);
  const low = Math.min(0, ...known);
  return [low, Math.max(low + 1e-9, Math.min(Math.max(...known, 0), most))];
}
