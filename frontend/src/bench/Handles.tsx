import { useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Layer, Part } from "../api/client";
import { plain } from "../shared/units";
import { acrossLine, withLayer } from "./edits";
import type { SheetLayout } from "./sheetLayout";

interface Props {
  part: Part;
  layer: Layer;
  layout: SheetLayout;
  change: (edit: (part: Part) => Part) => void;
}

type Grip = "start" | "end" | "line";

const SNAP_PX = 7;
const SNAP_PERCENT = 0.8;

const clamp = (v: number, low: number, high: number) => Math.max(low, Math.min(high, v));

/** Places along the part that an end snaps to: root, tip, ends of other lines, supports. */
export function alongTargets(part: Part, id: string): number[] {
  const others = part.layers.filter((l) => l.id !== id);
  const supports = part.cases.flatMap((c) =>
    c.type === "three_point" ? [c.first_support_mm, c.second_support_mm] : [],
  );
  return [0, part.span_mm, ...others.flatMap((l) => [l.start_mm, l.end_mm ?? part.span_mm]), ...supports];
}

/** Chord places that a line snaps to: those of other lines, a quarter, a third, the middle. */
export function acrossTargets(part: Part, id: string): number[] {
  const others = part.layers.flatMap((l) => (acrossLine(l) && l.id !== id ? [l.root_percent] : []));
  return [...others, 25, 100 / 3, 50];
}

/** The nearest target within reach, else the value rounded to the step. */
export function snapped(value: number, targets: number[], reach: number, step: number): number {
  const near = targets.filter((t) => Math.abs(t - value) <= reach);
  near.sort((a, b) => Math.abs(a - value) - Math.abs(b - value));
  return near[0] ?? Math.round(value / step) * step;
}

/** Where the grips of a line stand that has no place of its own across the chord: on its edge, or in the middle. */
function edgePercent(layer: Layer): number {
  if (layer.type !== "cord" && layer.type !== "wall") return 50;
  return layer.face === "front" ? 0 : layer.face === "rear" ? 100 : 50;
}

/** Grips on the chosen line: its ends along the part, and the line itself across the chord. By pointer and by keys. */
export function Handles({ part, layer, layout, change }: Props) {
  const [active, setActive] = useState<Grip | null>(null);
  const { x0, scale, plan } = layout;
  const start = layer.start_mm;
  const end = layer.end_mm ?? part.span_mm;
  const chordAt = (y: number) =>
    part.root_chord_mm + ((part.tip_chord_mm - part.root_chord_mm) * y) / part.span_mm;
  const percentAt = (y: number) =>
    acrossLine(layer)
      ? layer.root_percent + ((layer.tip_percent - layer.root_percent) * y) / part.span_mm
      : edgePercent(layer);
  const spot = (y: number) => ({
    x: x0 + y * scale,
    y: plan.nose + ((part.tip_setback_mm * y) / part.span_mm + (chordAt(y) * percentAt(y)) / 100) * scale,
  });

  const put = (grip: Grip, value: number) =>
    change((p) =>
      withLayer(p, layer.id, (l) => {
        if (grip === "start") return { ...l, start_mm: clamp(value, 0, end - 5) };
        if (grip === "end") {
          const to = clamp(value, start + 5, part.span_mm);
          return { ...l, end_mm: to === part.span_mm ? null : to };
        }
        if (!acrossLine(l)) return l;
        const by = value - l.root_percent;
        const tip = Math.round(clamp(l.tip_percent + by, 0, 100) * 10) / 10;
        return { ...l, root_percent: Math.round(value * 10) / 10, tip_percent: tip };
      }),
    );

  const drag = (grip: Grip) => (e: PointerEvent<SVGGElement>) => {
    if (active !== grip) return;
    e.stopPropagation();
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
    if (grip === "line") {
      const middle = (start + end) / 2;
      const nose = plan.nose + ((part.tip_setback_mm * middle) / part.span_mm) * scale;
      const here = (100 * (e.clientY - box.top - nose)) / (chordAt(middle) * scale);
      const root = here - (percentAt(middle) - percentAt(0));
      put(grip, snapped(clamp(root, 0, 100), acrossTargets(part, layer.id), SNAP_PERCENT, 0.5));
    } else {
      const y = (e.clientX - box.left - x0) / scale;
      put(grip, snapped(clamp(y, 0, part.span_mm), alongTargets(part, layer.id), SNAP_PX / scale, 1));
    }
  };

  const keys = (grip: Grip) => (e: KeyboardEvent) => {
    const way = {
      ArrowLeft: -1,
      ArrowDown: grip === "line" ? 1 : -1,
      ArrowRight: 1,
      ArrowUp: grip === "line" ? -1 : 1,
    }[e.key];
    if (way === undefined) return;
    e.preventDefault();
    const size = (grip === "line" ? 0.5 : 1) * (e.shiftKey ? 10 : 1) * way;
    if (grip === "line") put(grip, clamp(percentAt(0) + size, 0, 100));
    else put(grip, (grip === "start" ? start : end) + size);
  };

  const grips: { grip: Grip; at: { x: number; y: number }; label: string; value: number; text: string }[] = [
    {
      grip: "start",
      at: { ...spot(start), x: Math.min(spot(start).x, spot(end).x - 13) },
      label: "Start of the line",
      value: start,
      text: `${plain(start, 4)} mm`,
    },
    { grip: "end", at: spot(end), label: "End of the line", value: end, text: `${plain(end, 4)} mm` },
  ];
  if (acrossLine(layer))
    grips.push({
      grip: "line",
      at: spot(start + 0.5 * (end - start)),
      label: "Place of the line across the chord",
      value: layer.root_percent,
      text: `${plain(layer.root_percent)} %`,
    });

  return (
    <g>
      {grips.map(({ grip, at, label, value, text }) => (
        <g
          key={grip}
          role="slider"
          tabIndex={0}
          aria-label={label}
          aria-valuemin={0}
          aria-valuemax={grip === "line" ? 100 : part.span_mm}
          aria-valuenow={value}
          aria-valuetext={text}
          className={grip === "line" ? "cursor-ns-resize" : "cursor-ew-resize"}
          onKeyDown={keys(grip)}
          onPointerDown={(e) => {
            e.stopPropagation();
            e.currentTarget.setPointerCapture(e.pointerId);
            setActive(grip);
          }}
          onPointerMove={drag(grip)}
          onPointerUp={() => setActive(null)}
          onPointerCancel={() => setActive(null)}
          style={{ touchAction: "none" }}
        >
          <rect x={at.x - 20} y={at.y - 20} width={40} height={40} fill="transparent" />
          {grip === "line" ? (
            <path
              d={`M${at.x} ${at.y - 11}l7 11l-7 11l-7 -11z`}
              fill="var(--raised)"
              stroke="var(--pick)"
              strokeWidth={2.2}
            />
          ) : (
            <rect
              x={at.x - 6}
              y={at.y - 8}
              width={12}
              height={16}
              fill="var(--raised)"
              stroke="var(--pick)"
              strokeWidth={2.2}
            />
          )}
          <g pointerEvents="none">
            <rect
              x={at.x - 27}
              y={at.y + (grip === "line" ? 15 : -32)}
              width={54}
              height={17}
              fill="var(--sheet)"
              opacity={0.92}
            />
            <text
              x={at.x}
              y={at.y + (grip === "line" ? 28 : -19)}
              fontSize={12}
              textAnchor="middle"
              style={{ fill: "var(--pick)", fontWeight: 650 }}
            >
              {text}
            </text>
          </g>
        </g>
      ))}
    </g>
  );
}
