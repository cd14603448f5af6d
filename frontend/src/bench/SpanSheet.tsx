import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import type { Estimate, Part } from "../api/client";
import { OverPattern } from "../drawing/OverPattern";
import { useWidth } from "../drawing/useWidth";
import { plain } from "../shared/units";
import { layoutOf, type SheetLayout } from "./sheetLayout";
import { BendingPlot } from "./BendingPlot";
import { FrontView } from "./FrontView";
import { Handles } from "./Handles";
import { PlanView } from "./PlanView";

interface Props {
  estimate: Estimate;
  /** The state at the far end of the load slider: the views keep room for it. */
  farthest: Estimate;
  load: number;
  change: (edit: (part: Part) => Part) => void;
  part: Part;
  cursor: number;
  setCursor: (y: number) => void;
  selected: string | null;
  setSelected: (id: string | null) => void;
}

function ScaleBar({ layout }: { layout: SheetLayout }) {
  const { scale, x0, height } = layout;
  const length = [10, 20, 50, 100, 200, 500].find((l) => l * scale >= 70) ?? 1000;
  return (
    <g transform={`translate(${x0} ${height - 12})`}>
      <path
        d={`M0 -4v8M${(length * scale) / 2} -2v4M${length * scale} -4v8M0 0h${length * scale}`}
        stroke="var(--ink)"
        fill="none"
      />
      <text x={length * scale + 8} y={4} fontSize={12}>
        {length} mm
      </text>
    </g>
  );
}

/** The views along the part, on one span axis and under one cursor. */
export function SpanSheet(props: Props) {
  const { estimate, farthest, load, part, change, cursor, setCursor, selected, setSelected } = props;
  const [ref, width] = useWidth<HTMLDivElement>();
  const dragging = useRef(false);
  const layout = layoutOf(farthest, width);
  const chosen = part.layers.find((l) => l.id === selected);
  const toY = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const y = (e.clientX - box.left - layout.x0) / layout.scale;
    setCursor(Math.round(Math.max(0, Math.min(estimate.span_mm, y))));
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
  return (
    <div ref={ref} className="min-w-0 overflow-hidden">
      {width > 0 && (
        <svg
          width={width}
          height={layout.height}
          className="block touch-pan-y select-none"
          role="group"
          aria-label={`${part.name}, drawn to scale`}
          onPointerDown={(e) => {
            dragging.current = true;
            e.currentTarget.setPointerCapture(e.pointerId);
            toY(e);
          }}
          onPointerMove={(e) => dragging.current && toY(e)}
          onPointerUp={() => (dragging.current = false)}
          onPointerCancel={() => (dragging.current = false)}
        >
          <OverPattern />
          <FrontView estimate={estimate} layout={layout} fuselage={part.kind === "fuselage"} />
          <PlanView {...{ estimate, part, layout, load, selected, setSelected }} />
          <BendingPlot estimate={estimate} layout={layout} />
          <ScaleBar layout={layout} />
          {chosen && <Handles part={part} layer={chosen} layout={layout} change={change} />}
          <line
            x1={x}
            x2={x}
            y1={layout.front.top + 4}
            y2={layout.plot.bottom + 6}
            stroke="var(--pick)"
            strokeWidth={1.5}
          />
          <g
            tabIndex={0}
            role="slider"
            aria-label="Place of the cut"
            aria-valuemin={0}
            aria-valuemax={Math.round(estimate.span_mm)}
            aria-valuenow={cursor}
            aria-valuetext={`${cursor} mm from the root`}
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
              {plain(cursor, 4)} mm
            </text>
          </g>
        </svg>
      )}
    </div>
  );
}
