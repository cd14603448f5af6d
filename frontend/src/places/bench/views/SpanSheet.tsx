import { useMemo, useRef, useState, type KeyboardEvent, type MouseEvent } from "react";
import type { Estimate, LoadCase, Part } from "../../../api/client";
import { OverPattern } from "../../../charts/OverPattern";
import { useWidth } from "../../../charts/useWidth";
import { show, shownValue, unitOf } from "../../../forms/units";
import { BendingPlot } from "../plan/BendingPlot";
import { ControlGrips } from "../plan/ControlGrips";
import { freePercent } from "../../../part/edits";
import { FrontView } from "../plan/FrontView";
import { Handles } from "../plan/Handles";
import { LoadGrips } from "../plan/LoadGrips";
import { PlanView } from "../plan/PlanView";
import { PutMenu, type Spot } from "../PutMenu";
import { layoutOf, type SheetLayout } from "../plan/sheetLayout";

interface Props {
  estimate: Estimate;
  /** The state at the far end of the load slider: the views keep room for it. */
  farthest: Estimate;
  load: number;
  change: (edit: (part: Part) => Part) => void;
  part: Part;
  chosen: LoadCase;
  cursor: number;
  setCursor: (y: number) => void;
  selected: string | null;
  setSelected: (id: string | null) => void;
  putting: boolean;
  setPutting: (on: boolean) => void;
}

function ScaleBar({ layout }: { layout: SheetLayout }) {
  const { scale, x0, height } = layout;
  const unit = 1 / shownValue(1, "length");
  const steps = unit === 1 ? [10, 20, 50, 100, 200, 500, 1000] : [0.5, 1, 2, 5, 10, 20, 40];
  const length = steps.find((l) => l * unit * scale >= 70) ?? steps.at(-1)!;
  const px = length * unit * scale;
  return (
    <g transform={`translate(${x0} ${height - 12})`}>
      <path d={`M0 -4v8M${px / 2} -2v4M${px} -4v8M0 0h${px}`} stroke="var(--ink)" fill="none" />
      <text x={px + 8} y={4} fontSize={12}>
        {length} {unitOf("length")}
      </text>
    </g>
  );
}

/** The views along the part, on one span axis and under one cursor. */
export function SpanSheet(props: Props) {
  const { estimate, farthest, load, part, chosen, change, cursor, setCursor, selected, setSelected } = props;
  const { putting, setPutting } = props;
  const [ref, width] = useWidth<HTMLDivElement>();
  const dragging = useRef(false);
  const [pressed, setPressed] = useState<Spot | null>(null);
  const layout = useMemo(() => layoutOf(farthest, width), [farthest, width]);
  const layer = part.layers.find((l) => l.id === selected);
  const alongOf = (e: { clientX: number; currentTarget: Element }) => {
    const box = e.currentTarget.getBoundingClientRect();
    const y = (e.clientX - box.left - layout.x0) / layout.scale;
    return Math.round(Math.max(0, Math.min(estimate.span_mm, y)));
  };
  const press = (e: MouseEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const top = e.clientY - box.top;
    if (top < layout.plan.top - 10 || top > layout.plan.bottom + 10) return;
    const y = alongOf(e);
    const chord = part.root_chord_mm + ((part.tip_chord_mm - part.root_chord_mm) * y) / part.span_mm;
    const nose = layout.plan.nose + ((part.tip_setback_mm * y) / part.span_mm) * layout.scale;
    setPressed({
      y,
      percent: (100 * (top - nose)) / (chord * layout.scale),
      left: e.clientX - box.left,
      top,
    });
    setPutting(true);
  };
  const onKey = (e: KeyboardEvent) => {
    const step = e.shiftKey ? 25 : 5;
    const moves: Record<string, number> = {
      ArrowLeft: cursor - step,
      ArrowDown: cursor - step,
      ArrowRight: cursor + step,
      ArrowUp: cursor + step,
      Home: 0,
      End: estimate.span_mm,
    };
    const to = moves[e.key];
    if (to === undefined) return;
    e.preventDefault();
    setCursor(Math.max(0, Math.min(estimate.span_mm, to)));
  };
  const x = layout.x0 + cursor * layout.scale;
  const spot: Spot = pressed ?? {
    y: cursor,
    percent: freePercent(part),
    left: x,
    top: layout.plan.bottom - 4,
  };
  return (
    <div ref={ref} className="relative min-w-0 overflow-hidden">
      {width > 0 && (
        <svg
          width={width}
          height={layout.height}
          className="block touch-pan-y select-none"
          role="group"
          aria-label={`${part.name}, drawn to scale`}
          onDoubleClick={press}
          onPointerDown={(e) => {
            dragging.current = true;
            e.currentTarget.setPointerCapture(e.pointerId);
            setCursor(alongOf(e));
          }}
          onPointerMove={(e) => dragging.current && setCursor(alongOf(e))}
          onPointerUp={() => (dragging.current = false)}
          onPointerCancel={() => (dragging.current = false)}
        >
          <OverPattern />
          <FrontView estimate={estimate} layout={layout} fuselage={part.kind === "fuselage"} />
          <PlanView {...{ estimate, part, layout, load, selected, setSelected }} />
          <BendingPlot estimate={estimate} layout={layout} />
          <ScaleBar layout={layout} />
          <LoadGrips {...{ part, chosen, estimate, layout, change }} />
          <ControlGrips {...{ part, layout, change }} />
          {layer && <Handles {...{ part, layer, layout, change }} />}
          <line
            x1={x}
            x2={x}
            y1={layout.front.top + 4}
            y2={layout.plot.bottom + 6}
            stroke="var(--pick)"
            strokeWidth={1.5}
            pointerEvents="none"
          />
          <g
            tabIndex={0}
            role="slider"
            aria-label="Cross-section position"
            aria-valuemin={0}
            aria-valuemax={Math.round(estimate.span_mm)}
            aria-valuenow={cursor}
            aria-valuetext={`${show(cursor, "length", 4)} from the root`}
            onKeyDown={onKey}
            className="cursor-ew-resize"
          >
            <rect x={x - 20} y={layout.front.top - 16} width={40} height={40} fill="transparent" />
            <path d={`M${x - 8} ${layout.front.top - 8}h16l-8 12z`} fill="var(--pick)" />
            <text
              x={x + 12}
              y={layout.front.top + 1}
              fontSize={13}
              style={{ fill: "var(--pick)", fontWeight: 650 }}
            >
              {show(cursor, "length", 4)}
            </text>
          </g>
        </svg>
      )}
      {width > 0 && (
        <PutMenu
          {...{ spot, part, change, setSelected }}
          open={putting}
          setOpen={(open) => {
            setPutting(open);
            if (!open) setPressed(null);
          }}
        />
      )}
    </div>
  );
}
