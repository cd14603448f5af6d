import { memo } from "react";
import type { Estimate } from "../../../api/client";
import { readAt } from "../../../charts/interpolate";
import { bare, show } from "../../../forms/units";
import type { SheetLayout } from "./sheetLayout";

/** The part from the front, bent by the load: a shaft on two pegs with a weight, or held at its root. */
export const FrontView = memo(function FrontView({
  estimate,
  layout,
  fuselage,
}: {
  estimate: Estimate;
  layout: SheetLayout;
  fuselage: boolean;
}) {
  const { curves } = estimate;
  const { x0, scale, exaggeration, front } = layout;
  const px = (y: number) => x0 + y * scale;
  const lift = (w: number) => front.rest - w * scale * exaggeration;
  const first = estimate.stretches[0]!.root_side;
  const last = estimate.stretches.at(-1)!.tip_side;
  const half = (y: number) =>
    ((first.thickness_mm + ((last.thickness_mm - first.thickness_mm) * y) / estimate.span_mm) * scale) / 2;
  const line = (w: number[], side: number) =>
    curves.y_mm.map((y, i) => `${px(y).toFixed(1)},${(lift(w[i]!) - side * half(y)).toFixed(1)}`);
  const body = (w: number[]) => [...line(w, 1), ...line(w, -1).reverse()].join(" ");
  const spread = [
    ...line(curves.deflection_high_mm, 1),
    ...line(curves.deflection_low_mm, -1).reverse(),
  ].join(" ");
  const at = estimate.deflection_at_mm;
  const bent = readAt(curves.y_mm, curves.deflection_mm, at) ?? 0;
  const pegs = estimate.supports_mm;
  const { measure } = estimate;
  const hung = measure.name === "hung";
  const seen = estimate.control
    ? "On its hinges, bent between them"
    : estimate.reads === "swing"
      ? "Bent fore and aft"
      : `From the ${fuselage ? "side" : "front"}, bent`;
  return (
    <g>
      <text x={x0} y={16} fontSize={13} fontWeight={620}>
        {seen}
        {exaggeration > 1 ? ` (deflection drawn ${exaggeration} ×)` : ""}
      </text>
      <line
        x1={x0}
        x2={px(estimate.span_mm)}
        y1={front.rest}
        y2={front.rest}
        stroke="var(--hair)"
        strokeDasharray="2 4"
      />
      <polygon points={spread} fill="var(--pick)" opacity={0.16} />
      <polygon points={body(curves.deflection_mm)} fill="var(--foam)" stroke="var(--ink)" strokeWidth={1.3} />
      {estimate.control?.hinges_mm.map((y) => (
        <circle
          key={y}
          cx={px(y)}
          cy={front.rest}
          r={5}
          fill="var(--raised)"
          stroke="var(--ink)"
          strokeWidth={1.6}
        >
          <title>hinge</title>
        </circle>
      ))}
      {estimate.control && (
        <path
          d={`M${px(estimate.control.horn_mm)} ${front.rest}v-20m-4 0h8`}
          stroke="var(--ink)"
          strokeWidth={3}
          fill="none"
        >
          <title>horn</title>
        </path>
      )}
      {!pegs && !estimate.control && (
        <path
          d={`M${x0 - 8} ${front.rest - 22}v44m0 -44l-7 7m7 4l-7 7m7 4l-7 7m7 4l-7 7m7 4l-7 7`}
          stroke="var(--ink)"
          fill="none"
        />
      )}
      {pegs?.map((y) => {
        const under = front.rest + half(y);
        return (
          <path key={y} d={`M${px(y)} ${under}l-7 13h14z`} fill="var(--ink)">
            <title>peg</title>
          </path>
        );
      })}
      {!pegs && (
        <g>
          <path
            d={`M${px(at) + 12} ${front.rest}V${lift(bent)}m-4 0h8m-4 ${front.rest - lift(bent)}m-4 0h8`}
            stroke="var(--ink)"
            fill="none"
          />
          <text x={px(at) + 20} y={(front.rest + lift(bent)) / 2 + 4} fontSize={13} fontWeight={620}>
            {show(estimate.deflection_mm.typ, "length")}
          </text>
          <text
            x={px(at) + 20}
            y={(front.rest + lift(bent)) / 2 + 19}
            fontSize={12}
            style={{ fill: "var(--soft)" }}
          >
            {bare(estimate.deflection_mm.low, "length", 2)}–{bare(estimate.deflection_mm.high, "length", 2)}
          </text>
        </g>
      )}
      {hung && (
        <g>
          <path d={`M${px(at)} ${lift(bent) + half(at)}v14`} stroke="var(--ink)" />
          <path d={`M${px(at) - 9} ${lift(bent) + half(at) + 14}h18l3 15h-24z`} fill="var(--ink)" />
          <text
            x={px(at) + (pegs ? 18 : -18)}
            y={lift(bent) + half(at) + 27}
            fontSize={13}
            fontWeight={620}
            textAnchor={pegs ? "start" : "end"}
          >
            {show(measure.value, "mass")}, sags {show(estimate.deflection_mm.typ, "length")}
          </text>
        </g>
      )}
    </g>
  );
});
