import { memo } from "react";
import type { Estimate } from "../../../api/client";
import { bare, plain, show, unitOf } from "../../../forms/units";
import type { SheetLayout } from "./sheetLayout";

const TITLES: Record<string, string> = {
  bend: "Bending moment",
  swing: "Fore-and-aft bending moment",
  twist: "Torque",
};

/** Bending asked for, with its factor, against what the sections along the span can carry. */
export const BendingPlot = memo(function BendingPlot({
  estimate,
  layout,
}: {
  estimate: Estimate;
  layout: SheetLayout;
}) {
  const { curves, safety_factor } = estimate;
  const { x0, scale, plot } = layout;
  const asked = curves.moment_N_mm.map((m) => Math.abs(m) * safety_factor);
  const peak = Math.max(...asked, 1e-9);
  const capacity = curves.capacity_N_mm.filter((c) => c !== null);
  const top = Math.max(peak * 1.15, Math.min(1.05 * Math.max(0, ...capacity), 8 * peak));
  const px = (y: number) => x0 + y * scale;
  const py = (m: number) => plot.bottom - (Math.max(0, m) / top) * (plot.bottom - plot.top);
  const line = (values: (number | null)[]) => {
    let pen = "M";
    return curves.y_mm
      .map((y, i) => {
        const v = values[i];
        if (v === null || v === undefined) {
          pen = "M";
          return "";
        }
        const step = `${pen}${px(y).toFixed(1)} ${py(v).toFixed(1)}`;
        pen = "L";
        return step;
      })
      .join("");
  };
  const known = curves.y_mm.map((y, i) => ({
    y,
    low: curves.capacity_low_N_mm[i],
    high: curves.capacity_high_N_mm[i],
  }));
  const band = known.filter((k) => k.low != null && k.high != null);
  const at = curves.moment_N_mm.findIndex((m) => Math.abs(m) * safety_factor === peak);
  const carried = curves.capacity_N_mm[Math.max(0, at)];
  const highest = Math.max(0, ...capacity);
  const newton = (v: number) => show(v / 1000, "moment");
  return (
    <g>
      <text x={x0} y={plot.top - 10} fontSize={13}>
        <tspan fontWeight={620}>{TITLES[estimate.reads] ?? "Bending moment"}</tspan>
        <tspan dx={10} style={{ fill: "var(--pick)" }}>
          ■ needed (load × {plain(safety_factor)}), max {newton(peak)}
        </tspan>
        {layout.width > 640 && (
          <tspan dx={14}>━ strength{carried != null ? `, there: ${newton(carried)}` : ""}</tspan>
        )}
      </text>
      <clipPath id="plot-area">
        <rect x={x0} y={plot.top} width={estimate.span_mm * scale} height={plot.bottom - plot.top + 1} />
      </clipPath>
      <g clipPath="url(#plot-area)">
        <polygon
          points={[
            ...band.map((k) => `${px(k.y)},${py(k.high!)}`),
            ...band.map((k) => `${px(k.y)},${py(k.low!)}`).reverse(),
          ].join(" ")}
          fill="var(--ink)"
          opacity={0.11}
        />
        <path
          d={`M${px(0)} ${plot.bottom}${line(asked).replace("M", "L")}L${px(estimate.span_mm)} ${plot.bottom}z`}
          fill="var(--pick)"
          opacity={0.35}
        />
        <path d={line(asked)} stroke="var(--pick)" strokeWidth={1.8} fill="none" />
        <path d={line(curves.capacity_N_mm)} stroke="var(--ink)" strokeWidth={2} fill="none" />
      </g>
      {highest > top && (
        <text
          x={px(estimate.span_mm)}
          y={plot.top + 10}
          fontSize={12}
          textAnchor="end"
          paintOrder="stroke"
          stroke="var(--sheet)"
          strokeWidth={3}
        >
          ↑ strength up to {newton(highest)}
        </text>
      )}
      <path d={`M${x0} ${plot.top}V${plot.bottom}H${px(estimate.span_mm)}`} stroke="var(--ink)" fill="none" />
      <text x={x0 - 6} y={plot.bottom + 4} fontSize={12} textAnchor="end">
        0
      </text>
      <text x={x0 - 6} y={plot.top + 9} fontSize={12} textAnchor="end">
        {bare(top / 1000, "moment")}
      </text>
      <text x={x0 - 6} y={plot.top + 24} fontSize={11} textAnchor="end">
        {unitOf("moment")}
      </text>
    </g>
  );
});
