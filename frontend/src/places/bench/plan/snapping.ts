import type { Layer, Part } from "../../../api/client";
import { acrossLine } from "../../../part/edits";

export const clamp = (v: number, low: number, high: number) => Math.max(low, Math.min(high, v));

/** Places along the part that things snap to: root, tip, ends of other lines, supports, the control surface's ends. */
export function alongTargets(part: Part, id: string): number[] {
  const others = part.layers.filter((l) => l.id !== id);
  const supports = part.cases.flatMap((c) =>
    c.type === "three_point" ? [c.first_support_mm, c.second_support_mm] : [],
  );
  const control = part.control ? [part.control.start_mm, part.control.end_mm] : [];
  const ends = others.flatMap((l) => [l.start_mm, l.end_mm ?? part.span_mm]);
  return [0, part.span_mm, ...ends, ...supports, ...control];
}

/** Chord places that a line snaps to: those of other lines, a quarter, a third, the middle, the control surface. */
export function acrossTargets(part: Part, id: string): number[] {
  const others = part.layers.flatMap((l) => (acrossLine(l) && l.id !== id ? [l.root_percent] : []));
  const hinge = part.control ? [100 - part.control.chord_percent] : [];
  return [...others, ...hinge, 25, 100 / 3, 50];
}

/** The nearest target within reach, else the value rounded to the step. */
export function snapped(value: number, targets: number[], reach: number, step: number): number {
  const near = targets.filter((t) => Math.abs(t - value) <= reach);
  near.sort((a, b) => Math.abs(a - value) - Math.abs(b - value));
  return near[0] ?? Math.round(value / step) * step;
}

/** Whether a line is as long as the thing itself, so that it has a place but no end to move. */
export const asLongAsItIs = (layer: Layer) =>
  (layer.type === "fitting" || layer.type === "joint") && layer.end_mm == null;

/** A line moved along the part as it is: both ends by as much, snapping where either end meets something. */
export function slid(layer: Layer, part: Part, by: number, targets: number[], reach: number): Layer {
  const own = asLongAsItIs(layer);
  const long = own ? 0 : (layer.end_mm ?? part.span_mm) - layer.start_mm;
  const want = clamp(layer.start_mm + by, 0, part.span_mm - long);
  const meets = [...targets, ...targets.map((t) => t - long)];
  const from = clamp(snapped(want, meets, reach, 1), 0, part.span_mm - long);
  const to = from + long;
  return { ...layer, start_mm: from, end_mm: own || to >= part.span_mm ? null : to };
}

/** A new line put at a place: bars and strips run from the root to it, cuts lie about it; across where it points. */
export function putAt(layer: Layer, part: Part, y: number, percent: number): Layer {
  const across = Math.round(clamp(percent, 2, 98) * 2) / 2;
  const placed = acrossLine(layer) ? { root_percent: across, tip_percent: across } : {};
  if (layer.type === "cut") {
    const half = Math.min(0.05 * part.span_mm, 40);
    const from = Math.round(clamp(y - half, 0, part.span_mm - 2 * half));
    return { ...layer, ...placed, start_mm: from, end_mm: Math.round(from + 2 * half) };
  }
  if (layer.type === "fitting") return { ...layer, ...placed, start_mm: Math.round(y) };
  if (layer.type === "joint") return { ...layer, chord_percent: across, start_mm: Math.round(y) };
  if ((layer.type === "bar" || layer.type === "strip") && y > 0.15 * part.span_mm)
    return { ...layer, ...placed, end_mm: y > 0.97 * part.span_mm ? null : Math.round(y) };
  return { ...layer, ...placed };
}
