import { useState, type KeyboardEvent, type PointerEvent } from "react";

interface Props {
  /** Where it stands, px in its drawing. */
  at: { x: number; y: number };
  label: string;
  /** What it sets, for those who do not see it, and as it is written beside it. */
  value: number;
  most: number;
  text: string;
  shape: "end" | "across" | "load";
  /** The pointer is here, px in the drawing. */
  onDrag: (x: number, y: number) => void;
  /** Arrow keys: steps to the right and down, ten times as far with Shift. */
  onStep: (right: number, down: number) => void;
  onHold?: (held: boolean) => void;
}

const CURSORS = { end: "cursor-ew-resize", across: "cursor-move", load: "cursor-ew-resize" };

/** A grip on a thing in a drawing: by pointer, by finger, and by keys. */
export function Grip({ at, label, value, most, text, shape, onDrag, onStep, onHold }: Props) {
  const [held, setHeld] = useState(false);
  const hold = (on: boolean) => {
    setHeld(on);
    onHold?.(on);
  };
  const drag = (e: PointerEvent<SVGGElement>) => {
    if (!held) return;
    e.stopPropagation();
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
    onDrag(e.clientX - box.left, e.clientY - box.top);
  };
  const keys = (e: KeyboardEvent) => {
    const size = e.shiftKey ? 10 : 1;
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    if (!way) return;
    e.preventDefault();
    onStep(way[0]! * size, way[1]! * size);
  };
  const below = shape === "across";
  const wide = Math.max(40, text.length * 6.6 + 10);
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={most}
      aria-valuenow={value}
      aria-valuetext={text}
      className={CURSORS[shape]}
      onKeyDown={keys}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        hold(true);
      }}
      onPointerMove={drag}
      onPointerUp={() => hold(false)}
      onPointerCancel={() => hold(false)}
      style={{ touchAction: "none" }}
    >
      <rect x={at.x - 20} y={at.y - 20} width={40} height={40} fill="transparent" />
      {shape === "across" ? (
        <path
          d={`M${at.x} ${at.y - 11}l7 11l-7 11l-7 -11z`}
          fill="var(--raised)"
          stroke="var(--pick)"
          strokeWidth={2.2}
        />
      ) : shape === "end" ? (
        <rect
          x={at.x - 6}
          y={at.y - 8}
          width={12}
          height={16}
          fill="var(--raised)"
          stroke="var(--pick)"
          strokeWidth={2.2}
        />
      ) : (
        <circle
          cx={at.x}
          cy={at.y}
          r={7}
          fill="var(--raised)"
          fillOpacity={0.75}
          stroke="var(--pick)"
          strokeWidth={2}
          strokeDasharray={held ? undefined : "3 2"}
        />
      )}
      {(shape !== "load" || held) && (
        <g pointerEvents="none">
          <rect
            x={at.x - wide / 2}
            y={at.y + (below ? 15 : -32)}
            width={wide}
            height={17}
            fill="var(--sheet)"
            opacity={0.92}
          />
          <text
            x={at.x}
            y={at.y + (below ? 28 : -19)}
            fontSize={12}
            textAnchor="middle"
            style={{ fill: "var(--pick)", fontWeight: 650 }}
          >
            {text}
          </text>
        </g>
      )}
    </g>
  );
}
