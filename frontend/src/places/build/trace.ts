import type { Schemas } from "../../api/client";

export type Trace = Schemas["Trace"];
export type Spot = [number, number];
export type Step = "scale" | "check" | "outline";

/** A trace as it grows: pairs may have one point or none yet. */
export interface Growing {
  name: string;
  scale: Spot[];
  scaleMm: number;
  check: Spot[];
  checkMm: number;
  outline: Spot[];
  /** Width and height of the picture, pixels. */
  size: Spot | null;
}

export const NOTHING_TRACED: Growing = {
  name: "Piece",
  scale: [],
  scaleMm: 100,
  check: [],
  checkMm: 100,
  outline: [],
  size: null,
};

/** A point set in one of the steps; a third point of a pair begins it again. */
export function withPoint(now: Growing, step: Step, at: Spot): Growing {
  if (step === "outline") return { ...now, outline: [...now.outline, at] };
  const pair = now[step].length >= 2 ? [at] : [...now[step], at];
  return { ...now, [step]: pair };
}

/** The last point of a step taken back. */
export const withoutLast = (now: Growing, step: Step): Growing => ({
  ...now,
  [step]: now[step].slice(0, -1),
});

/** What can be asked of the server; null while points are missing. */
export function asked(now: Growing): Trace | null {
  const [first, second] = now.scale;
  if (!first || !second || now.outline.length < 3 || !now.name.trim()) return null;
  const [from, to] = now.check;
  return {
    name: now.name.trim(),
    scale: { first, second, mm: now.scaleMm },
    check: from && to ? { first: from, second: to, mm: now.checkMm } : null,
    outline: now.outline,
  };
}

/** The cross moved by a key, inside the picture; null for keys that do not move it. */
export function crossMoved(at: Spot, key: string, far: boolean, size: Spot): Spot | null {
  const by = far ? 20 : 2;
  const moves: Record<string, Spot> = {
    ArrowLeft: [-by, 0],
    ArrowRight: [by, 0],
    ArrowUp: [0, -by],
    ArrowDown: [0, by],
  };
  const move = moves[key];
  if (!move) return null;
  const within = (v: number, most: number) => Math.min(Math.max(v, 0), most);
  return [within(at[0] + move[0], size[0]), within(at[1] + move[1], size[1])];
}
