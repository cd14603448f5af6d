import type { Part } from "../../api/client";
import { edgeSpan } from "../../part/PlanDamage";

export type Mark = NonNullable<Part["damage"]>[number];
export type End = "start_mm" | "end_mm" | "from_percent" | "to_percent" | "depth_mm";

/** One end of a mark, where it can be taken hold of: how far out (mm) and how far behind the nose (per cent). */
export interface Grip {
  end: End;
  label: string;
  along: number;
  percent: number;
  value: number;
  most: number;
  unit: string;
}

const LEAST_MM = 2;
const LEAST_PERCENT = 1;

/** Where a mark lies along the part; null for what has no place. */
export function placeOf(mark: Mark): number | null {
  if ("at_mm" in mark) return mark.at_mm ?? null;
  if ("start_mm" in mark && mark.start_mm != null && mark.end_mm != null)
    return 0.5 * (mark.start_mm + mark.end_mm);
  return null;
}

/** The mark moved to a place, with its length, on the part. */
export function moved(mark: Mark, at: number, span: number): Mark {
  const whole = Math.round(at);
  if ("at_mm" in mark && mark.at_mm != null)
    return { ...mark, at_mm: Math.min(Math.max(whole, 1), span - 1) };
  if ("start_mm" in mark && mark.start_mm != null && mark.end_mm != null) {
    const half = 0.5 * (mark.end_mm - mark.start_mm);
    const middle = Math.min(Math.max(whole, half), span - half);
    return { ...mark, start_mm: Math.round(middle - half), end_mm: Math.round(middle + half) };
  }
  return mark;
}

/** The ends of a mark that can be pulled; `chord` is the chord at a place, mm. */
export function gripsOf(mark: Mark, span: number, chord: (y: number) => number): Grip[] {
  const at = placeOf(mark);
  if (at === null) return [];
  const fromEdge = "face" in mark && (mark.face === "front" || mark.face === "rear");
  const across = "from_percent" in mark ? edgeSpan({ depth_mm: 0, ...mark }, chord(at)) : [50, 50];
  const middle = 0.5 * (across[0]! + across[1]!);
  const out: Grip[] = [];
  if ("start_mm" in mark && mark.start_mm != null && mark.end_mm != null) {
    const mm = { percent: middle, most: span, unit: "mm" };
    out.push({ end: "start_mm", label: "Inner end", along: mark.start_mm, value: mark.start_mm, ...mm });
    out.push({ end: "end_mm", label: "Outer end", along: mark.end_mm, value: mark.end_mm, ...mm });
  }
  if ("depth_mm" in mark && fromEdge) {
    const percent = across[mark.face === "front" ? 1 : 0]!;
    out.push({
      end: "depth_mm", label: "Depth", along: at, percent, value: mark.depth_mm, most: chord(at), unit: "mm",
    }); // prettier-ignore
  } else if ("from_percent" in mark && !fromEdge) {
    const share = { along: at, most: 100, unit: "% of the chord" };
    out.push({
      end: "from_percent",
      label: "Front edge",
      percent: mark.from_percent,
      value: mark.from_percent,
      ...share,
    });
    out.push({
      end: "to_percent",
      label: "Rear edge",
      percent: mark.to_percent,
      value: mark.to_percent,
      ...share,
    });
  }
  return out;
}

/** The mark with one end put to a whole value, never past its other end or off the part. */
export function stretched(mark: Mark, end: End, value: number, span: number, chord: number): Mark {
  const within = (low: number, high: number) => Math.round(Math.min(Math.max(value, low), high));
  if ("start_mm" in mark && mark.start_mm != null && mark.end_mm != null) {
    if (end === "start_mm") return { ...mark, start_mm: within(0, mark.end_mm - LEAST_MM) };
    if (end === "end_mm") return { ...mark, end_mm: within(mark.start_mm + LEAST_MM, span) };
  }
  if ("from_percent" in mark) {
    if (end === "from_percent") return { ...mark, from_percent: within(0, mark.to_percent - LEAST_PERCENT) };
    if (end === "to_percent") return { ...mark, to_percent: within(mark.from_percent + LEAST_PERCENT, 100) };
    if (end === "depth_mm" && "depth_mm" in mark) return { ...mark, depth_mm: within(1, Math.floor(chord)) };
  }
  return mark;
}
