import type { Estimate } from "../../../api/client";

interface Strip {
  top: number;
  bottom: number;
}

/** Where the views lie, px; `scale` is px per mm in every true-scale view. */
export interface SheetLayout {
  width: number;
  height: number;
  x0: number;
  scale: number;
  /** How many times larger than true the bend is drawn. */
  exaggeration: number;
  front: Strip & { rest: number };
  plan: Strip & { nose: number };
  plot: Strip;
}

const LEFT = 56;
const RIGHT = 92;
const PLAN_MOST = 230;
const BEND_MOST = 36;

/** Lay the views out for a drawing width. */
export function layoutOf(estimate: Estimate, width: number): SheetLayout {
  const cuts = estimate.stretches.flatMap((s) => [s.root_side, s.tip_side]);
  const noses = cuts.map((c) => c.setback_mm);
  const front = Math.min(...noses);
  const rear = Math.max(...cuts.map((c) => c.setback_mm + c.chord_mm));
  const scale = Math.max(
    0.02,
    Math.min((width - LEFT - RIGHT) / estimate.span_mm, PLAN_MOST / (rear - front)),
  );
  const bend = estimate.curves.deflection_mm;
  const largest = Math.max(
    ...bend.map(Math.abs),
    ...estimate.curves.deflection_high_mm.map(Math.abs),
    ...estimate.curves.deflection_low_mm.map(Math.abs),
  );
  const exaggeration = [20, 10, 5, 2].find((n) => largest * scale * n <= BEND_MOST) ?? 1;
  const up = Math.max(0, ...estimate.curves.deflection_high_mm) * scale * exaggeration;
  const down = Math.max(0, -Math.min(...estimate.curves.deflection_low_mm)) * scale * exaggeration;
  const half = (Math.max(...cuts.map((c) => c.thickness_mm)) * scale) / 2;
  const top = 28;
  const rest = top + 10 + Math.min(up, 160) + half;
  const frontBottom = rest + half + Math.min(down, 160) + (down > 0 ? 34 : 8);
  const planTop = frontBottom + 25;
  const planBottom = planTop + (rear - front) * scale;
  const plotTop = planBottom + 58;
  const plotBottom = plotTop + 46;
  return {
    width,
    height: plotBottom + 28,
    x0: LEFT,
    scale,
    exaggeration,
    front: { top, bottom: frontBottom, rest },
    plan: { top: planTop, bottom: planBottom, nose: planTop - front * scale },
    plot: { top: plotTop, bottom: plotBottom },
  };
}
