import { DropdownMenu } from "radix-ui";
import { useRef, useState } from "react";
import type { Part, Schemas } from "../../api/client";
import { PlanDamage } from "../../part/PlanDamage";
import { MarkMenu, withMark, type Pressed } from "../../part/MarkMenu";
import { MARKS } from "../../part/Marks";
import type { Subject } from "../../part/useStudy";
import { depth, planform } from "../../part/planform";
import { useWidth } from "../../charts/useWidth";
import { MarkGrips } from "./MarkGrips";
import { moved, placeOf, type Mark } from "./reaches";

const MARGIN = 26;

/** Places of the numbers, px, moved apart so that none covers another. */
export function spread(places: (number | null)[], apart = 22): number[] {
  const order = places
    .map((x, n) => ({ x: x ?? 0, n }))
    .filter(({ n }) => places[n] !== null)
    .sort((a, b) => a.x - b.x);
  const out = places.map((x) => x ?? 0);
  for (let k = 1; k < order.length; k++) order[k]!.x = Math.max(order[k]!.x, order[k - 1]!.x + apart);
  const shift = order.reduce((sum, { x, n }) => sum + (x - places[n]!), 0) / Math.max(order.length, 1);
  for (const { x, n } of order) out[n] = x - Math.min(shift, apart);
  return out;
}

/** A place of the part and where it is on the drawing, px. */
type Spot = Pressed & { x: number; y: number };

interface Props {
  subject: Subject;
  part: Part;
  /** The part as an option would leave it: what it lays on is drawn. */
  mended: Schemas["MendOption"]["part"] | null;
  /** Marks of repairs that were adopted and are not done and checked yet. */
  mending: Mark[];
  change: (edit: (part: Part) => Part) => void;
  /** A mark was put on the plan. */
  marked: () => void;
}

/** The part from above, to be pressed where it broke, with its marks, which can be dragged along it, and what a repair lays on. */
export function DeskPlan({ subject, part, mended, mending, change, marked }: Props) {
  const [holder, width] = useWidth<HTMLDivElement>();
  const [first, last] = depth(part);
  const scale = Math.min((width - 2 * MARGIN) / part.span_mm, 215 / (last - first));
  const height = (last - first) * scale + 2 * MARGIN;
  const px = (y: number) => MARGIN + y * scale;
  const pz = (x: number) => MARGIN + (x - first) * scale;
  const nose = (y: number) => (part.tip_setback_mm * y) / part.span_mm;
  const chord = (y: number) =>
    part.root_chord_mm + ((part.tip_chord_mm - part.root_chord_mm) * y) / part.span_mm;
  const known = new Set(part.layers.map((l) => l.id));
  const laid = (mended?.layers ?? []).filter(
    (l) => !known.has(l.id) && ["bar", "strip", "film"].includes(l.type) && l.name !== "",
  );
  const numbers = spread(
    (part.damage ?? []).map((m) => {
      const at = placeOf(m);
      return at === null ? null : px(at);
    }),
  );
  const grabbed = useRef<string | null>(null);
  const [taken, take] = useState<string | null>(null);
  const [pressed, press] = useState<Spot | null>(null);
  const taking = (part.damage ?? []).findIndex((m) => m.id === taken);
  const place = (y: number, percent: number) => pz(nose(y) + (percent / 100) * chord(y));
  const edit = (id: string, how: (m: Mark) => Mark) =>
    change((p) => ({ ...p, damage: (p.damage ?? []).map((m) => (m.id === id ? how(m) : m)) }));
  const put = (id: string, at: number) => edit(id, (m) => moved(m, at, part.span_mm));
  return (
    <div ref={holder} className="relative">
      {width > 0 && (
        <svg width={width} height={height} role="group" aria-label="Plan view with damage marks">
          <polygon
            points={planform(part)
              .map(([y, x]) => `${px(y)},${pz(x)}`)
              .join(" ")}
            fill="var(--foam)"
            stroke="var(--foam-edge)"
            className="cursor-crosshair"
            onClick={(e) => {
              const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
              const [x, y] = [e.clientX - box.left, e.clientY - box.top];
              const at = Math.min(Math.max((x - MARGIN) / scale, 0), part.span_mm);
              const percent = (100 * ((y - MARGIN) / scale + first - nose(at))) / chord(at);
              press({ at: Math.round(at), percent: Math.min(Math.max(Math.round(percent), 0), 100), x, y });
            }}
          />
          <Lines {...{ part, laid, px, pz, nose, chord, scale }} />
          <PlanDamage part={{ ...part, damage: mending }} {...{ px, nose, chord, pz }} colour="var(--pick)" />
          <PlanDamage {...{ part, px, nose, chord, pz }} />
          {(part.damage ?? []).map((m, n) => {
            const at = placeOf(m);
            if (at === null) return null;
            const [top, x] = [pz(nose(at)) - 13, numbers[n]!];
            return (
              <g
                key={m.id}
                role="slider"
                tabIndex={0}
                aria-label={`Position of mark ${n + 1}, ${MARKS[m.kind]}`}
                aria-valuemin={0}
                aria-valuemax={Math.round(part.span_mm)}
                aria-valuenow={Math.round(at)}
                className="cursor-ew-resize outline-offset-2"
                onFocus={() => take(m.id)}
                onKeyDown={(e) => {
                  const by = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
                  if (!by) return;
                  e.preventDefault();
                  put(m.id, at + by * (e.shiftKey ? 10 : 1));
                }}
                onPointerDown={(e) => {
                  take(m.id);
                  grabbed.current = m.id;
                  e.currentTarget.setPointerCapture(e.pointerId);
                }}
                onPointerMove={(e) => {
                  if (grabbed.current !== m.id) return;
                  const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
                  put(m.id, (e.clientX - box.left - MARGIN) / scale);
                }}
                onPointerUp={() => (grabbed.current = null)}
              >
                <rect x={x - 12} y={top - 12} width={24} height={24} fill="transparent" />
                <line x1={x} y1={top + 8} x2={px(at)} y2={top + 20} stroke="var(--fail)" />
                <circle cx={x} cy={top} r={9} fill="var(--fail)" />
                <text
                  x={x}
                  y={top + 4}
                  textAnchor="middle"
                  fontSize={12}
                  fontWeight={700}
                  fill="var(--sheet)"
                >
                  {n + 1}
                </text>
              </g>
            );
          })}
          {taking >= 0 && (
            <MarkGrips
              mark={part.damage[taking]!}
              number={taking + 1}
              span={part.span_mm}
              {...{ px, place, chord }}
              under={(x, y, at) => ({
                along: (x - MARGIN) / scale,
                percent: (100 * ((y - MARGIN) / scale + first - nose(at))) / chord(at),
              })}
              change={(mark) => edit(mark.id, () => mark)}
            />
          )}
          <text x={px(0)} y={height - 6} fontSize={12} fill="var(--soft)">
            root
          </text>
          <text x={px(part.span_mm)} y={height - 6} fontSize={12} fill="var(--soft)" textAnchor="end">
            tip
          </text>
        </svg>
      )}
      {pressed && (part.damage ?? []).length < 24 && (
        <PressedMenu
          {...{ subject, pressed }}
          close={() => press(null)}
          put={(mark) => {
            change(withMark(mark));
            marked();
          }}
        />
      )}
    </div>
  );
}

interface LinesProps {
  part: Part;
  laid: Part["layers"];
  px: (y: number) => number;
  pz: (x: number) => number;
  nose: (y: number) => number;
  chord: (y: number) => number;
  scale: number;
}

/** The bars of the part, and what a repair lays on. */
function Lines({ part, laid, px, pz, nose, chord, scale }: LinesProps) {
  return (
    <g pointerEvents="none">
      {part.layers.map((l) =>
        l.type === "bar" && l.enabled ? (
          <line
            key={l.id}
            x1={px(l.start_mm)}
            x2={px(l.end_mm ?? part.span_mm)}
            y1={pz(nose(l.start_mm) + (l.root_percent / 100) * chord(l.start_mm))}
            y2={pz(nose(l.end_mm ?? part.span_mm) + (l.tip_percent / 100) * chord(l.end_mm ?? part.span_mm))}
            stroke="var(--ink)"
            strokeWidth={1.6}
          />
        ) : null,
      )}
      {laid.map((l) => {
        const [start, end] = [l.start_mm, l.end_mm ?? part.span_mm];
        const centre = "root_percent" in l ? l.root_percent : 50;
        const wide =
          l.type === "strip" ? l.width_mm : l.type === "film" ? chord(start) : Math.max(3, 3 / scale);
        const middle = pz(nose(0.5 * (start + end)) + (centre / 100) * chord(0.5 * (start + end)));
        return (
          <rect
            key={l.id}
            x={px(start)}
            width={(end - start) * scale}
            y={middle - (wide * scale) / 2}
            height={wide * scale}
            fill="var(--pick)"
            fillOpacity={l.type === "bar" ? 0.9 : 0.16}
            stroke="var(--pick)"
            strokeDasharray={l.type === "bar" ? undefined : "5 3"}
          >
            <title>{l.name}</title>
          </rect>
        );
      })}
    </g>
  );
}

interface PressedProps {
  subject: Subject;
  pressed: Spot;
  close: () => void;
  put: (mark: Mark) => void;
}

/** The menu of what may have broken, where the drawing was pressed. */
function PressedMenu({ subject, pressed, close, put }: PressedProps) {
  return (
    <DropdownMenu.Root open onOpenChange={(open) => !open && close()}>
      <DropdownMenu.Trigger
        aria-hidden
        tabIndex={-1}
        className="absolute h-0 w-0"
        style={{ left: pressed.x, top: pressed.y }}
      />
      <MarkMenu subject={subject} pressed={{ at: pressed.at, percent: pressed.percent }} put={put} />
    </DropdownMenu.Root>
  );
}
