import type { Part } from "../api/client";

/** Corners of a part seen from above, mm: y out from the root, x aft of the root's leading edge. */
export function planform(part: Part): [number, number][] {
  const setback = part.tip_setback_mm;
  return [
    [0, 0],
    [part.span_mm, setback],
    [part.span_mm, setback + part.tip_chord_mm],
    [0, part.root_chord_mm],
  ];
}

/** Foremost and rearmost place of a part seen from above, mm. */
export function depth(part: Part): [number, number] {
  const xs = planform(part).map(([, x]) => x);
  return [Math.min(...xs), Math.max(...xs)];
}
