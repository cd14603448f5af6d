import { memo } from "react";
import type { Estimate, Part } from "../../../api/client";
import { toneOf } from "../../../charts/tone";
import { bare, show } from "../../../forms/units";
import { PlanDamage } from "../../../part/PlanDamage";
import { PlanJoints } from "./PlanJoints";
import { Things } from "./PlanThings";
import type { SheetLayout } from "./sheetLayout";
import { asLongAsItIs } from "./snapping";

interface Props {
  estimate: Estimate;
  part: Part;
  layout: SheetLayout;
  /** Times the load of the case that is drawn. */
  load: number;
  selected: string | null;
  setSelected: (id: string | null) => void;
}

/** A numbered balloon that ties a thing on the drawing to its line in the lay-up. */
export function Balloon({ x, y, n, on }: { x: number; y: number; n: number; on: boolean }) {
  return (
    <g pointerEvents="none">
      <circle
        cx={x}
        cy={y}
        r={9}
        fill={on ? "var(--pick)" : "var(--raised)"}
        stroke={on ? "var(--pick)" : "var(--ink)"}
      />
      <text
        x={x}
        y={y + 4}
        fontSize={12}
        textAnchor="middle"
        fontWeight={650}
        style={on ? { fill: "var(--sheet)" } : undefined}
      >
        {n}
      </text>
    </g>
  );
}

/** The part from above: what lies where, how much of the strength is used, and where it gives first. */
export const PlanView = memo(function PlanView({
  estimate,
  part,
  layout,
  load,
  selected,
  setSelected,
}: Props) {
  const { x0, scale, plan } = layout;
  const px = (y: number) => x0 + y * scale;
  const pz = (x: number) => plan.nose + x * scale;
  const cuts = estimate.stretches.flatMap((s) => [s.root_side, s.tip_side]);
  const root = cuts[0]!;
  const tip = cuts.at(-1)!;
  const nose = (y: number) => root.setback_mm + ((tip.setback_mm - root.setback_mm) * y) / estimate.span_mm;
  const chord = (y: number) => root.chord_mm + ((tip.chord_mm - root.chord_mm) * y) / estimate.span_mm;
  const outline = [
    [px(0), pz(nose(0))],
    [px(estimate.span_mm), pz(nose(estimate.span_mm))],
    [px(estimate.span_mm), pz(nose(estimate.span_mm) + chord(estimate.span_mm))],
    [px(0), pz(nose(0) + chord(0))],
  ];
  const numberOf = (id: string) => part.layers.findIndex((l) => l.id === id) + 1;
  const { y_mm: ys, use } = estimate.curves;
  const { first } = estimate;
  const ring = { x: px(first.at_mm), y: pz(nose(first.at_mm) + first.x_mm) };
  const toRight = ring.x < layout.width * 0.5;
  return (
    <g>
      <text x={x0} y={plan.top - 10} fontSize={13} fontWeight={620}>
        Plan view
      </text>
      <UseLegend x={px(estimate.span_mm)} y={plan.top - 14} narrow={layout.width < 640} />
      {ys.slice(1).map((y, i) => {
        const a = ys[i]!;
        if (y === a) return null;
        const share = Math.max(use[i]!, use[i + 1]!);
        const points = [
          [px(a), pz(nose(a))],
          [px(y) + 0.4, pz(nose(y))],
          [px(y) + 0.4, pz(nose(y) + chord(y))],
          [px(a), pz(nose(a) + chord(a))],
        ];
        return <polygon key={i} points={points.join(" ")} fill={toneOf(share)} />;
      })}
      <polygon points={outline.join(" ")} fill="none" stroke="var(--ink)" strokeWidth={1.5} />
      {estimate.stretches.map((stretch, i) => (
        <Things
          key={i}
          a={stretch.root_side}
          b={stretch.tip_side}
          {...{ part, px, pz, scale, selected, setSelected }}
        />
      ))}
      <PlanJoints {...{ part, px, pz, nose, chord, scale, selected, setSelected }} />
      <PlanDamage {...{ part, px, pz, nose, chord }} />
      {part.control && (
        <path
          d={(["start_mm", "end_mm"] as const)
            .map((end, i) => {
              const y = part.control![end];
              const x = nose(y) + chord(y) * (1 - part.control!.chord_percent / 100);
              const edge = `${px(y)} ${pz(nose(y) + chord(y))}`;
              return i ? `L${px(y)} ${pz(x)}L${edge}` : `M${edge}L${px(y)} ${pz(x)}`;
            })
            .join("")}
          fill="none"
          stroke="var(--ink)"
          strokeDasharray="6 3"
        >
          <title>control surface</title>
        </path>
      )}
      {labelSpots(estimate, part).map(({ id, y, x }) => (
        <Balloon key={id} x={px(y)} y={pz(nose(y) + x)} n={numberOf(id)} on={selected === id} />
      ))}
      <Dimension {...{ estimate, part, layout, px }} />
      <text
        x={x0 - 12}
        y={pz(nose(0) + chord(0) / 2)}
        fontSize={12}
        textAnchor="middle"
        transform={`rotate(-90 ${x0 - 12} ${pz(nose(0) + chord(0) / 2)})`}
      >
        {show(root.chord_mm, "length", 4)}
      </text>
      <text
        x={px(estimate.span_mm) + 16}
        y={pz(nose(estimate.span_mm) + chord(estimate.span_mm) / 2)}
        fontSize={12}
        textAnchor="middle"
        transform={`rotate(-90 ${px(estimate.span_mm) + 16} ${pz(nose(estimate.span_mm) + chord(estimate.span_mm) / 2)})`}
      >
        {show(tip.chord_mm, "length", 4)}
      </text>
      <g aria-hidden="true">
        {estimate.failures.slice(0, 5).map((f, i) =>
          f.comes_at.typ <= load && f.figure !== "breaks_at" ? (
            <g key={i}>
              <circle
                cx={px(f.at_mm)}
                cy={pz(nose(f.at_mm) + f.x_mm)}
                r={9}
                fill="var(--sheet)"
                stroke="var(--fail)"
                strokeWidth={2}
              />
              <text
                x={px(f.at_mm)}
                y={pz(nose(f.at_mm) + f.x_mm) + 4}
                fontSize={12}
                fontWeight={700}
                textAnchor="middle"
                style={{ fill: "var(--fail)" }}
              >
                {i + 1}
              </text>
            </g>
          ) : null,
        )}
        <circle cx={ring.x} cy={ring.y} r={13} fill="none" stroke="var(--sheet)" strokeWidth={6} />
        <circle
          cx={ring.x}
          cy={ring.y}
          r={13}
          fill="none"
          stroke="var(--fail)"
          strokeWidth={2.6}
          strokeDasharray={first.comes_at.typ <= load ? undefined : "5 3"}
        />
        <FailLabel
          x={ring.x}
          y={ring.y}
          toRight={toRight}
          text={first.sentence}
          bottom={plan.bottom - 14}
          left={x0 + 8}
          right={px(estimate.span_mm) - 6}
        />
      </g>
    </g>
  );
});

function FailLabel(props: {
  x: number;
  y: number;
  toRight: boolean;
  text: string;
  bottom: number;
  left: number;
  right: number;
}) {
  const { x, y, toRight, text, bottom, left, right } = props;
  const width = text.length * 6.5 + 16;
  const ly = Math.min(bottom, y + 52);
  const lx = toRight ? Math.max(left, Math.min(x + 40, right - width)) : Math.max(x - 40, left + width);
  return (
    <g>
      <path
        d={`M${x + (toRight ? 7 : -7)} ${y + 11}L${lx} ${ly}`}
        stroke="var(--fail)"
        strokeWidth={1.4}
        fill="none"
      />
      <rect
        x={toRight ? lx : lx - width}
        y={ly - 13}
        width={width}
        height={25}
        fill="var(--sheet)"
        stroke="var(--fail)"
      />
      <text
        x={toRight ? lx + 8 : lx - 8}
        y={ly + 4}
        fontSize={14}
        fontWeight={640}
        textAnchor={toRight ? "start" : "end"}
        style={{ fill: "var(--fail)" }}
      >
        {text}
      </text>
    </g>
  );
}

/** One place per line for its balloon: near the outer end, those over the whole face near the tip corner. */
function labelSpots(estimate: Estimate, part: Part): { id: string; y: number; x: number }[] {
  const spots = new Map<string, { id: string; y: number; x: number }>();
  for (const { tip_side: cut, root_side } of estimate.stretches) {
    const y = cut.y_mm - Math.min(0.045 * estimate.span_mm, (cut.y_mm - root_side.y_mm) / 2);
    for (const hole of cut.holes) {
      const xs = hole.points.map((p) => p[0]);
      spots.set(hole.line_id, { id: hole.line_id, y, x: (Math.min(...xs) + Math.max(...xs)) / 2 });
    }
    for (const cord of cut.cords) spots.set(cord.line_id, { id: cord.line_id, y, x: cord.x_mm });
    for (const bar of cut.bars) spots.set(bar.line_id, { id: bar.line_id, y, x: bar.x_mm });
    for (const skin of cut.skins) {
      if (skin.face === "front" || skin.face === "rear") continue;
      const [f, r] = [skin.points[0]![0], skin.points.at(-1)![0]];
      const whole = r - f > 0.98 * cut.chord_mm;
      spots.set(skin.line_id, { id: skin.line_id, y, x: whole ? 0.86 * cut.chord_mm : 0.5 * (f + r) });
    }
  }
  for (const layer of part.layers) {
    if (layer.enabled === false || (layer.type !== "joint" && layer.type !== "hinge")) continue;
    if (layer.type === "joint" && layer.joint.kind === "bond") continue;
    const chord = estimate.stretches[0]!.root_side.chord_mm;
    const x =
      layer.type === "hinge" ? 0 : layer.joint.kind === "across" || layer.joint.kind === "lap" ? 0.93 : 0;
    const at = layer.type === "joint" && x === 0 ? (layer.chord_percent / 100) * chord : x * chord;
    spots.set(layer.id, { id: layer.id, y: Math.max(layer.start_mm, 0.04 * estimate.span_mm), x: at });
  }
  const placed: { id: string; y: number; x: number }[] = [];
  const reach = 0.05 * estimate.span_mm;
  for (const spot of spots.values()) {
    let y = spot.y;
    while (placed.some((p) => Math.abs(p.y - y) < reach && Math.abs(p.x - spot.x) < reach)) y -= reach;
    placed.push({ ...spot, y: Math.max(reach / 2, y) });
  }
  return placed;
}

interface DimensionProps {
  estimate: Estimate;
  part: Part;
  layout: SheetLayout;
  px: (y: number) => number;
}

/** The span and the places where lines end, as a chain of dimensions under the plan. */
function Dimension({ estimate, part, layout, px }: DimensionProps) {
  const y = layout.plan.bottom + 15;
  const ends = new Map<number, string[]>();
  part.layers.forEach((layer, i) => {
    for (const place of asLongAsItIs(layer)
      ? [layer.start_mm]
      : [layer.start_mm, layer.end_mm ?? estimate.span_mm])
      if (layer.enabled !== false && place > 0 && place < estimate.span_mm)
        ends.set(place, [...(ends.get(place) ?? []), String(i + 1)]);
  });
  const stops = [0, ...[...ends.keys()].sort((a, b) => a - b), estimate.span_mm];
  return (
    <g>
      <path
        d={`M${px(0)} ${y}H${px(estimate.span_mm)}${stops.map((s) => `M${px(s)} ${y - 5}v10`).join("")}`}
        stroke="var(--ink)"
        fill="none"
      />
      {stops.slice(1, -1).map((stop, i) => {
        const room = (stop - stops[i]!) * layout.scale;
        const tag = ends.get(stop);
        const text = `${bare(stop, "length", 4)}${tag ? ` (${tag.join(", ")})` : ""}`;
        return room > text.length * 6.5 ? (
          <text key={stop} x={px(stop) - 4} y={y + 15} fontSize={12} textAnchor="end">
            {text}
          </text>
        ) : null;
      })}
      <text x={px(estimate.span_mm) + 7} y={y + 4} fontSize={12}>
        {show(estimate.span_mm, "length", 4)}
      </text>
    </g>
  );
}

function UseLegend({ x, y, narrow }: { x: number; y: number; narrow: boolean }) {
  const steps = [0, 0.25, 0.5, 0.75, 1];
  const w = 22;
  const left = x - steps.length * w - w;
  return (
    <g>
      <text x={left - 8} y={y + 4} fontSize={12} textAnchor="end">
        {narrow ? "used" : "strength used"}
      </text>
      {steps.map((s, i) => (
        <g key={s}>
          <rect
            x={left + i * w}
            y={y - 6}
            width={w}
            height={9}
            fill={toneOf(s)}
            stroke="var(--hair)"
            strokeWidth={0.5}
          />
        </g>
      ))}
      <rect
        x={left + 5 * w}
        y={y - 6}
        width={w}
        height={9}
        fill="url(#over)"
        stroke="var(--fail)"
        strokeWidth={0.5}
      />
      <text x={left + 5 * w + w + 4} y={y + 4} fontSize={12}>
        over
      </text>
    </g>
  );
}
